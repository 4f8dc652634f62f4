"""The relation of repetitions and load: one of the published equations, or the athlete's own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Protocol

import numpy as np

from jarvok.core.equations import DEFAULT_EQUATION, MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.working import Source

LEAST_SPAN_REPS = 4  # [J] a 3RM, a 4RM and a 5RM say little about the slope
MARK_NOISE = 0.03  # [J] how far a rep-max usually lies off the line, as a share
SLOPE_SPREAD = 0.2  # [J] how far athletes' slopes lie apart, as a share of the usual one
GROWTH_SPREAD_A_DAY = 0.0006  # [J] a max moves by about 0.4 % a week
USUAL_AT_REPS = 6  # [J] the usual relation's slope is read between a single and so many
SLOPES = (0.012, 0.065)  # [J] per repetition; outside, the marks contradict each other (Epley is 0.033)


class Relation(Protocol):
    """Reads both ways: `ratio(reps)` is 1RM divided by the load that allows `reps` to failure."""

    @property
    def name(self) -> str:
        """What it is called on screen."""

    @property
    def source(self) -> Source:
        """Where it comes from."""

    def ratio(self, reps: float) -> float:
        """Return 1RM / load for 1-15 repetitions; exactly 1 for a single."""

    def load_kg(self, one_rm_kg: float, reps: float) -> float:
        """Return the load in kg that allows `reps` to failure."""

    def one_rm_kg(self, load_kg: float, reps: float) -> float:
        """Return the 1RM in kg that `reps` to failure at `load_kg` imply."""


@dataclass(frozen=True)
class WithBody:
    """A relation of what is added to bodyweight: repetitions hang on both together, which `of` reads. `body_kg` is over 0."""

    of: Relation
    body_kg: float

    @property
    def name(self) -> str:
        """What it is called on screen."""
        return f"{self.of.name}, with {self.body_kg:.0f} kg of bodyweight"

    @property
    def source(self) -> Source:
        """Where it comes from."""
        return self.of.source

    def ratio(self, reps: float) -> float:
        """Return bodyweight and 1RM together over bodyweight and load together."""
        return self.of.ratio(reps)

    def load_kg(self, one_rm_kg: float, reps: float) -> float:
        """Return what is added, in kg, where `reps` to failure are done; below 0 where bodyweight alone is too much."""
        return self.of.load_kg(one_rm_kg + self.body_kg, reps) - self.body_kg

    def one_rm_kg(self, load_kg: float, reps: float) -> float:
        """Return what is added for a single, in kg, that `reps` to failure with `load_kg` added imply."""
        return self.of.one_rm_kg(load_kg + self.body_kg, reps) - self.body_kg


OWN_SOURCE = Source("fact", "fitted to the athlete's own rep-maxes")


@dataclass(frozen=True)
class OwnRelation:
    """1RM / load = 1 + slope · (repetitions − 1), fitted to the athlete's own rep-maxes."""

    slope: float
    marks: tuple[Mark, ...]
    name: str = "own repetitions"
    source: Source = OWN_SOURCE

    def ratio(self, reps: float) -> float:
        """Return 1RM / load; raises `CoachError` outside 1-15 repetitions."""
        if not 1 <= reps <= MOST_REPS:
            raise CoachError(
                f"{reps:g} repetitions say too little about a max.", where="reps", accepted=f"1 to {MOST_REPS} are accepted."
            )
        return 1 + self.slope * (reps - 1)

    def load_kg(self, one_rm_kg: float, reps: float) -> float:
        """Return the load in kg that allows `reps` to failure."""
        return one_rm_kg / self.ratio(reps)

    def one_rm_kg(self, load_kg: float, reps: float) -> float:
        """Return the 1RM in kg that `reps` to failure at `load_kg` imply."""
        return load_kg * self.ratio(reps)


HALVINGS = 24  # [T] to a millionth of a repetition


def reps_at(relation: Relation, ratio: float) -> float:
    """Return the repetitions to failure (1-15) that belong to a ratio of 1RM to load; the nearest of them outside."""
    low, high = 1.0, float(MOST_REPS)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if relation.ratio(middle) < ratio else (low, middle)
    return (low + high) / 2


def own_relation(
    marks: Sequence[Mark], day: date, *, least_marks: int, within_days: int, usual: Relation = DEFAULT_EQUATION
) -> OwnRelation | None:
    """Fit the athlete's own relation to the rep-maxes of the last `within_days`, or return None when there is too little.

    1/load is a straight line in repetitions and nearly one in days (the max rises between the marks), so both are fitted
    at once by least squares; the slopes lean on the `usual` relation and on a level max by as much as the marks leave open.
    Needs `least_marks` marks at three or more counts of repetitions (1-10) at least four apart, and a plausible slope.
    """
    kinds = (MarkKind.REP_MAX, MarkKind.AMRAP)
    used = [m for m in marks if m.kind in kinds and 1 <= m.reps <= 10 and 0 <= (day - m.day).days <= within_days]
    counts = {m.reps for m in used}
    if len(used) < least_marks or len(counts) < 3 or max(counts) - min(counts) < LEAST_SPAN_REPS:
        return None
    if not _is_plausible(used):
        return None
    about_kg = float(np.mean([m.load_kg * usual.ratio(m.reps) for m in used]))
    expected = (usual.ratio(USUAL_AT_REPS) - 1) / (USUAL_AT_REPS - 1)
    design = np.array([[1.0, m.reps - 1.0, (m.day - day).days] for m in used]) / MARK_NOISE
    seen = about_kg / np.array([m.load_kg for m in used]) / MARK_NOISE
    spreads = (SLOPE_SPREAD * expected, GROWTH_SPREAD_A_DAY)
    rows = np.vstack([design, [0, 1 / spreads[0], 0], [0, 0, 1 / spreads[1]]])
    values = np.append(seen, [expected / spreads[0], 0.0])
    alpha, beta, _ = np.linalg.lstsq(rows, values, rcond=None)[0]
    return OwnRelation(float(beta / alpha), tuple(used))


def _is_plausible(used: Sequence[Mark]) -> bool:
    """Whether the marks by themselves lie on a line that somebody's repetitions could."""
    beta, alpha = np.polyfit([m.reps - 1.0 for m in used], [1 / m.load_kg for m in used], 1)
    return bool(alpha > 0 and SLOPES[0] <= beta / alpha <= SLOPES[1])
