"""Something is put into the calendar."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import CalendarEntry
from jarvok.app.kept import kept
from jarvok.app.seasons.calendar_rows import Scope, check_entry, days_words


def run(
    who: Who, scope: Scope, kind: str, name: str, start: date, end: date, uid: str = "", hour: float | None = None,
    sequence: int = 0,
) -> CalendarEntry:  # fmt: skip
    """Put something into the calendar of an athlete, a group or a squad; return it."""
    name = name.strip()
    with acting(who, "add_entry", f"{name}, {days_words(start, end)}, added", athlete=scope.athlete, squad=scope.squad):
        entry = CalendarEntry(
            athlete=scope.athlete, squad=scope.squad, group=scope.group, kind=kind, name=name, start=start, end=end, uid=uid,
            hour=hour, sequence=sequence,
        )  # fmt: skip
        with kept(entry):
            check_entry(entry)
        return entry
