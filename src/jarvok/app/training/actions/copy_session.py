"""A session is copied to a day, for this athlete, another, the group or the squad; loads are each athlete's own."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from jarvok.app.acts import Who
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.actions import put_sessions
from jarvok.app.training.actions.put_sessions import Said
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.written import documented
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, day: date, key: str, people: Sequence[Athlete], to: date) -> Said:
    """Copy a session; return for whom, and where it could not be."""
    _, sheet = find_sheet(athlete, day, key)
    words = f"{sheet.planned.theme} copied to {said_day(to, weekday=True, is_long=True)}"
    return put_sessions.run(who, words, {to: [documented(sheet)]}, people, whole_weeks=False)
