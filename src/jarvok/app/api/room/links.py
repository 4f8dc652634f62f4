"""Links that open one rack, or one athlete's questions, over HTTP."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.lanes import lanes_out
from jarvok.app.api.room.rooms import AREA_CHOICES, QUESTION_CHOICES, asked_of, gathering_of
from jarvok.app.api.room.shapes import AnswersIn, LanesOut, LinkOut, ReadyOut
from jarvok.app.api.who import who_by_link, who_of
from jarvok.app.floor.pains import open_before
from jarvok.app.once import once
from jarvok.app.room.actions import keep_answers
from jarvok.app.room.links import RACK_HOURS, READY_HOURS, attendance_of, rack_link, rack_of, ready_link
from jarvok.core.errors import CoachError

router = Router(tags=["links"])


def _maker(request: HttpRequest) -> int | None:
    person = who_of(request).person
    return person.pk if person is not None else None


@router.post("/room/{int:room_id}/racks/{int:rack}/link", response={200: LinkOut, **ERRORS})
def make_rack_link(request: HttpRequest, room_id: int, rack: int) -> LinkOut:
    return LinkOut(path=f"/rack/{rack_link(gathering_of(room_id), rack, _maker(request))}", hours=RACK_HOURS)


@router.get("/rack-links/{token}", response={200: LanesOut, **ERRORS}, auth=None)
def open_rack_link(request: HttpRequest, token: str) -> LanesOut:
    """What a rack's link opens: that rack, nothing else."""
    gathering_id, rack = rack_of(token)
    return lanes_out(gathering_of(gathering_id), rack)


@router.post("/room/{int:room_id}/ready-link/{int:athlete_id}", response={200: LinkOut, **ERRORS})
def make_ready_link(request: HttpRequest, room_id: int, athlete_id: int) -> LinkOut:
    attendance = gathering_of(room_id).attendances.filter(athlete_id=athlete_id).first()
    if attendance is None:
        raise CoachError("This athlete is not of this squad.", where="athlete_id")
    return LinkOut(path=f"/ready/{ready_link(attendance, _maker(request))}", hours=READY_HOURS)


def _ready(token: str) -> ReadyOut:
    attendance = attendance_of(token)
    last = attendance.answers.last()
    return ReadyOut(
        name=attendance.athlete.name,
        squad=attendance.athlete.squad.name,
        day=attendance.gathering.day,
        questions=QUESTION_CHOICES,
        areas=AREA_CHOICES,
        said=AnswersIn(**last.data) if last else None,
        open_pain=asked_of(open_before(attendance.athlete_id, attendance.gathering.day)),
    )


@router.get("/ready/{token}", response={200: ReadyOut, **ERRORS}, auth=None)
def read_ready(request: HttpRequest, token: str) -> ReadyOut:
    """The questions of one athlete on one day; nothing else is shown."""
    return _ready(token)


@router.post("/ready/{token}", response={200: ReadyOut, **ERRORS}, auth=None)
def say_ready(request: HttpRequest, token: str, payload: AnswersIn, idempotency_key: IdempotencyKey) -> ReadyOut:
    attendance = attendance_of(token)

    def do() -> dict[str, Any]:
        keep_answers.run(who_by_link(token), attendance, payload.dict(), by_athlete=True)
        return {}

    once(idempotency_key, {"ready": attendance.pk, **payload.dict()}, do)
    return _ready(token)
