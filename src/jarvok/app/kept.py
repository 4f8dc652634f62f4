"""A change of the calendar, kept with what was before it, so that undo can put it back."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from jarvok.app.facts.athletes.models import Practice
from jarvok.app.facts.seasons.models import CalendarChange, CalendarEntry


@contextmanager
def kept(row: CalendarEntry | Practice) -> Iterator[None]:
    """Store a change of an entry or a practice, and keep it with what that was before; a new one was out before."""
    is_new = row._state.adding
    before = row.to_raw()
    yield
    if is_new:
        row.save()
        before = row.to_raw() | {"is_out": True}
    elif row.to_raw() != before:
        row.sequence += 1
        row.save()
    else:
        return
    of = {"entry": row} if isinstance(row, CalendarEntry) else {"practice": row}
    CalendarChange.objects.create(**of, before=before, after=row.to_raw())
