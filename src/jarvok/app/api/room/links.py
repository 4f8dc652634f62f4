"""Links that open one rack, or one athlete's questions, over HTTP."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.lanes import lanes_out
from jarvok.app.api.room.rooms import AREA_CHOICES, QUESTION_CHOICES, asked_of, gathering_of
from jarvok.app.api.room.shapes import AnswersIn, LanesOut, LinkOut, ReadyOut
from jarvok.app.api.who import who_by_link, who_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Attendance
from jarvok.app.floor.pains import open_before
from jarvok.app.once import once
from jarvok.app.room.actions import expect, keep_answers
from jarvok.app.room.links import COOKIE, RACK_HOURS, READY_HOURS, attendance_of, rack_link, rack_of, ready_link

router = Router(tags=["links"])


@router.post("/room/{int:room_id}/racks/{int:rack}/link", response={200: LinkOut, **ERRORS})
def make_rack_link(request: HttpRequest, room_id: int, rack: int) -> LinkOut:
    return LinkOut(path=f"/rack/{rack_link(gathering_of(room_id), rack, who_of(request).person)}", hours=RACK_HOURS)


@router.get("/rack-links/{token}", response={200: LanesOut, **ERRORS}, auth=None)
def open_rack_link(request: HttpRequest, response: HttpResponse, token: str) -> LanesOut:
    """What a rack's link opens: that rack, nothing else."""
    gathering_id, rack = rack_of(token)
    response.set_cookie(
        COOKIE, token, max_age=RACK_HOURS * 3600, httponly=True, samesite="Strict", secure=request.is_secure(), path="/api/"
    )
    return lanes_out(gathering_of(gathering_id), rack)


@router.post("/room/{int:room_id}/ready-link/{int:athlete_id}", response={200: LinkOut, **ERRORS})
def make_ready_link(request: HttpRequest, room_id: int, athlete_id: int) -> LinkOut:
    attendance = expect.run(who_of(request), gathering_of(room_id), athlete_id)
    return LinkOut(path=f"/ready/{ready_link(attendance, who_of(request).person)}", hours=READY_HOURS)


def ready_out(athlete: Athlete, day: date, attendance: Attendance | None) -> ReadyOut:
    """The questions of one athlete on one day, with what was said last."""
    last = attendance.answers.last() if attendance is not None else None
    return ReadyOut(
        name=athlete.name,
        squad=athlete.squad.name,
        day=day,
        questions=QUESTION_CHOICES,
        areas=AREA_CHOICES,
        said=AnswersIn(**last.data) if last else None,
        open_pain=asked_of(open_before(athlete.pk, day)),
    )


@router.get("/ready/{token}", response={200: ReadyOut, **ERRORS}, auth=None)
def read_ready(request: HttpRequest, token: str) -> ReadyOut:
    """The questions of one athlete on one day; nothing else is shown."""
    attendance = attendance_of(token)
    return ready_out(attendance.athlete, attendance.gathering.day, attendance)


@router.post("/ready/{token}", response={200: ReadyOut, **ERRORS}, auth=None)
def say_ready(request: HttpRequest, token: str, payload: AnswersIn, idempotency_key: IdempotencyKey) -> ReadyOut:
    attendance = attendance_of(token)

    def do() -> dict[str, Any]:
        keep_answers.run(who_by_link(token), attendance, payload.dict(), by_athlete=True)
        return {}

    once(idempotency_key, {"ready": attendance.pk, **payload.dict()}, do)
    attendance = attendance_of(token)
    return ready_out(attendance.athlete, attendance.gathering.day, attendance)
