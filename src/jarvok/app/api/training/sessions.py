"""Changing whole sessions: lines, blocks, days, copies, the arrangement of the week, undo, flags."""

from __future__ import annotations

from datetime import date
from typing import Literal

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.training.plan import week_answer
from jarvok.app.api.training.shapes import SheetOut, WeekAnswer
from jarvok.app.api.training.sheet import sheet_out
from jarvok.app.api.who import who_of
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import FlagWord
from jarvok.app.facts.training.models import Template
from jarvok.app.schema import Schema
from jarvok.app.seasons.actions import ask_flag_again, keep_flag
from jarvok.app.training.actions import (
    arrange_week,
    carry_block,
    copy_session,
    edit_session,
    fix_session,
    put_block,
    restore_session,
    take_out_session,
    undo_plan,
)
from jarvok.app.training.actions import begin_session as begin
from jarvok.app.training.actions import copy_week as copy_week_action
from jarvok.app.training.actions import move_line as move_line_action
from jarvok.app.training.edits import Edit, Op
from jarvok.app.training.lookup import find_sheet, near
from jarvok.app.training.planned_weeks import read_again
from jarvok.app.training.written import athletes_for
from jarvok.core.loading.goals import GOALS, SOURCE
from jarvok.core.season.model import monday_of
from jarvok.core.session.blocks import FIGURE_NAMES, GROUPINGS, LIMITS
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS

router = Router(tags=["sessions"])
SHEET = "/athletes/{int:athlete_id}/sessions/{day}/{key}"


class NewSession(Schema):
    day: date
    theme: str = ""


class EditIn(Schema):
    """One change of a session. `op` says which; the other fields are what it needs."""

    op: Literal[
        "add", "drop", "replace", "write", "note", "conditions", "move", "regroup", "rename", "round", "levels", "type", "starts",
        "rename_block", "move_block", "copy_block", "drop_block",
    ]  # fmt: skip
    line: str = ""  # its id, or the slot it stands in
    exercise_id: str = ""
    text: str = ""
    block: str = ""
    to: str = ""
    is_main: bool = False
    grouping: str = ""
    rest_inside_s: int | None = None
    rest_between_s: int | None = None
    minutes: int | None = None
    bpm: int | None = None
    beats: int | None = None
    every_s: int | None = None
    rounds: int | None = None
    number: int = 0
    note: str = ""
    easier: str = ""
    harder: str = ""
    conditions: dict[str, str] = {}


class LineTo(Schema):
    day: date


class BlockTo(Schema):
    """A block on another day; `keep` leaves it where it is too."""

    block: str
    day: date
    keep: bool = False


class BlockOf(Schema):
    template_id: int


class CopyIn(Schema):
    day: date
    scope: str = "athlete"
    to_athlete: int | None = None


class CopyOut(Schema):
    done: list[str]
    left: list[str]


class ArrangeIn(Schema):
    arrangement: str
    days: int = 0
    scope: str = "athlete"
    only_this_week: date | None = None
    by_order: bool | None = None


class UndoneOut(Schema):
    words: str


class KeepIn(Schema):
    check_id: str
    where: str
    reason: str


class FixIn(Schema):
    kind: str
    values: dict[str, str | float | bool | None]


class LineGoalOut(Schema):
    goal: str
    words: str
    source: str


class GroupFigureOut(Schema):
    """A figure a grouping can be given: its name, its unit in the words, and what is accepted."""

    key: str
    name: str
    least: int
    most: int


class GroupingOut(Schema):
    key: str
    name: str
    words: str
    least: int
    most: int
    needs: str
    figures: list[GroupFigureOut]


class WeekArrangementOut(Schema):
    key: str
    name: str
    days: list[int]
    how: str
    good_for: str
    weakness: str
    is_sequence: bool
    asks: str  # its entry conditions
    asks_months: int
    not_met: str  # what the athlete asked for lacks of them


def _sheet(athlete: Athlete, day: date, key: str) -> SheetOut:
    return sheet_out(athlete, *find_sheet(read_again(athlete), day, key))


@router.get("/week-arrangements", response={200: list[WeekArrangementOut], **ERRORS})
def read_week_arrangements(request: HttpRequest, athlete_id: int | None = None) -> list[WeekArrangementOut]:
    """The arrangements of the week: what each is good and bad for, what it asks for, and what an athlete lacks of that."""
    who = get_object_or_404(Athlete, pk=athlete_id) if athlete_id is not None else None
    return [
        WeekArrangementOut(
            key=a.key,
            name=a.name,
            days=list(a.days),
            how=a.how,
            good_for=a.good_for,
            weakness=a.weakness,
            is_sequence=a.is_sequence,
            asks=a.asks,
            asks_months=a.asks_months,
            not_met=a.not_met(who.years_of_lifting_on(clock.today())) if who is not None else "",
        )
        for a in WEEK_ARRANGEMENTS
    ]


@router.get("/goals", response={200: list[LineGoalOut], **ERRORS})
def read_goals(request: HttpRequest) -> list[LineGoalOut]:
    """Shares of the max and repetitions by goal, as named defaults."""
    return [LineGoalOut(goal=g.goal, words=g.words, source=SOURCE.text) for g in GOALS.values()]


@router.get("/groupings", response={200: list[GroupingOut], **ERRORS})
def read_groupings(request: HttpRequest) -> list[GroupingOut]:
    """The ways to group the lines of a block."""
    return [
        GroupingOut(
            key=k,
            name=g.name,
            words=g.words,
            least=g.least,
            most=g.most,
            needs=g.needs,
            figures=[GroupFigureOut(key=f, name=FIGURE_NAMES[f], least=LIMITS[f][0], most=LIMITS[f][1]) for f in g.figures],
        )
        for k, g in GROUPINGS.items()
    ]


@router.post("/athletes/{int:athlete_id}/sessions", response={200: SheetOut, **ERRORS})
def begin_session(request: HttpRequest, athlete_id: int, payload: NewSession) -> SheetOut:
    athlete = athlete_of(athlete_id)
    key = begin.run(who_of(request), athlete, payload.day, payload.theme)
    return _sheet(athlete, payload.day, key)


@router.post(SHEET + "/edit", response={200: SheetOut, **ERRORS})
def edit(request: HttpRequest, athlete_id: int, day: date, key: str, payload: EditIn) -> SheetOut:
    athlete = athlete_of(athlete_id)
    edit_session.run(who_of(request), athlete, day, key, Edit(**{**payload.dict(), "op": Op(payload.op)}))
    return _sheet(athlete, day, key)


@router.post(SHEET + "/lines/{line}/move", response={200: WeekAnswer, **ERRORS})
def move_line(request: HttpRequest, athlete_id: int, day: date, key: str, line: str, payload: LineTo) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    move_line_action.run(who_of(request), athlete, day, key, line, payload.day)
    return week_answer(read_again(athlete), monday_of(day))


@router.post(SHEET + "/blocks/carry", response={200: WeekAnswer, **ERRORS})
def carry(request: HttpRequest, athlete_id: int, day: date, key: str, payload: BlockTo) -> WeekAnswer:
    """Move or copy a block to another day."""
    athlete = athlete_of(athlete_id)
    carry_block.run(who_of(request), athlete, day, key, payload.block, payload.day, keep=payload.keep)
    return week_answer(read_again(athlete), monday_of(day))


@router.post(SHEET + "/blocks", response={200: SheetOut, **ERRORS})
def put_in(request: HttpRequest, athlete_id: int, day: date, key: str, payload: BlockOf) -> SheetOut:
    """Put a block kept as a template into a session."""
    athlete = athlete_of(athlete_id)
    put_block.run(who_of(request), athlete, day, key, get_object_or_404(Template, pk=payload.template_id))
    return _sheet(athlete, day, key)


@router.post(SHEET + "/take-out", response={200: WeekAnswer, **ERRORS})
def take_out(request: HttpRequest, athlete_id: int, day: date, key: str) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    take_out_session.run(who_of(request), athlete, day, key)
    return week_answer(read_again(athlete), monday_of(day))


@router.post(SHEET + "/as-planned", response={200: WeekAnswer, **ERRORS})
def as_planned(request: HttpRequest, athlete_id: int, day: date, key: str) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    restore_session.run(who_of(request), athlete, monday_of(day), key)
    return week_answer(read_again(athlete), monday_of(day))


def _people(athlete: Athlete, payload: CopyIn) -> list[Athlete]:
    if payload.to_athlete is not None:
        return athletes_for(get_object_or_404(Athlete, pk=payload.to_athlete), "athlete")
    return athletes_for(athlete, payload.scope)


@router.post(SHEET + "/copy", response={200: CopyOut, **ERRORS})
def copy(request: HttpRequest, athlete_id: int, day: date, key: str, payload: CopyIn) -> CopyOut:
    """Put a session on a day, for this athlete, another, the group or the squad; loads are each athlete's own."""
    athlete = athlete_of(athlete_id)
    done, left = copy_session.run(who_of(request), athlete, day, key, _people(athlete, payload), payload.day)
    return CopyOut(done=done, left=left)


@router.post("/athletes/{int:athlete_id}/week/{monday}/copy", response={200: CopyOut, **ERRORS})
def copy_week(request: HttpRequest, athlete_id: int, monday: date, payload: CopyIn) -> CopyOut:
    athlete = athlete_of(athlete_id)
    start, to = monday_of(near(monday, "monday")), monday_of(near(payload.day))
    done, left = copy_week_action.run(who_of(request), athlete, start, _people(athlete, payload), to)
    return CopyOut(done=done, left=left)


@router.put("/athletes/{int:athlete_id}/week-arrangement", response={200: WeekAnswer, **ERRORS})
def arrange(request: HttpRequest, athlete_id: int, payload: ArrangeIn) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    monday = monday_of(near(payload.only_this_week, "only_this_week")) if payload.only_this_week else None
    people = athletes_for(athlete, payload.scope)
    arrange_week.run(who_of(request), people, payload.arrangement, payload.days, monday, payload.by_order)
    return week_answer(read_again(athlete), payload.only_this_week)


@router.post("/athletes/{int:athlete_id}/plan/undo", response={200: UndoneOut, **ERRORS})
def undo_last(request: HttpRequest, athlete_id: int) -> UndoneOut:
    """Take back the last change of the plan, for everybody it was made for."""
    return UndoneOut(words=undo_plan.run(who_of(request), athlete_of(athlete_id)))


@router.post("/athletes/{int:athlete_id}/plan/flags", response={200: UndoneOut, **ERRORS})
def keep(request: HttpRequest, athlete_id: int, payload: KeepIn) -> UndoneOut:
    keep_flag.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id), payload.check_id, payload.where, payload.reason)
    return UndoneOut(words="kept")


@router.delete("/plan-flags/{int:word_id}", response={200: UndoneOut, **ERRORS})
def lift(request: HttpRequest, word_id: int) -> UndoneOut:
    ask_flag_again.run(who_of(request), get_object_or_404(FlagWord, pk=word_id, lifted_at__isnull=True))
    return UndoneOut(words="asked again")


@router.post(SHEET + "/fix", response={200: UndoneOut, **ERRORS})
def fix(request: HttpRequest, athlete_id: int, day: date, key: str, payload: FixIn) -> UndoneOut:
    """Do what a flag proposes, in one step. A fix may name another session of the week."""
    _, words = fix_session.run(who_of(request), athlete_of(athlete_id), day, key, payload.kind, payload.values)
    return UndoneOut(words=words)
