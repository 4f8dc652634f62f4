"""What became of a competition is written down: results teach the max, and words on the way there are kept as findings."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_mark, withdraw_mark
from jarvok.app.athletes.reading import age_of
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.seasons.models import Entry, EntryResult
from jarvok.app.learning.actions import note_finding
from jarvok.app.learning.after import EventAfter
from jarvok.core.errors import CoachError
from jarvok.core.experience import is_minor
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.mass import check_load_kg, in_kg

MOST = 100_000


def run(
    who: Who, athlete: Athlete, entry: Entry, events: Sequence[EventAfter], numbers: Sequence[float | None],
    *, place: str = "", keep: str = "", change: str = "", confirm: bool = False,
) -> None:  # fmt: skip
    """Keep a result, a number for each event, None where there was none. Loads are in the event's unit and stand, in kg, among
    the results of the lift. Raises `NeedsConfirmation` for an improbable one, unless it is confirmed.
    """
    if entry.day > clock.today():
        raise CoachError("This competition is still ahead.", where="events", accepted="A competition that has been.")
    if len(numbers) != len(events):
        raise CoachError("A number for each event is wanted.", where="events", accepted=f"{len(events)} numbers, or nothing.")
    numbers = [in_kg(n, e.unit) if n is not None and e.is_by_load else n for n, e in zip(numbers, events, strict=True)]
    for event, number in zip(events, numbers, strict=True):
        if number is not None and not 0 <= number <= MOST:
            raise CoachError(f"{number:g} cannot be.", where="events", accepted=f"0 to {MOST:,}.")
        if number is not None and event.is_by_load:
            check_load_kg(number, "events")
    before = entry.results.last()
    with acting(who, "keep_result", f"{entry.name}: the result", athlete=athlete):
        marks = before.marks if before is not None and len(before.marks) == len(events) else [None] * len(events)
        EntryResult.objects.create(
            entry=entry,
            events=list(numbers),
            marks=[
                _as_a_mark(who, athlete, entry, e, n if e.is_by_load else None, mark, confirm=confirm)
                for e, n, mark in zip(events, numbers, marks, strict=True)
            ],
            place=place.strip()[:60],
            keep=keep.strip()[:200],
            change=change.strip()[:200],
            at=clock.now(),
        )
        was = {"keep": before.keep, "change": before.change} if before is not None else {}
        for name, words in (("keep", keep), ("change", change)):
            if words.strip() and words.strip()[:200] != was.get(name, ""):
                evidence = ((f"after {entry.name}", f"entry:{entry.pk}"),)
                note_finding.run(who, athlete, "note", "", f"For next time, {name}: {words.strip()[:170]}", evidence=evidence)


def _as_a_mark(
    who: Who, athlete: Athlete, entry: Entry, event: EventAfter, load_kg: float | None, mark_id: int | None, *, confirm: bool
) -> int | None:
    """A lifted max is a tested max: kept, corrected, or withdrawn where it was none; returns its id. Of a minor it stays with the
    competition alone.
    """
    kept = MarkRecord.objects.filter(pk=mark_id).first() if mark_id is not None else None
    if kept is not None and load_kg and kept.load_kg == load_kg:
        return kept.pk  # also one that was deleted by hand since: what stands unchanged is not brought back
    there = kept if kept is not None and kept.withdrawn_at is None else None
    if not load_kg or (is_minor(age_of(athlete, entry.day)) and not athlete.supervised):
        if there is not None:
            withdraw_mark.run(who, there)
        return None
    typed = TypedMark(event.exercise_id, MarkKind.ONE_RM, entry.day, load_kg, unit=event.unit, note=entry.name, confirm=confirm)
    return add_mark.run(who, athlete, typed, replaces=there).pk
