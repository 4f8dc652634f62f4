"""Changing whole sessions: lines, blocks, days, copies, the arrangement of the week, undo, flags."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Literal

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.seasons.models import FlagWord
from jarvok.app.seasons.services import keep_flag, lift_flag
from jarvok.app.training import edit_services as services
from jarvok.app.training.api import ERRORS, athlete_of, move_session, week_answer
from jarvok.app.training.api import NewDay as MoveTo
from jarvok.app.training.finding import day_in, find_sheet, near
from jarvok.app.training.plan_queries import read_again
from jarvok.app.training.shapes import SheetOut, WeekAnswer
from jarvok.app.training.sheet_view import sheet_out
from jarvok.app.training.undo import undo
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.season.model import monday_of
from jarvok.core.session import document as doc
from jarvok.core.session.blocks import GROUPINGS, BlockStyle, Grouping
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS

router = Router(tags=["sessions"])
SHEET = "/athletes/{int:athlete_id}/sessions/{day}/{key}"


class NewSession(Schema):
    day: date
    theme: str = ""


class EditIn(Schema):
    """One change of a session. `op` says which; the other fields are what it needs."""

    op: Literal["add", "drop", "replace", "write", "note", "move", "regroup", "rename"]
    slot: str = ""
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


class LineTo(Schema):
    day: date


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


class UndoneOut(Schema):
    words: str


class KeepIn(Schema):
    check_id: str
    where: str
    reason: str


class FixIn(Schema):
    kind: str
    values: dict[str, str | float | bool | None]


class GroupingOut(Schema):
    key: str
    name: str
    words: str
    least: int
    most: int
    needs: str


class WeekArrangementOut(Schema):
    key: str
    name: str
    days: list[int]
    how: str
    good_for: str
    weakness: str
    is_sequence: bool


def _sheet(athlete: Athlete, day: date, key: str) -> SheetOut:
    return sheet_out(athlete, *find_sheet(read_again(athlete), day, key))


@router.get("/week-arrangements", response={200: list[WeekArrangementOut], **ERRORS})
def read_week_arrangements(request: HttpRequest) -> list[WeekArrangementOut]:
    """The arrangements of the week, with what each is good and bad for."""
    return [
        WeekArrangementOut(
            key=a.key,
            name=a.name,
            days=list(a.days),
            how=a.how,
            good_for=a.good_for,
            weakness=a.weakness,
            is_sequence=a.is_sequence,
        )
        for a in WEEK_ARRANGEMENTS
    ]


@router.get("/groupings", response={200: list[GroupingOut], **ERRORS})
def read_groupings(request: HttpRequest) -> list[GroupingOut]:
    """The ways to group the lines of a block."""
    return [
        GroupingOut(key=k, name=g.name, words=g.words, least=g.least, most=g.most, needs=g.needs) for k, g in GROUPINGS.items()
    ]


@router.post("/athletes/{int:athlete_id}/sessions", response={200: SheetOut, **ERRORS})
def begin_session(request: HttpRequest, athlete_id: int, payload: NewSession) -> SheetOut:
    athlete = athlete_of(athlete_id)
    key = services.new_session(athlete, payload.day, payload.theme)
    return _sheet(athlete, payload.day, key)


def _style(payload: EditIn) -> BlockStyle:
    try:
        grouping = Grouping(payload.grouping or "straight")
    except ValueError:
        known = ", ".join(g.name.lower() for g in GROUPINGS.values())
        raise CoachError("There is no such grouping.", where="grouping", accepted=known) from None
    return BlockStyle(
        grouping,
        payload.rest_inside_s,
        payload.rest_between_s,
        payload.minutes,
        payload.bpm,
        payload.beats or 2,
        payload.every_s,
    )


USUAL_TEXT = {"jump": "3 × 4", "throw": "3 × 4", "run": "4 × 20 m", "carry": "2 × 30 m", "hold": "2 × 30 s", "drill": "2 × 8",
              "conditioning": "1 × 5 min"}  # fmt: skip


def _text_for(exercise_id: str, typed: str) -> str:
    """The line as typed, or a usual one for the kind of exercise."""
    lift = exercise(exercise_id)
    if typed.strip():
        return write(parse(typed))
    sides = "/side" if lift.per_side else ""
    if lift.kind in USUAL_TEXT:
        return USUAL_TEXT[lift.kind] + (sides if lift.kind != "conditioning" else "")
    return f"3 × 8{sides}, 2 in reserve" if lift.is_loaded else f"3 × 8{sides}"


def _edit(payload: EditIn) -> tuple[Callable[[doc.Document], doc.Document], str]:
    """The change and its words."""
    slot = payload.slot
    match payload.op:
        case "add":
            line = services.line_from(payload.exercise_id, _text_for(payload.exercise_id, payload.text), is_main=payload.is_main)
            name = exercise(payload.exercise_id).name
            return lambda d: doc.add_line(d, line, payload.block or "main"), f"{name} added"
        case "drop":
            return lambda d: doc.drop_line(d, slot), f"{slot} taken out"
        case "replace":
            name = exercise(payload.exercise_id).name
            return lambda d: doc.replace_line(d, slot, payload.exercise_id), f"{slot} is now {name.lower()}"
        case "write":
            return lambda d: doc.write_text(d, slot, payload.text), f"{slot} written as {payload.text}"
        case "note":
            return lambda d: doc.note_line(d, slot, payload.text), f"a word beside {slot}"
        case "move":
            return lambda d: doc.move_line(d, slot, payload.to), f"{slot} moved {payload.to}"
        case "regroup":
            style = _style(payload)
            return lambda d: doc.regroup(d, payload.block, style), f"{payload.block}: {GROUPINGS[style.grouping].name.lower()}"
        case "rename":
            return lambda d: doc.rename(d, payload.text), f"called {payload.text}"


@router.post(SHEET + "/edit", response={200: SheetOut, **ERRORS})
def edit(request: HttpRequest, athlete_id: int, day: date, key: str, payload: EditIn) -> SheetOut:
    athlete = athlete_of(athlete_id)
    change, words = _edit(payload)
    services.edit_session(athlete, day, key, change, words)
    return _sheet(athlete, day, key)


@router.post(SHEET + "/lines/{slot}/move", response={200: WeekAnswer, **ERRORS})
def move_line(request: HttpRequest, athlete_id: int, day: date, key: str, slot: str, payload: LineTo) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    services.move_line_to(athlete, day, key, slot, payload.day)
    return week_answer(read_again(athlete), monday_of(day))


@router.post(SHEET + "/take-out", response={200: WeekAnswer, **ERRORS})
def take_out(request: HttpRequest, athlete_id: int, day: date, key: str) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    services.take_out(athlete, day, key)
    return week_answer(read_again(athlete), monday_of(day))


@router.post(SHEET + "/as-planned", response={200: WeekAnswer, **ERRORS})
def as_planned(request: HttpRequest, athlete_id: int, day: date, key: str) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    services.back_to_plan(athlete, monday_of(day), key)
    return week_answer(read_again(athlete), monday_of(day))


def _people(athlete: Athlete, payload: CopyIn) -> list[Athlete]:
    if payload.to_athlete is not None:
        return services.athletes_for(get_object_or_404(Athlete, pk=payload.to_athlete), "athlete")
    return services.athletes_for(athlete, payload.scope)


@router.post(SHEET + "/copy", response={200: CopyOut, **ERRORS})
def copy(request: HttpRequest, athlete_id: int, day: date, key: str, payload: CopyIn) -> CopyOut:
    """Put a session on a day, for this athlete, another, the group or the squad; loads are each athlete's own."""
    athlete = athlete_of(athlete_id)
    _, sheet = find_sheet(athlete, day, key)
    words = f"{sheet.planned.theme} copied to {payload.day:%A %-d %B}"
    done, left = services.copy_session(services.documented(sheet), words, _people(athlete, payload), payload.day)
    return CopyOut(done=done, left=left)


@router.post("/athletes/{int:athlete_id}/week/{monday}/copy", response={200: CopyOut, **ERRORS})
def copy_week(request: HttpRequest, athlete_id: int, monday: date, payload: CopyIn) -> CopyOut:
    athlete = athlete_of(athlete_id)
    start, to = monday_of(near(monday, "monday")), monday_of(near(payload.day))
    done, left = services.copy_week(athlete, start, _people(athlete, payload), to)
    return CopyOut(done=done, left=left)


@router.put("/athletes/{int:athlete_id}/week-arrangement", response={200: WeekAnswer, **ERRORS})
def arrange(request: HttpRequest, athlete_id: int, payload: ArrangeIn) -> WeekAnswer:
    athlete = athlete_of(athlete_id)
    monday = monday_of(near(payload.only_this_week, "only_this_week")) if payload.only_this_week else None
    people = services.athletes_for(athlete, payload.scope)
    services.arrange_week(people, payload.arrangement, payload.days, monday)
    return week_answer(read_again(athlete), payload.only_this_week)


@router.post("/athletes/{int:athlete_id}/plan/undo", response={200: UndoneOut, **ERRORS})
def undo_last(request: HttpRequest, athlete_id: int) -> UndoneOut:
    """Take back the last change of the plan, for everybody it was made for."""
    return UndoneOut(words=undo(get_object_or_404(Athlete, pk=athlete_id)))


@router.post("/athletes/{int:athlete_id}/plan/flags", response={200: UndoneOut, **ERRORS})
def keep(request: HttpRequest, athlete_id: int, payload: KeepIn) -> UndoneOut:
    keep_flag(get_object_or_404(Athlete, pk=athlete_id), payload.check_id, payload.where, payload.reason)
    return UndoneOut(words="kept")


@router.delete("/plan-flags/{int:word_id}", response={200: UndoneOut, **ERRORS})
def lift(request: HttpRequest, word_id: int) -> UndoneOut:
    lift_flag(get_object_or_404(FlagWord, pk=word_id, lifted_at__isnull=True))
    return UndoneOut(words="asked again")


@router.post(SHEET + "/fix", response={200: UndoneOut, **ERRORS})
def fix(request: HttpRequest, athlete_id: int, day: date, key: str, payload: FixIn) -> UndoneOut:
    """Do what a flag proposes, in one step. A fix may name another session of the week."""
    athlete, values = athlete_of(athlete_id), payload.values
    day = day_in(values["day"], "day") if values.get("day") else day
    key = str(values.get("key") or key)
    slot = str(values.get("slot") or "")
    if payload.kind == "move":
        move_session(request, athlete_id, day, key, MoveTo(day=day_in(values.get("to"), "to")))
        return UndoneOut(words=f"moved to {values.get('to')}")
    changes = {
        "write": EditIn(op="write", slot=slot, text=str(values.get("text") or "")),
        "drop": EditIn(op="drop", slot=slot),
        "replace": EditIn(op="replace", slot=slot, exercise_id=str(values.get("exercise_id") or "")),
        "first": EditIn(op="move", slot=slot, to="first"),
        "last": EditIn(op="move", slot=slot, to="last"),
    }
    if payload.kind == "add":
        changes["add"] = EditIn(
            op="add",
            exercise_id=str(values.get("exercise_id") or ""),
            text=str(values.get("text") or ""),
            block=str(values.get("block") or ""),
        )
    change = changes.get(payload.kind)
    if change is None:
        raise CoachError("There is no such fix.", where="kind", accepted=", ".join(changes))
    make, words = _edit(change)
    services.edit_session(athlete, day, key, make, words)
    return UndoneOut(words=words)
