"""A session is put on another day of its week."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit, SessionMove
from jarvok.app.problems import Conflict
from jarvok.app.training.lookup import find_planned
from jarvok.app.training.written import MOST_A_DAY, put
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import Rules
from jarvok.core.session.document import document_of


def run(who: Who, athlete: Athlete, day: date, key: str, to: date, rules: Rules | None = None) -> None:
    """Move a session; lines written for its day go with it."""
    found = find_planned(athlete, day, key, rules)
    week = found.week
    if found.is_started:
        raise Conflict("This session has been started and stays on its day.")
    if not week.start <= to <= week.end:
        raise CoachError(
            f"{said_day(to, is_long=True)} lies in another week.",
            where="day",
            accepted="A day from Monday to Sunday of this week.",
        )
    if (week.competition_day - to).days < 1:
        raise CoachError("That day is the competition's or after it.", where="day", accepted="A day before it.")
    if sum(other.day == to for other in found.others) >= MOST_A_DAY:
        raise CoachError(f"{to:%A} holds two sessions already.", where="day", accepted="Any other day.")
    if found.session.is_own:
        words = f"{found.session.theme} moved to {to:%A}"
        with acting(who, "move_session", words, athlete=athlete):
            put(athlete, key, to, document_of(found.session), words)
        return
    with acting(who, "move_session", f"session {key} moved", athlete=athlete) as act:
        SessionMove.objects.create(athlete=athlete, week_start=week.start, session_key=key, day=to)
        for edit in LineEdit.objects.filter(athlete=athlete, day=day, session_key=key, undone_at__isnull=True):
            edit.pk = None
            edit.day, edit.act = to, act
            edit.save()
