"""A planned session is started."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.actions import start_sheet
from jarvok.app.floor.starting import AS_WRITTEN, DayPlan
from jarvok.app.training.actions import move_session
from jarvok.app.training.lookup import find_sheet


def run(
    who: Who, athlete: Athlete, day: date, key: str, word: DayPlan = AS_WRITTEN, *, as_today: bool = False
) -> TrainingSession:
    """Start a planned session: what is told is kept as it stands now. A started one is returned as it is.

    With `as_today` that of another day is put on today first: otherwise it counts as done on its own day.
    """
    with acting(who, "start_session", f"session {key} started", athlete=athlete):
        existing = TrainingSession.objects.filter(athlete=athlete, day=day, key=key).first()
        if existing is not None:
            return existing
        if as_today and day != clock.today():
            move_session.run(who, athlete, day, key, clock.today())
            day = clock.today()
        week, sheet = find_sheet(athlete, day, key)
        return start_sheet.run(who, athlete, week.week, sheet, week.book, word)
