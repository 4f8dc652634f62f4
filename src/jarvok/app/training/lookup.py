"""Finding a session or a line of the plan, or saying that it is not there."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from jarvok.app import clock
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.planned_weeks import plan_of, planned_week
from jarvok.app.training.sheets import AthleteWeek, Sheet, SheetLine, athlete_week
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import Rules
from jarvok.core.season.model import SeasonWeek
from jarvok.core.session.planned import PlannedSession


def find_sheet(athlete: Athlete, day: date, key: str) -> tuple[AthleteWeek, Sheet]:
    week = athlete_week(athlete, day, clock.today())
    sheet = next((s for s in week.sheets if s.planned.day == day and s.planned.key == key), None) if week else None
    if week is None or sheet is None:
        raise _not_there(day, key)
    return week, sheet


FARTHEST_DAYS = 1100


def near(day: date, where: str = "day") -> date:
    """Return a day that a plan can hold; raise `CoachError` for one years away."""
    if abs((day - clock.today()).days) > FARTHEST_DAYS:
        raise CoachError(f"{day.isoformat()} lies too far away.", where=where, accepted="A day within three years.")
    return day


def day_in(text: object, where: str) -> date:
    """Return the day a text names; raise `CoachError` where it names none."""
    try:
        return near(date.fromisoformat(str(text)), where)
    except ValueError:
        raise CoachError("That is no day.", where=where, accepted="A day such as 2026-12-05.") from None


@dataclass(frozen=True)
class Standing:
    """A session as it stands in its week, without loads: what moving it needs to know."""

    week: SeasonWeek
    session: PlannedSession
    others: tuple[PlannedSession, ...]
    is_started: bool


def find_planned(athlete: Athlete, day: date, key: str, rules: Rules | None = None) -> Standing:
    """Find a session without resolving any load; `rules` are those in force where they have been read."""
    rules = rules or rules_in_force()
    plan = plan_of(athlete, clock.today(), rules)
    week = plan.week_of(day) if plan is not None else None
    sessions = planned_week(athlete, plan, week, rules) if plan is not None and week is not None else ()
    found = next((s for s in sessions if s.day == day and s.key == key), None)
    if week is None or found is None:
        raise _not_there(day, key)
    started = athlete.sessions.filter(day=day, key=key).exists()
    return Standing(week, found, tuple(s for s in sessions if s is not found), started)


def has_sheet(athlete: Athlete, day: date, key: str) -> bool:
    """Whether the plan holds a session of that key on the day."""
    try:
        find_planned(athlete, day, key)
    except CoachError:
        return False
    return True


def _not_there(day: date, key: str) -> CoachError:
    return CoachError(
        f"No session {key} is planned on {said_day(day, is_long=True)}.",
        where="day",
        accepted="The week shows which sessions there are; a moved session is found on its new day.",
    )


def line_of(sheet: Sheet, name: str) -> SheetLine:
    """A line of a sheet, named by its id or by the slot it stands in."""
    line = next((item for item in sheet.lines if name in (item.planned.line_id, item.planned.slot)), None)
    if line is None:
        raise CoachError(f"There is no line {name} in this session.", where="slot")
    return line
