"""Warm-up sets from the empty bar to the first work set."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.exercises import Exercise
from jarvok.core.quantities.plates import Barbell, Implement, build
from jarvok.core.rules import DEFAULT_RULES, Rules

# share of the first work load and repetitions; common practice, steps are Jarvok's choice
STEPS: tuple[tuple[float, int], ...] = ((0.40, 6), (0.60, 5), (0.75, 3), (0.88, 2))
# [J] where the warm-up has to say the day's max: a profile needs 40 points of span, and a last load near the work load
MEASURED_STEPS = ((0.25, 6), *STEPS, (0.95, 1))


@dataclass(frozen=True)
class RampSet:
    """One warm-up set: load in kg, plates per side, repetitions."""

    load_kg: float
    per_side_kg: tuple[float, ...]
    reps: int


def ramp_to(
    work_kg: float, implement: Implement, reps: int, *, is_measured: bool = False, rules: Rules = DEFAULT_RULES
) -> tuple[RampSet, ...]:
    """Return 0-6 rising warm-up sets below `work_kg`, repetitions falling and never above twice the work set's.

    `is_measured` begins lighter and ends heavier, so that the velocities of the ramp can say the day's max. With a
    barbell whose empty weight is near the work load the ramp is short; it never reaches the work load.
    """
    found: list[RampSet] = []
    least_kg = rules["load.least_warm_up_step_kg"]
    for share, most in MEASURED_STEPS if is_measured else STEPS:
        built = build(round(share * work_kg, 2), implement)
        last = found[-1].load_kg if found else 0.0
        if built.load_kg - last < least_kg or work_kg - built.load_kg < least_kg / 2:
            continue
        if isinstance(implement, Barbell) and built.load_kg < implement.bar_kg:
            continue
        found.append(RampSet(built.load_kg, built.per_side_kg, max(1, min(most, 2 * max(reps, 1)))))
    return tuple(found)


@dataclass(frozen=True)
class RampedLine:
    """A line that may need warm-up sets: its slot, exercise, implement, first work load in kg and repetitions.

    `is_measured` where the load is a share of the day's max.
    """

    slot: str
    exercise: Exercise
    implement: Implement | None
    first_kg: float | None
    reps: int
    is_measured: bool = False


def session_ramps(lines: Sequence[RampedLine], rules: Rules = DEFAULT_RULES) -> dict[str, tuple[RampSet, ...]]:
    """Return warm-up sets by slot: each barbell strength lift among the main lines is warmed up once."""
    found: dict[str, tuple[RampSet, ...]] = {}
    warmed: set[str] = set()
    for line in lines:
        lift = line.exercise
        if not isinstance(line.implement, Barbell) or not line.first_kg or lift.kind not in ("strength", "classic"):
            continue
        if lift.same_lift not in warmed:
            found[line.slot] = ramp_to(line.first_kg, line.implement, line.reps, is_measured=line.is_measured, rules=rules)
            warmed.add(lift.same_lift)
    return found
