"""A session of the coach's own goes back to what the arrangement proposes."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import WrittenSession
from jarvok.app.problems import Conflict
from jarvok.app.training.written import mark


def run(who: Who, athlete: Athlete, monday: date, key: str) -> None:
    """Go back to what the arrangement proposes under a key."""
    if not any(r.session_key == key and r.week_start == monday for r in athlete.written_sessions.all()):
        raise Conflict("This session is as planned.")
    words = f"session {key} as planned"
    with acting(who, "restore_session", words, athlete=athlete):
        mark(athlete, monday, key, WrittenSession.AS_PLANNED, words)
