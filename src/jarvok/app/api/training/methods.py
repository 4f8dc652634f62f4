"""One line by each of the eight loading methods, and picking one for the line or the block."""

from __future__ import annotations

from datetime import date
from typing import Literal

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.shapes import ResolvedSetOut, WorkingOut, resolved_out, working_out
from jarvok.app.training.actions import choose_method
from jarvok.app.training.actions import drop_method as drop_method_of_block
from jarvok.app.training.kept_athlete import reader_of
from jarvok.app.training.lookup import find_sheet, line_of
from jarvok.app.training.planned_weeks import read_again
from jarvok.app.training.sheets import choice_for
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.compare import Compared, compare, intent_of, suggest
from jarvok.core.loading.methods import METHOD_BY_KEY
from jarvok.core.loading.shorthand import write
from jarvok.core.loading.until_miss import until_miss
from jarvok.core.marks.conditions import from_raw

router = Router(tags=["methods"])


class MethodRow(Schema):
    key: str
    name: str
    how: str
    good_for: str
    limits: str
    text: str
    sets: list[ResolvedSetOut]
    speaks: bool
    missing: list[str]
    remark: str
    is_current: bool
    is_suggested: bool


class UntilMissOut(Schema):
    """A line done until it is missed: as it would be written, the round in which the miss is expected, how it came about."""

    text: str
    round: int
    working: WorkingOut


class MethodsOut(Schema):
    athlete_id: int
    athlete_name: str
    day: date
    days_to_go: int
    key: str
    line: str
    slot: str
    exercise: str
    text: str
    meant: str
    suggested: str
    why: str
    rows: list[MethodRow]
    block_name: str
    block_until: date
    block_method: str
    block_rests: bool
    can_change: bool


class PickMethod(Schema):
    method: str
    scope: Literal["line", "block"]
    reason: str = ""


def _row(found: Compared, suggested: str) -> MethodRow:
    return MethodRow(
        key=found.method.key,
        name=found.method.name,
        how=found.method.how,
        good_for=found.method.good_for,
        limits=found.method.limits,
        text=write(found.line) if found.line else "",
        sets=[resolved_out(s) for s in found.sets],
        speaks=found.speaks,
        missing=list(found.missing),
        remark=found.remark,
        is_current=found.is_current,
        is_suggested=found.method.key == suggested,
    )


def _methods(athlete: Athlete, day: date, key: str, name: str) -> MethodsOut:
    week, sheet = find_sheet(athlete, day, key)
    line = line_of(sheet, name)
    state = LiftBook([athlete], clock.today()).state(athlete.pk, line.planned.exercise_id)
    intent = intent_of(line.prescription, state)
    suggested, why = suggest(line.prescription, state)
    choice = choice_for(athlete, line.planned.exercise_id, day)
    phase = next(p for p in week.plan.phases if p.key is week.week.phase)
    share = f", about {100 * intent.share:.0f} % of the max" if intent.share else ""
    reps = "1 rep" if intent.reps == 1 else f"{intent.reps} reps"
    return MethodsOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        day=day,
        days_to_go=(week.week.competition_day - day).days,
        key=key,
        line=line.planned.line_id,
        slot=line.planned.slot,
        exercise=exercise(line.planned.exercise_id).name,
        text=line.text,
        meant=f"{reps} with {intent.rir:g}{' or more' if intent.rir >= 4 else ''} in reserve{share}",
        suggested=METHOD_BY_KEY[suggested].name,
        why=why,
        rows=[_row(c, suggested) for c in compare(line.prescription, state)],
        block_name=phase.name,
        block_until=phase.end,
        block_method=METHOD_BY_KEY[choice.method].name if choice else "",
        block_rests=choice is not None and line.choice is None,
        can_change=sheet.started is None,
    )


PATH = "/athletes/{int:athlete_id}/sessions/{day}/{key}/lines/{line}/methods"


@router.get(PATH, response={200: MethodsOut, **ERRORS})
def read_methods(request: HttpRequest, athlete_id: int, day: date, key: str, line: str) -> MethodsOut:
    return _methods(reader_of(athlete_id), day, key, line)


@router.put(PATH, response={200: MethodsOut, **ERRORS})
def pick_method(request: HttpRequest, athlete_id: int, day: date, key: str, line: str, payload: PickMethod) -> MethodsOut:
    athlete = athlete_of(athlete_id)
    choose_method.run(who_of(request), athlete, day, key, line, payload.method, payload.scope, payload.reason)
    return _methods(read_again(athlete), day, key, line)


@router.delete(PATH, response={200: MethodsOut, **ERRORS})
def drop_method(request: HttpRequest, athlete_id: int, day: date, key: str, line: str) -> MethodsOut:
    athlete = athlete_of(athlete_id)
    drop_method_of_block.run(who_of(request), athlete, day, key, line)
    return _methods(read_again(athlete), day, key, line)


@router.get("/athletes/{int:athlete_id}/sessions/{day}/{key}/lines/{line}/until-miss", response={200: UntilMissOut, **ERRORS})
def propose_until_miss(
    request: HttpRequest, athlete_id: int, day: date, key: str, line: str, rounds: int = 8, every_s: int = 90
) -> UntilMissOut:
    """First load and step of a lift done until it is missed, for a miss in the wanted round."""
    athlete = athlete_of(athlete_id)
    week, sheet = find_sheet(athlete, day, key)
    planned = line_of(sheet, line).planned
    state = week.book.state(athlete.pk, planned.exercise_id, from_raw(dict(planned.conditions)))
    found = until_miss(state, planned.prescription.groups[0].reps or 1, rounds, every_s)
    return UntilMissOut(text=found.text, round=found.round, working=working_out(found.working))
