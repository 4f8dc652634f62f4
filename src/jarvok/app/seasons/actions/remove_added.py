"""What was added to a light week, lines and whole sessions, goes back to the proposal; what was typed stays in the history."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit, WrittenSession
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, monday: date) -> None:
    """Take the lines and sessions of a week, named by its Monday, back to the proposal."""
    days = (monday, monday + timedelta(days=6))
    typed = LineEdit.objects.filter(athlete=athlete, day__range=days, undone_at__isnull=True).exclude(text="")
    with acting(who, "remove_added", f"what was added in the week of {said_day(monday)} taken back", athlete=athlete):
        for edit in list(typed):
            LineEdit.objects.create(
                athlete=athlete,
                day=edit.day,
                session_key=edit.session_key,
                line_id=edit.line_id,
                slot=edit.slot,
                exercise_id=edit.exercise_id,
                text="",
            )
        begun = set(athlete.sessions.filter(day__range=days).values_list("key", flat=True))
        rows = WrittenSession.objects.filter(athlete=athlete, week_start=monday, undone_at__isnull=True)
        newest = {row.session_key: row for row in rows}
        for key, row in newest.items():
            if row.state == WrittenSession.WRITTEN and key not in begun:
                WrittenSession.objects.create(
                    athlete=athlete,
                    week_start=monday,
                    session_key=key,
                    state=WrittenSession.AS_PLANNED,
                    words=f"session {key} as planned",
                )
