"""A planned session is started."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.actions import start_sheet
from jarvok.app.floor.starting import AS_WRITTEN, DayPlan
from jarvok.app.training.lookup import find_sheet


def run(who: Who, athlete: Athlete, day: date, key: str, word: DayPlan = AS_WRITTEN) -> TrainingSession:
    """Start a planned session: what is told is kept as it stands now. A started one is returned as it is."""
    with acting(who, "start_session", f"session {key} started", athlete=athlete):
        existing = TrainingSession.objects.filter(athlete=athlete, day=day, key=key).first()
        if existing is not None:
            return existing
        week, sheet = find_sheet(athlete, day, key)
        return start_sheet.run(who, athlete, week.week, sheet, week.book, word)
