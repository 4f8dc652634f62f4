"""Something is taken out of the calendar."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import CalendarEntry
from jarvok.app.kept import kept
from jarvok.app.seasons.calendar_rows import days_words


def run(who: Who, entry: CalendarEntry) -> None:
    """Take something out of the calendar; undo brings it back."""
    words = f"{entry.name}, {days_words(entry.start, entry.end)}, taken out"
    with acting(who, "take_out_entry", words, athlete=entry.athlete, squad=entry.squad), kept(entry):
        entry.withdrawn_at = clock.now()
