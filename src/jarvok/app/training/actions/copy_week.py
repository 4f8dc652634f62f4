"""The sessions of a week are put on the same weekdays of another."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.actions import put_sessions
from jarvok.app.training.actions.put_sessions import Said
from jarvok.app.training.sheets import athlete_week
from jarvok.app.training.written import documented
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.session.document import Document


def run(who: Who, athlete: Athlete, monday: date, people: Sequence[Athlete], to: date) -> Said:
    """Copy a week, named by its Monday, to the week of the Monday `to`."""
    source = athlete_week(athlete, monday, clock.today())
    if source is None:
        raise CoachError("That week lies outside the season.", where="monday", accepted="A week of the season.")
    sessions: dict[date, list[Document]] = {}
    for s in source.sheets:
        sessions.setdefault(to + timedelta(days=s.planned.day.weekday()), []).append(documented(s))
    return put_sessions.run(who, f"week of {said_day(monday, is_long=True)} copied", sessions, people, whole_weeks=True)
