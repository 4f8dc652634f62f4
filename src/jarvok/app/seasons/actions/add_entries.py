"""A pasted list of days is put into the calendar, all of it or nothing."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.seasons.actions import add_entry
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.core.interchange.fixtures import read_list


def run(who: Who, scope: Scope, kind: str, text: str) -> int:
    """Put every line of a list into the calendar as one step; return how many there were. Raises when a line cannot be read."""
    rows = read_list(text, clock.today())
    words = f"{len(rows)} {'entry' if len(rows) == 1 else 'entries'} added"
    with acting(who, "add_entries", words, athlete=scope.athlete, squad=scope.squad):
        for row in rows:
            add_entry.run(who, scope, kind, row.name, row.start, row.end)
    return len(rows)
