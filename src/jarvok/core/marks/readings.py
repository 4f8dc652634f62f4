"""What single marks imply: a max in kg and its usual error, or nothing."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from jarvok.core.equations import MOST_REPS, ROUGH_FROM_REPS
from jarvok.core.marks.mark import BOUNDS, EVIDENCE, KIND_NAMES, Mark, MarkKind
from jarvok.core.marks.relation import Relation
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import format_mass, to_a_tenth
from jarvok.core.rules import DEFAULT_RULES, Rules

NAMES_THE_YEAR_DAYS = 300  # [T]
SINGLES = (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.VELOCITY_MAX)  # marks that are a max themselves


@dataclass(frozen=True, slots=True)
class Reading:
    """The max one mark implies by itself, with its usual error in per cent of it on the mark's day."""

    mark: Mark
    max_kg: float
    error_pct: float

    @property
    def is_bound(self) -> bool:
        """Whether it says only that the max is no less."""
        return self.mark.kind in BOUNDS

    @property
    def is_rough(self) -> bool:
        """Whether so many repetitions lie behind it that it moves nothing by itself."""
        return self.mark.kind not in SINGLES and self.mark.reps + self.mark.rir >= ROUGH_FROM_REPS


class Reader:
    """What single marks imply, by one relation and one set of rules; with bodyweight on top of the loads where it is lifted."""

    def __init__(
        self, relation: Relation, rules: Rules, *, novice: bool, body_kg: float = 0.0, count_is_short_by: float = 0.0
    ) -> None:
        self.relation, self.body_kg, self.count_is_short_by = relation, body_kg, count_is_short_by
        self.errors_pct = {kind: rules[f"error.{kind}"] for kind in EVIDENCE}
        self.rough_pct = rules["error.rough"]
        self.highest_rir = -1.0 if novice else rules["max.highest_rir"]

    def read(self, mark: Mark) -> Reading | None:
        """Return what a mark implies, or None where it says too little to count."""
        error_pct = self.errors_pct.get(mark.kind)
        if error_pct is None:
            return None
        if mark.kind in SINGLES:
            return Reading(mark, mark.load_kg + self.body_kg, max(error_pct, mark.error_pct or 0.0))
        to_failure = mark.reps + mark.rir
        if not 1 <= to_failure <= MOST_REPS or (mark.kind is MarkKind.SET_RIR and mark.rir > self.highest_rir):
            return None
        if mark.kind is MarkKind.SET_RIR:
            to_failure = min(max(1.0, to_failure + self.count_is_short_by), MOST_REPS)
        error_pct = self.rough_pct if to_failure >= ROUGH_FROM_REPS else error_pct
        return Reading(mark, self.relation.one_rm_kg(mark.load_kg + self.body_kg, to_failure), error_pct)


def max_from_mark(
    mark: Mark, rules: Rules = DEFAULT_RULES, relation: Relation | None = None, body_kg: float = 0.0
) -> float | None:
    """Return the 1RM in kg one mark implies by itself, or None when it says too little to count.

    Where bodyweight is lifted with the load, `body_kg` is that, and the 1RM what is added to it.
    """
    return maxes_from_marks((mark,), rules, relation, body_kg)[0]


def maxes_from_marks(
    marks: Iterable[Mark], rules: Rules = DEFAULT_RULES, relation: Relation | None = None, body_kg: float = 0.0
) -> list[float | None]:
    """Return `max_from_mark` of each of `marks`."""
    read = Reader(relation or rules.equation, rules, novice=False, body_kg=body_kg).read
    least_share = rules["max.least_share_pct"] / 100
    found: list[float | None] = []
    for mark in marks:
        reading = read(mark)
        too_light = reading and mark.kind is MarkKind.SET_RIR and mark.load_kg + body_kg < least_share * reading.max_kg
        found.append(None if reading is None or too_light else reading.max_kg - body_kg)
    return found


def words_of(mark: Mark, day: date, unit: str = "kg") -> str:
    """A mark in a few words, as it is read on a day in a room of `kg` or `lb`."""
    when = said_day(mark.day) if (day - mark.day).days < NAMES_THE_YEAR_DAYS else said_day(mark.day, year=True)
    name, load = KIND_NAMES[mark.kind], format_mass(mark.load_kg, unit) if mark.load_kg else "bodyweight"
    if mark.kind in SINGLES:
        return f"{name} {load} {unit}, {when}"
    if mark.kind is MarkKind.SET_RIR:
        return f"{load} × {mark.reps} with {mark.rir:g} in reserve, {when}"
    return f"{load} × {mark.reps} ({name}), {when}"


def said(mark: Mark, max_kg: float, day: date, unit: str = "kg") -> str:
    """A mark in words, and the max it implies unless that is the mark itself."""
    words = words_of(mark, day, unit)
    return words if mark.kind in SINGLES else f"{words} → {to_a_tenth(max_kg, unit)} {unit}"
