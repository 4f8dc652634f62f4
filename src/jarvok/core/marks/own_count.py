"""How an athlete's count of repetitions in reserve reads against the same athlete's sets to failure of those weeks.

Most lifters have about a repetition more left than they say (Halperin et al. 2022, a review of many studies, quoted from memory:
0.95 on average), and each is off in his own way. What the sets to failure say of the max
says how many repetitions a counted set had in it; the difference is kept as far as there are sets enough to know it.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from itertools import accumulate
from statistics import fmean, stdev

from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.relation import Relation, reps_at
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import Rules

TO_FAILURE = (MarkKind.AMRAP, MarkKind.REP_MAX)
MOST_REPS_HELD = 10  # [J] beyond them repetitions say too little of the max
BESIDE_DAYS = 28  # [J] a max of so long ago, or ahead, is still about the same
USUAL_SPREAD_REPS = 1.0  # [J] how far lifters' counts usually lie apart
SET_TO_FAILURE_REPS = 0.75  # [J] how far a single set to failure lies off, in repetitions
LEAST_SCATTER_REPS = 0.5  # [J] counts are whole: they lie no closer together
ALIKE_SETS = 2  # [J] sets of one session are off together: so many say no more than one
MOST_OFF_REPS = 2.0  # [J] further off it is no count


@dataclass(frozen=True)
class OwnCount:
    """What a count in reserve is short of (repetitions; below 0 it says too many), the sets held against each other, in words."""

    short_by: float
    counted: int
    to_failure: int

    @property
    def words(self) -> str:
        """How the count is read."""
        short_by = round(self.short_by, 1)
        way = "more" if short_by > 0 else "fewer"
        read = f"read as {abs(short_by):g} repetitions {way}" if short_by else "right"
        return f"{read}: own {counted(self.counted, 'set')} against {self.to_failure} to failure of the same weeks"


def own_count(marks: Sequence[Mark], relation: Relation, rules: Rules, body_kg: float = 0.0) -> OwnCount | None:
    """Return how the athlete's count is read, or None with fewer than `max.reserve_pairs` sets of either kind.

    It leans on a count that is right by as much as the sets leave open, and is never more than two repetitions off.
    """
    marks = [m for m in marks if m.load_kg + body_kg > 0]
    held = [m for m in marks if m.kind in TO_FAILURE and 1 < m.reps <= MOST_REPS_HELD]
    most_left = rules["max.highest_rir"]
    sets = [m for m in marks if m.kind is MarkKind.SET_RIR and m.rir <= most_left and m.reps + m.rir <= MOST_REPS_HELD]
    held.sort(key=lambda m: m.day)
    days = [m.day for m in held]
    sums = [0.0, *accumulate(relation.one_rm_kg(m.load_kg + body_kg, m.reps) for m in held)]
    off: list[float] = []
    for one in sets:
        first = bisect_left(days, one.day - timedelta(days=BESIDE_DAYS))
        behind = bisect_right(days, one.day + timedelta(days=BESIDE_DAYS))
        if first < behind:
            beside_kg = (sums[behind] - sums[first]) / (behind - first)
            off.append(reps_at(relation, beside_kg / (one.load_kg + body_kg)) - one.reps - one.rir)
    least = int(rules["max.reserve_pairs"])
    if len(off) < max(least, ALIKE_SETS) or len(held) < least:
        return None
    scatter = max(stdev(off), LEAST_SCATTER_REPS)
    open_still = ALIKE_SETS * scatter**2 / len(off) + SET_TO_FAILURE_REPS**2 / len(held)
    short_by = fmean(off) * USUAL_SPREAD_REPS**2 / (USUAL_SPREAD_REPS**2 + open_still)
    return OwnCount(max(-MOST_OFF_REPS, min(MOST_OFF_REPS, short_by)), len(off), len(held))
