"""Links that open one thing for a while without signing in: an athlete's own questions, or one rack's sessions."""

from __future__ import annotations

import re

from django.core import signing
from django.http import HttpRequest

from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Attendance, Gathering
from jarvok.core.errors import CoachError

READY_HOURS, RACK_HOURS = 4, 8  # [J] an arrival, and a training day
HEADER, PARAMETER = "X-Rack-Link", "link"
_READY, _RACK = "jarvok.ready", "jarvok.rack"
OVER = CoachError("This link is over or was never valid.", where="link", accepted="Ask the coach for a new one.")


def ready_link(attendance: Attendance, maker_id: int | None) -> str:
    """Return the token of a link to one athlete's questions of the day; it acts for the person who made it."""
    return signing.dumps({"a": attendance.pk, "p": maker_id}, salt=_READY)


def attendance_of(token: str) -> Attendance:
    """Return the attendance a link opens. Raises `CoachError` when it is over or made up."""
    try:
        found = signing.loads(token, salt=_READY, max_age=READY_HOURS * 3600)
        return Attendance.objects.select_related("athlete__squad", "gathering").get(pk=found["a"])
    except (signing.BadSignature, Attendance.DoesNotExist, KeyError, TypeError):
        raise OVER from None


def rack_link(gathering: Gathering, rack: int, maker_id: int | None) -> str:
    """Return the token of a link to one rack of a gathering; it acts for the person who made it."""
    return signing.dumps({"g": gathering.pk, "r": rack, "p": maker_id}, salt=_RACK)


def maker_of(token: str) -> int:
    """Return the id of the person who made a link, 0 where it does not say; whether it is over is asked elsewhere."""
    for salt in (_RACK, _READY):
        try:
            return int(signing.loads(token, salt=salt).get("p") or 0)
        except (signing.BadSignature, AttributeError, TypeError, ValueError):
            continue
    return 0


def rack_token(request: HttpRequest) -> str:
    """Return the rack's link that a request carries, or nothing."""
    return request.headers.get(HEADER) or request.GET.get(PARAMETER) or ""


def rack_of(token: str) -> tuple[int, int]:
    """Return the gathering and the rack a link opens. Raises `CoachError` when it is over or made up."""
    try:
        found = signing.loads(token, salt=_RACK, max_age=RACK_HOURS * 3600)
        return int(found["g"]), int(found["r"])
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        raise OVER from None


_SESSION = re.compile(
    r"^/api/floor/sessions/(\d+)(/(sets|sets/correct|advice/\d+|lines|lines/\d+/(stop|instead|skip|more|swap|swaps)|reps/\d+/(out|back|move)|undo|stop-here|events))?$"
)
_ROOM = re.compile(r"^/api/room/(\d+)/(racks/(\d+)(/(joining|join|leave|order|compete))?|events|clocks)$")
_MAY_WRITE = frozenset({"join", "leave", "order"})


def opens(token: str, path: str, method: str) -> bool:
    """Whether a rack's link opens a path: the sessions of its athletes on its day, and the rack's own lane."""
    try:
        gathering_id, rack = rack_of(token)
    except CoachError:
        return False
    room = _ROOM.match(path)
    if room is not None:
        return (
            int(room[1]) == gathering_id
            and (room[3] is None or int(room[3]) == rack)
            and (method == "GET" or room[5] in _MAY_WRITE)
        )
    session = _SESSION.match(path)
    if session is None:
        return False
    gathering = Gathering.objects.filter(pk=gathering_id).first()
    if gathering is None:
        return False
    athletes = Attendance.objects.filter(gathering=gathering, rack=rack).values("athlete_id")
    return TrainingSession.objects.filter(pk=int(session[1]), day=gathering.day, athlete_id__in=athletes).exists()


def rack_auth(request: HttpRequest) -> str | None:
    """Let a request through that carries a rack's link and asks for nothing else than that rack."""
    token = rack_token(request)
    return token if token and opens(token, request.path, request.method or "GET") else None
