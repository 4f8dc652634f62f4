"""A session is taken out of its week."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import WrittenSession
from jarvok.app.training.written import mark, open_sheet


def run(who: Who, athlete: Athlete, day: date, key: str) -> None:
    """Take a session out; one that was started stays."""
    _, sheet = open_sheet(athlete, day, key)
    words = f"{sheet.planned.theme} taken out of {day:%A}"
    with acting(who, "take_out_session", words, athlete=athlete):
        mark(athlete, day, key, WrittenSession.TAKEN_OUT, words)
