"""A session of the coach's own is begun on a day: the first there, or the second."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.written import free_key, put, room_on, week_for
from jarvok.core.session.document import LONGEST_NAME, Document


def run(who: Who, athlete: Athlete, day: date, theme: str) -> str:
    """Begin a session of the coach's own; return its key."""
    week = week_for(athlete, day)
    room_on(week, day)
    key = free_key(week, athlete)
    begun = Document(theme.strip()[:LONGEST_NAME] or "Own session", ())
    words = f"{begun.theme} put on {day:%A}"
    with acting(who, "begin_session", words, athlete=athlete):
        put(athlete, key, day, begun, words)
    return key
