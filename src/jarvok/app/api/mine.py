"""What an athlete with an account of their own sees: their sessions, and the questions of the day."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.permission import athletes_seen, person_of
from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.links import ready_out
from jarvok.app.api.room.shapes import AnswersIn, ReadyOut
from jarvok.app.api.today.sessions import days_of
from jarvok.app.api.today.shapes import TodaySession
from jarvok.app.api.who import who_of
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Role
from jarvok.app.facts.room.models import Gathering
from jarvok.app.once import once
from jarvok.app.problems import Conflict, Refused
from jarvok.app.room.actions import expect, keep_answers
from jarvok.app.schema import Schema

router = Router(tags=["mine"])


class MineOut(Schema):
    """`ready` is there while the room of the squad is open today."""

    athlete_id: int
    name: str
    squad: str
    may_log: bool
    today: list[TodaySession]
    ahead: list[TodaySession]
    ready: ReadyOut | None


def _athlete(request: HttpRequest) -> Athlete:
    person = person_of(request)
    if person is None or person.role != Role.ATHLETE:
        raise Refused("This page is for athletes.")
    found = read_for_a_week(athletes_seen(person))
    if not found:
        raise Conflict("Your account belongs to no athlete any more. Ask the head of the centre.")
    return found[0]


def _room(athlete: Athlete) -> Gathering | None:
    return Gathering.objects.filter(squad=athlete.squad, day=clock.today()).first()


def _ready(athlete: Athlete) -> ReadyOut | None:
    room = _room(athlete)
    return None if room is None else ready_out(athlete, room.day, room.attendances.filter(athlete=athlete).first())


@router.get("/mine", response={200: MineOut, **ERRORS})
def read_mine(request: HttpRequest) -> MineOut:
    athlete = _athlete(request)
    person = person_of(request)
    sessions = days_of(athlete)
    return MineOut(
        athlete_id=athlete.pk,
        name=athlete.name,
        squad=athlete.squad.name,
        may_log=person is not None and person.may_log,
        today=[s for s in sessions if s.day == clock.today()],
        ahead=[s for s in sessions if s.day > clock.today()],
        ready=_ready(athlete),
    )


@router.post("/mine/answers", response={200: MineOut, **ERRORS})
def say_mine(request: HttpRequest, payload: AnswersIn, idempotency_key: IdempotencyKey) -> MineOut:
    """Answer the questions of the day oneself."""
    athlete = _athlete(request)
    room = _room(athlete)
    if room is None:
        raise Conflict("The room of your squad is not open today. Tell your coach how you are.")
    attendance = expect.run(who_of(request), room, athlete.pk)

    def do() -> dict[str, Any]:
        keep_answers.run(who_of(request), attendance, payload.dict(), by_athlete=True)
        return {}

    once(idempotency_key, {"mine": attendance.pk, **payload.dict()}, do)
    return read_mine(request)
