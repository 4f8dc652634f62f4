"""Left against right, from the newest result of each side: one reading for the page that shows it and the week it changes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from jarvok.app.facts.athletes.models import MarkRecord
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.performance import Reading, Sides, compare_sides, read
from jarvok.core.marks.readings import max_from_mark
from jarvok.core.rules import Rules

NO_BEST = (MarkKind.SET_VELOCITY, MarkKind.VELOCITY_BEST)


class OfExercise(NamedTuple):
    """What is compared: an exercise, a kind of result, and a distance where there is one."""

    exercise_id: str
    kind: str
    part: str


def reading_of(record: MarkRecord, rules: Rules) -> tuple[OfExercise, Reading] | None:
    """A result as a number that can be compared; None for one that is none."""
    kind = MarkKind(record.kind)
    reading = read(kind, record.measures, record.load_kg)
    if reading is None and record.side:
        implied = max_from_mark(Mark("", record.day, kind, record.load_kg, record.reps, record.rir), rules)
        reading = Reading(implied or record.load_kg, "kg", f"{record.load_kg:g} kg × {record.reps}", False)
    if reading is None or kind in NO_BEST:
        return None
    part = f"{record.measures['distance_m']:g} m" if "distance_m" in record.measures else ""
    return OfExercise(record.exercise_id, record.kind, part), reading


def sides_of(records: Iterable[MarkRecord], rules: Rules) -> Iterator[tuple[OfExercise, Sides]]:
    """The newest of each side beside the other, wherever both are recorded; `records` from the oldest to the newest."""
    newest: dict[OfExercise, dict[str, Reading]] = {}
    for record in records:
        found = reading_of(record, rules) if record.side else None
        if found is not None:
            newest.setdefault(found[0], {})[record.side] = found[1]
    for of, by_side in newest.items():
        if {"left", "right"} <= set(by_side):
            yield of, compare_sides(by_side["left"], by_side["right"])
