"""Something in the calendar is moved, lengthened, or called otherwise."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import CalendarEntry
from jarvok.app.kept import kept
from jarvok.app.problems import Conflict
from jarvok.app.seasons.calendar_rows import check_entry, days_words


def run(who: Who, entry: CalendarEntry, sent: Mapping[str, Any], sequence: int | None = None) -> None:
    """Change what is sent of kind, name, start, end and hour; what is moved keeps its length unless its end is sent too."""
    if entry.is_out:
        raise Conflict(f"{entry.name} has been taken out of the calendar. Undo brings it back.")
    was = days_words(entry.start, entry.end)
    with acting(who, "change_entry", athlete=entry.athlete, squad=entry.squad) as act:
        length = entry.end - entry.start
        with kept(entry):
            for key in ("kind", "name", "hour", "start"):
                if key in sent:
                    setattr(entry, key, sent[key])
            entry.name = entry.name.strip()
            entry.end = sent["end"] if sent.get("end") is not None else entry.start + length
            check_entry(entry)
        if sequence is not None:
            entry.sequence = sequence
            entry.save(update_fields=["sequence"])
        now = days_words(entry.start, entry.end)
        act.words = (
            f"{entry.name}, {was}, {'changed' if was == now else f'to {now}'}" if act.verb == "change_entry" else act.words
        )
