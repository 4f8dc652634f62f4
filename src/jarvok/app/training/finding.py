"""Finding a session or a line of the plan, or saying that it is not there."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.training.queries import AthleteWeek, Sheet, SheetLine, athlete_week
from jarvok.core.errors import CoachError


def find_sheet(athlete: Athlete, day: date, key: str) -> tuple[AthleteWeek, Sheet]:
    week = athlete_week(athlete, day, clock.today())
    sheet = next((s for s in week.sheets if s.planned.day == day and s.planned.key == key), None) if week else None
    if week is None or sheet is None:
        raise CoachError(
            f"No session {key} is planned on {day:%-d %B}.",
            where="day",
            accepted="The week shows which sessions there are; a moved session is found on its new day.",
        )
    return week, sheet


def line_of(sheet: Sheet, slot: str) -> SheetLine:
    line = next((item for item in sheet.lines if item.planned.slot == slot), None)
    if line is None:
        raise CoachError(f"There is no line {slot} in this session.", where="slot")
    return line
