"""Links that open one thing for a while without signing in: an athlete's own questions, or one rack's sessions."""

from __future__ import annotations

import re

from django.http import HttpRequest

from jarvok.app.accounts.links import OVER, find, make
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.people.models import Link, LinkKind, Person
from jarvok.app.facts.room.models import Attendance, Gathering
from jarvok.app.room.telling import check_rack
from jarvok.core.errors import CoachError

READY_HOURS, RACK_HOURS = 4, 8  # [J] an arrival, and a training day
HEADER, COOKIE = "X-Rack-Link", "jarvok_rack"


def ready_link(attendance: Attendance, maker: Person | None) -> str:
    """Return the token of a link to one athlete's questions of the day; it acts for the person who made it."""
    return make(LinkKind.READY, maker, READY_HOURS, attendance=attendance)[1]


def attendance_of(token: str) -> Attendance:
    """Return the attendance a link opens. Raises `CoachError` when it is over or made up."""
    link = find(token, LinkKind.READY)
    if link is None or link.attendance_id is None:
        raise OVER
    return Attendance.objects.select_related("athlete__squad", "gathering").get(pk=link.attendance_id)


def rack_link(gathering: Gathering, rack: int, maker: Person | None) -> str:
    """Return the token of a link to one rack of a gathering; it acts for the person who made it.

    Raises `CoachError` where there is no such rack.
    """
    check_rack(gathering, rack)
    return make(LinkKind.RACK, maker, RACK_HOURS, gathering=gathering, rack=rack)[1]


def link_of(token: str) -> Link | None:
    """Return the link of a rack or of questions, None for one that is over."""
    return find(token, LinkKind.RACK, LinkKind.READY)


def rack_token(request: HttpRequest) -> str:
    """Return the rack's link that a request carries, or nothing.

    Reading may carry it as the cookie that opening the link has set: an event stream has no header of its own, and a secret
    does not stand in an address. Writing always names it.
    """
    named = request.headers.get(HEADER, "")
    return named or (request.COOKIES.get(COOKIE, "") if request.method == "GET" else "")


def rack_of(token: str) -> tuple[int, int]:
    """Return the gathering and the rack a link opens. Raises `CoachError` when it is over or made up."""
    link = find(token, LinkKind.RACK)
    if link is None or link.gathering_id is None or link.rack is None:
        raise OVER
    return link.gathering_id, link.rack


_SESSION = re.compile(
    r"^/api/floor/sessions/(\d+)(/(sets|sets/correct|advice/\d+|lines|lines/\d+/(stop|instead|skip|more|swap|swaps)|(?:reps|readings)/\d+/(out|back|move)|undo|stop-here|events))?$"
)
_ROOM = re.compile(
    r"^/api/room/(\d+)/(racks/(\d+)(/(ahead|joining|join|leave|order|compete|clock(?:/\d+/(?:pause|go|stop))?))?|events|silent)$"
)
_MAY_WRITE = frozenset({"join", "leave", "order", "clock"})


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
            and (method == "GET" or (room[5] or "").split("/")[0] in _MAY_WRITE)
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
