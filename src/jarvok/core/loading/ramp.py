"""Warm-up sets from the empty bar to the first work set."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.quantities.plates import Barbell, Implement, build

# share of the first work load and repetitions; common practice, steps are Jarvok's choice
STEPS: tuple[tuple[float, int], ...] = ((0.40, 6), (0.60, 5), (0.75, 3), (0.88, 2))
LEAST_STEP_KG = 5.0  # [J] a smaller step than this is not worth a stop


@dataclass(frozen=True)
class RampSet:
    """One warm-up set: load in kg, plates per side, repetitions."""

    load_kg: float
    per_side_kg: tuple[float, ...]
    reps: int


def ramp_to(work_kg: float, implement: Implement, reps: int) -> tuple[RampSet, ...]:
    """Return 0-4 rising warm-up sets below `work_kg`, repetitions falling and never above twice the work set's.

    With a barbell whose empty weight is near the work load the ramp is short; it never reaches the work load.
    """
    found: list[RampSet] = []
    for share, most in STEPS:
        built = build(round(share * work_kg, 2), implement)
        last = found[-1].load_kg if found else 0.0
        if built.load_kg - last < LEAST_STEP_KG or work_kg - built.load_kg < LEAST_STEP_KG / 2:
            continue
        if isinstance(implement, Barbell) and built.load_kg < implement.bar_kg:
            continue
        found.append(RampSet(built.load_kg, built.per_side_kg, max(1, min(most, 2 * max(reps, 1)))))
    return tuple(found)
