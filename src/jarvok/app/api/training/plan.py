"""Weeks and sessions: reading them, writing a line, moving, merging."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest, HttpResponse
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.kept_page import kept_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.training.shapes import SheetOut, WeekAnswer
from jarvok.app.api.training.sheet import sheet_out
from jarvok.app.api.training.week import week_out
from jarvok.app.api.who import who_of
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.training.actions import merge_session as merge
from jarvok.app.training.actions import move_session as move
from jarvok.app.training.actions import step_line as step
from jarvok.app.training.actions import write_line as write
from jarvok.app.training.kept_athlete import changer_of, moved, reader_of
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.planned_weeks import read_again
from jarvok.app.training.sheets import athlete_week
from jarvok.core.season.model import monday_of

router = Router(tags=["training"])


class NewText(Schema):
    text: str
    confirm: bool = False


class Step(Schema):
    """One step of a line: `what` is sets, reps or load; `by` 1 or -1."""

    what: str
    by: int


class NewDay(Schema):
    day: date


@router.get("/athletes/{int:athlete_id}/week", response={200: WeekAnswer, **ERRORS})
def read_week(request: HttpRequest, athlete_id: int, start: date | None = None) -> HttpResponse:
    return kept_page(request, athlete_id, ("week", start), lambda: week_answer(reader_of(athlete_id), start))


def week_answer(athlete: Athlete, start: date | None, book: LiftBook | None = None) -> WeekAnswer:
    """The week a day lies in, or today's, with the reason where there is none."""
    today = clock.today()
    found = athlete_week(athlete, start or today, today, book)
    reason = ""
    if found is None:
        reason = "This week lies outside the season." if start else "No competition ahead yet."
        if start and athlete_week(athlete, today, today) is None:
            reason = "No competition ahead yet."
    return WeekAnswer(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        week=week_out(athlete, found, today) if found else None,
        reason=reason,
    )


@router.get("/athletes/{int:athlete_id}/sessions/{day}/{key}", response={200: SheetOut, **ERRORS})
def read_sheet(request: HttpRequest, athlete_id: int, day: date, key: str) -> HttpResponse:
    def work_out() -> SheetOut:
        athlete = reader_of(athlete_id)
        return sheet_out(athlete, *find_sheet(athlete, day, key))

    return kept_page(request, athlete_id, ("session", day, key), work_out)


@router.put("/athletes/{int:athlete_id}/sessions/{day}/{key}/lines/{line}", response={200: SheetOut, **ERRORS})
def write_line(request: HttpRequest, athlete_id: int, day: date, key: str, line: str, payload: NewText) -> SheetOut:
    athlete = athlete_of(athlete_id)
    write.run(who_of(request), athlete, day, key, line, payload.text, confirm=payload.confirm)
    return sheet_out(athlete, *find_sheet(read_again(athlete), day, key))


@router.post("/athletes/{int:athlete_id}/sessions/{day}/{key}/lines/{line}/step", response={200: SheetOut, **ERRORS})
def step_line(request: HttpRequest, athlete_id: int, day: date, key: str, line: str, payload: Step) -> SheetOut:
    """Change a line by one step of sets, repetitions or load, in the terms it is written in."""
    athlete = athlete_of(athlete_id)
    step.run(who_of(request), athlete, day, key, line, payload.what, payload.by)
    return sheet_out(athlete, *find_sheet(read_again(athlete), day, key))


@router.put("/athletes/{int:athlete_id}/sessions/{day}/{key}/day", response={200: WeekAnswer, **ERRORS})
def move_session(request: HttpRequest, athlete_id: int, day: date, key: str, payload: NewDay) -> WeekAnswer:
    athlete = changer_of(athlete_id)
    book = LiftBook([athlete], clock.today(), rules=rules_in_force())  # a move changes no mark and no set: read once
    share_book(book)
    move.run(who_of(request), athlete, day, key, payload.day, book.rules)
    return week_answer(moved(athlete, monday_of(payload.day)), monday_of(payload.day), book)


@router.put("/athletes/{int:athlete_id}/sessions/{day}/{key}/merge", response={200: WeekAnswer, **ERRORS})
def merge_session(request: HttpRequest, athlete_id: int, day: date, key: str, payload: NewDay) -> WeekAnswer:
    """Put a missed session's main lift into the session of another day of the week."""
    athlete = athlete_of(athlete_id)
    merge.run(who_of(request), athlete, day, key, payload.day)
    return week_answer(read_again(athlete), monday_of(payload.day))
