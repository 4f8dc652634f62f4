"""Why a planned session was not done."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.learning.models import MissedWord
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.learning.missed import REASONS
from jarvok.core.quantities.days import said_day

KEY_LENGTH = 4


def run(who: Who, athlete: Athlete, day: date, key: str, reason: str, note: str = "") -> None:
    """Keep the reason; an empty one takes it back."""
    if reason and reason not in REASONS:
        raise CoachError(f"“{reason}” is no reason.", where="reason", accepted=", ".join(REASONS.values()))
    if day > clock.today():
        raise CoachError("This session is still ahead.", where="day", accepted="A day up to today.")
    if len(key) > KEY_LENGTH:
        raise CoachError("There is no such session.", where="key")
    words = f"{said_day(day)}, {key}: {REASONS.get(reason, 'no reason')}"
    with acting(who, "say_why_missed", words, athlete=athlete):
        if TrainingSession.objects.filter(athlete=athlete, day=day, key=key).exists():
            raise Conflict("This session was started. Why it was made easier stands with it.")
        MissedWord.objects.create(athlete=athlete, day=day, key=key, reason=reason, note=note.strip()[:120], at=clock.now())
