"""The events of a whole gathering, so that one page with eight racks keeps one connection."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse

from jarvok.app.floor.live_views import event_stream
from jarvok.app.floor.models import TrainingSession
from jarvok.app.room.links import rack_auth
from jarvok.app.room.models import Gathering
from jarvok.app.room.services import room_key


def _may(request: HttpRequest, room_id: int) -> Gathering | None:
    if not request.user.is_authenticated and rack_auth(request) is None:
        return None
    return Gathering.objects.filter(pk=room_id).first()


def _who(gathering: Gathering) -> tuple[set[int], set[int]]:
    athletes = gathering.attendances.values("athlete_id")
    sessions = set(TrainingSession.objects.filter(day=gathering.day, athlete_id__in=athletes).values_list("pk", flat=True))
    return sessions, sessions | {room_key(gathering.pk)}


async def room_events(request: HttpRequest, room_id: int) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events of everybody at a gathering, and a plain word when the room itself has changed."""
    gathering = await sync_to_async(_may)(request, room_id)
    if gathering is None:
        body = {"title": "Sign in first.", "status": 401, "where": "", "accepted": "", "position": None, "suggestion": ""}
        return JsonResponse(body, status=401, content_type="application/problem+json")
    return event_stream(request, lambda: sync_to_async(_who)(gathering))
