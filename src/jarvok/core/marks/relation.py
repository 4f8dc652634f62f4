"""The relation of repetitions and load: one of the published equations, or the athlete's own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Protocol

import numpy as np

from jarvok.core.equations import MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.working import Source

LEAST_SPAN_REPS = 4  # [J] a 3RM, a 4RM and a 5RM say little about the slope
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


def own_relation(marks: Sequence[Mark], day: date, *, least_marks: int, within_days: int) -> OwnRelation | None:
    """Fit the athlete's own relation to the rep-maxes of the last `within_days`, or return None when there is too little.

    1/load is a straight line in repetitions, so the fit is linear least squares on 1/load. Needs `least_marks` marks
    at three or more counts of repetitions (1-10) at least four apart, and a plausible slope.
    """
    kinds = (MarkKind.ONE_RM, MarkKind.REP_MAX, MarkKind.AMRAP)
    used = [m for m in marks if m.kind in kinds and 1 <= m.reps <= 10 and 0 <= (day - m.day).days <= within_days]
    counts = {m.reps for m in used}
    if len(used) < least_marks or len(counts) < 3 or max(counts) - min(counts) < LEAST_SPAN_REPS:
        return None
    reps = np.array([m.reps for m in used], dtype=float) - 1
    inverse = 1 / np.array([m.load_kg for m in used])
    beta = float(((reps - reps.mean()) * (inverse - inverse.mean())).sum() / ((reps - reps.mean()) ** 2).sum())
    alpha = float(inverse.mean() - beta * reps.mean())
    if alpha <= 0 or not SLOPES[0] <= beta / alpha <= SLOPES[1]:
        return None
    return OwnRelation(beta / alpha, tuple(used))
