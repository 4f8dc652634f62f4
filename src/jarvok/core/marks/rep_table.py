"""The textbook table of repetitions and %1RM: for display, teaching and fallback only."""

from __future__ import annotations

from jarvok.core.errors import CoachError
from jarvok.core.working import Source

# per cent of 1RM; Haff & Triplett, Essentials of Strength Training and Conditioning, 4th ed., 2016, from memory
SOURCE = Source("P", "Haff & Triplett 2016")
# published: see SOURCE; quoted from memory
PERCENT_BY_REPS: dict[int, float] = {
    1: 100.0,
    2: 95.0,
    3: 93.0,
    4: 90.0,
    5: 87.0,
    6: 85.0,
    7: 83.0,
    8: 80.0,
    9: 77.0,
    10: 75.0,
    11: 70.0,
    12: 67.0,
    15: 65.0,
}


def percent_for_reps(reps: int) -> float:
    """Return %1RM for `reps` by the published table; 13 and 14 lie on the line between 12 and 15. Raises outside 1-15."""
    if reps in PERCENT_BY_REPS:
        return PERCENT_BY_REPS[reps]
    if reps in (13, 14):
        low, high = PERCENT_BY_REPS[12], PERCENT_BY_REPS[15]
        return low + (high - low) * (reps - 12) / 3
    raise CoachError(f"The table has no row for {reps} repetitions.", where="reps", accepted="Rows 1 to 15 exist.")
