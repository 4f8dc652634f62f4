"""RPE in the weight room and repetitions in reserve."""

from __future__ import annotations

from jarvok.core.errors import CoachError
from jarvok.core.working import Source

SOURCE = Source("P", "Zourdos et al. 2016")

TOP, SHARED_ROW = 10.0, 6.0  # published: Zourdos et al. 2016, quoted from memory
# RPE -> repetitions in reserve, lowest and highest; Zourdos et al. 2016, quoted from memory
RIR_BY_RPE: dict[float, tuple[float, float]] = {
    10.0: (0.0, 0.0),
    9.5: (0.0, 0.0),  # nothing more, but a little more load
    9.0: (1.0, 1.0),
    8.5: (1.0, 2.0),
    8.0: (2.0, 2.0),
    7.5: (2.0, 3.0),
    7.0: (3.0, 3.0),
    6.0: (4.0, 6.0),
    5.0: (4.0, 6.0),
}


def rir_for_rpe(rpe: float) -> float:
    """Return repetitions in reserve for an RPE of 5-10 (halves from 7): the middle of the printed range.

    5 and 6 are printed together as four to six; within it they are what is left to ten.

    Raises `CoachError` for anything else.
    """
    if rpe not in RIR_BY_RPE:
        raise CoachError(f"RPE {rpe:g} is not on the scale.", where="rpe", accepted="5, 6, 7, 7.5, 8, 8.5, 9, 9.5 and 10 are.")
    low, high = RIR_BY_RPE[rpe]
    if rpe <= SHARED_ROW:
        return TOP - rpe
    return (low + high) / 2
