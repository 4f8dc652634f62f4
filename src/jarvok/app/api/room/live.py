"""The events of a whole gathering, so that one page with eight racks keeps one connection."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

from jarvok.app.accounts.permission import person_of
from jarvok.app.api.floor.live import Still, event_stream, hearer, problem_answer
from jarvok.app.facts.room.models import Gathering
from jarvok.app.facts.writing import given_back
from jarvok.app.problems import Refused
from jarvok.app.room.links import rack_of, rack_token
from jarvok.app.room.telling import room_key, sessions_at


def _may(request: HttpRequest, room_id: int) -> tuple[Gathering, int | None, Still] | None:
    """The gathering, the one rack that a link may hear of, and whether it still may; None for a stranger."""
    still = hearer(request)
    gathering = Gathering.objects.filter(pk=room_id).first()
    if still is None or gathering is None:
        return None
    rack = rack_of(rack_token(request))[1] if person_of(request) is None else None
    return gathering, rack, still


def _who(gathering: Gathering, rack: int | None) -> tuple[set[int], set[int]]:
    sessions = sessions_at(gathering, rack)
    return sessions, sessions | {room_key(gathering.pk)}


async def room_events(request: HttpRequest, room_id: int) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events of everybody at a gathering (of one rack over its link), and a word when the room has changed."""
    try:
        found = await sync_to_async(given_back(_may))(request, room_id)
    except Refused as refused:
        return problem_answer(str(refused), 403)
    if found is None:
        return problem_answer("Sign in first.", 401)
    gathering, rack, still = found
    return event_stream(request, lambda: sync_to_async(given_back(_who))(gathering, rack), still)
