"""The events of a whole gathering, so that one page with eight racks keeps one connection."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

from jarvok.app.api.floor.live import event_stream, problem_answer
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.links import rack_auth, rack_of
from jarvok.app.room.telling import room_key


def _may(request: HttpRequest, room_id: int) -> tuple[Gathering, int | None] | None:
    """The gathering, and the one rack that a link may hear of; None for a stranger."""
    rack = None
    if not request.user.is_authenticated:
        token = rack_auth(request)
        if token is None:
            return None
        rack = rack_of(token)[1]
    gathering = Gathering.objects.filter(pk=room_id).first()
    return (gathering, rack) if gathering is not None else None


def _who(gathering: Gathering, rack: int | None) -> tuple[set[int], set[int]]:
    attendances = gathering.attendances.all() if rack is None else gathering.attendances.filter(rack=rack)
    athletes = attendances.values("athlete_id")
    sessions = set(TrainingSession.objects.filter(day=gathering.day, athlete_id__in=athletes).values_list("pk", flat=True))
    return sessions, sessions | {room_key(gathering.pk)}


async def room_events(request: HttpRequest, room_id: int) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events of everybody at a gathering (of one rack over its link), and a word when the room has changed."""
    found = await sync_to_async(_may)(request, room_id)
    if found is None:
        return problem_answer("Sign in first.", 401)
    return event_stream(request, lambda: sync_to_async(_who)(*found))
