"""What a coach writes on a day of the calendar becomes an entry, a weekly practice, or a competition."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_practice
from jarvok.app.seasons.actions import add_competition_for, add_entry
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.typed_season import TypedCompetition
from jarvok.core.errors import CoachError
from jarvok.core.interchange.day_notes import DayNote, read_note


def run(who: Who, scope: Scope, text: str, day: date) -> DayNote:
    """Store what is written on a day, as it was understood; return that. Raises `CoachError` for what is not understood."""
    note = read_note(text, day)
    with acting(who, "write_on_day", f"{note.words.rstrip('.')}, added", athlete=scope.athlete, squad=scope.squad):
        if note.kind == "competition":
            last = note.end if note.end > note.start else None
            add_competition_for.run(who, scope, TypedCompetition(note.name, note.start, note.rank, last))
        elif note.kind == "practice":
            if scope.group:
                raise CoachError(
                    f"A practice cannot be for {scope.group} alone.", where="scope", accepted="All of the squad, or one athlete."
                )
            add_practice.run_over(
                who, scope.the_squad, scope.athlete, weekday=note.weekday or 0, hour=note.hour or 0.0, minutes=note.minutes,
                hardness=note.hardness, since=note.start,
            )  # fmt: skip
        else:
            add_entry.run(who, scope, note.kind, note.name, note.start, note.end, hour=note.hour)
    return note
