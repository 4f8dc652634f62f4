"""Sessions as the coach has put them together: what an edit begins from, where it goes, and which key is free."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from datetime import date

from jarvok.app import clock
from jarvok.app.athletes.reading import athlete_of, read_for_a_week
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import WrittenSession
from jarvok.app.facts.writing import writing
from jarvok.app.problems import Conflict
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.planned_weeks import read_again
from jarvok.app.training.sheets import AthleteWeek, Sheet, athlete_week
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import SeasonWeek, monday_of
from jarvok.core.session.document import Document, WrittenLine, document_of, to_raw
from jarvok.core.session.planned import PlannedSession

MOST_A_DAY = 2


@contextmanager
def held(athlete: Athlete) -> Iterator[Athlete]:
    """The athlete's plan read anew and held until it is written: two changes at once come one after the other, and both stay."""
    with writing():
        yield read_again(athlete)


OWN_KEYS = tuple(f"X{i}" for i in range(1, 10))
LONGEST_WORDS = 200


def put(athlete: Athlete, key: str, day: date, document: Document, words: str) -> None:
    """Keep a session as the coach has it now, in place of what its week held under the key."""
    WrittenSession.objects.create(
        athlete=athlete,
        week_start=monday_of(day),
        session_key=key,
        state=WrittenSession.WRITTEN,
        day=day,
        document=to_raw(document),
        words=words[:LONGEST_WORDS],
    )


def mark(athlete: Athlete, day: date, key: str, state: str, words: str) -> None:
    """Say of what its week holds under a key that it is taken out, or as planned."""
    WrittenSession.objects.create(
        athlete=athlete, week_start=monday_of(day), session_key=key, state=state, words=words[:LONGEST_WORDS]
    )


def documented(sheet: Sheet) -> Document:
    """A sheet as a document, every line as it stands now."""
    return document_of(sheet.planned, {x.planned.line_id: x.text for x in sheet.lines})


def line_from(exercise_id: str, text: str, *, is_main: bool = False) -> WrittenLine:
    """A line as typed."""
    return WrittenLine(exercise_id, text, "written by you", is_main)


def open_sheet(athlete: Athlete, day: date, key: str) -> tuple[AthleteWeek, Sheet]:
    """The sheet of a session that may still be changed; `Conflict` for one that has been started."""
    week, sheet = find_sheet(athlete, day, key)
    if sheet.started is not None:
        raise Conflict("This session has been started; what was told stays. Change the set on the floor.")
    return week, sheet


def week_for(athlete: Athlete, day: date) -> AthleteWeek:
    """The week of a day that a session may be put on."""
    week = athlete_week(athlete, day, clock.today())
    if week is None:
        raise CoachError(
            f"{said_day(day, year=True, is_long=True)} lies outside the season.",
            where="day",
            accepted="A day of the season; add a competition first.",
        )
    if day >= week.week.competition_day:
        raise CoachError("That day is the competition's or after it.", where="day", accepted="A day before it.")
    return week


def room_on(week: AthleteWeek, day: date, key: str = "") -> None:
    """Raise `Conflict` where a day holds its two sessions already, that of `key` left out."""
    here = [s for s in week.sheets if s.planned.day == day and s.planned.key != key]
    if len(here) >= MOST_A_DAY:
        raise Conflict(
            f"{said_day(day, weekday=True, is_long=True)} holds two sessions already. Take one out or choose another day."
        )


def free_key(week: AthleteWeek, athlete: Athlete) -> str:
    """A key of the coach's own in a week; raises `CoachError` when it is full."""
    key = own_key(athlete, week.week, [s.planned for s in week.sheets])
    if key is None:
        raise CoachError("The week is full.", where="day", accepted=f"Up to {len(OWN_KEYS)} sessions of your own a week.")
    return key


def own_key(athlete: Athlete, week: SeasonWeek, here: Sequence[PlannedSession]) -> str | None:
    """A key of the coach's own that no session of the week stands under or was begun under; None when all do."""
    begun = athlete.sessions.filter(day__range=(week.start, week.end)).values_list("key", flat=True)
    taken = {s.key for s in here} | set(begun)
    return next((k for k in OWN_KEYS if k not in taken), None)


def athletes_for(athlete: Athlete, scope: str) -> list[Athlete]:
    """Whom a change is for: this athlete, the group, the squad."""
    if scope == "athlete":
        return [athlete_of(athlete.pk)]
    if scope == "group" and athlete.group:
        return read_for_a_week(Athlete.objects.filter(squad=athlete.squad, group=athlete.group))
    if scope == "squad":
        return read_for_a_week(Athlete.objects.filter(squad=athlete.squad))
    raise CoachError("It is for the athlete, the group or the squad.", where="scope", accepted="athlete, group or squad")
