"""A change of the calendar, kept with what was before it, so that undo can put it back."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from jarvok.app.facts.athletes.models import Practice
from jarvok.app.facts.seasons.models import CalendarChange, CalendarEntry, Competition

Kept = CalendarEntry | Practice | Competition


@contextmanager
def kept(row: Kept) -> Iterator[None]:
    """Store a change of an entry, a practice or a competition of several, and keep it with what that was before.

    A new one was out before. What athletes hold of their own of a competition stays theirs.
    """
    is_new = row._state.adding
    before = row.to_raw()
    with _entries_as_they_stand(row):
        yield
        if is_new:
            row.save()
            before = row.to_raw() | {"is_out": True}
        elif row.to_raw() != before:
            row.sequence += 1
            row.save()
        else:
            return
    CalendarChange.objects.create(**{_KEY[type(row)]: row}, before=before, after=row.to_raw())


_KEY: dict[type[Kept], str] = {CalendarEntry: "entry", Practice: "practice", Competition: "competition"}


def put_back(row: Kept, raw: dict[str, Any]) -> None:
    """Store what a change kept of something; no season of an athlete changes by it."""
    with _entries_as_they_stand(row):
        row.put_back(raw)
        row.sequence += 1
        row.save()


@contextmanager
def _entries_as_they_stand(row: Kept) -> Iterator[None]:
    """Entries say after a change of their competition what they said before it: each season is changed by itself."""
    if not isinstance(row, Competition) or row.pk is None:
        yield
        return
    stood = [(e, e.told) for e in row.entered.all()]
    yield
    for entry, told in stood:
        entry.competition = row
        entry.own = own_of(row, told)
        entry.save(update_fields=["own"])


def own_of(competition: Competition, told: dict[str, Any]) -> dict[str, Any]:
    """What of an athlete's facts is not the competition's."""
    shared = competition.told
    return {k: v for k, v in told.items() if shared[k] != v}
