"""Something is taken out of the calendar."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import CalendarEntry


def run(who: Who, entry: CalendarEntry) -> None:
    """Something is taken out of the calendar."""
    with acting(who, "take_out_entry", f"{entry.name} taken out", athlete=entry.athlete, squad=entry.squad):
        entry.withdrawn_at = clock.now()
        entry.save()
