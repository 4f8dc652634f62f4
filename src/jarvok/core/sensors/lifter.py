"""A simulated lifter with a hidden true strength: what the demo's history and the simulated bar sensor are made from.

Spreads are technical [T]: near those of trained lifters, so that the demo scatters as people do.
"""

from __future__ import annotations

from dataclasses import dataclass

from numpy.random import Generator

from jarvok.core.exercises import Exercise, Pattern
from jarvok.core.sensors.trace import Trace, simulate_set

REP_SPREAD_MPS = 0.012  # repetition to repetition
SET_SPREAD = 0.010  # a set's own form, as a share of strength


@dataclass(frozen=True)
class TrueStrength:
    """The hidden truth of one lifter in one lift: 1RM in kg on a normal day, and the velocities at 100 and 40 %."""

    one_rm_kg: float
    max_mps: float
    light_mps: float


@dataclass(frozen=True)
class LiftedSet:
    """One set as the simulated lifter did it: mean velocities of the repetitions done, and what was left."""

    velocities_mps: tuple[float, ...]
    reserve: float

    @property
    def reps(self) -> int:
        """Repetitions done."""
        return len(self.velocities_mps)


def true_strength(one_rm_kg: float, exercise: Exercise, rng: Generator) -> TrueStrength:
    """Return a lifter's hidden numbers around the lift's general relation."""
    heavy = exercise.v1rm.mps if exercise.v1rm else 0.25
    light = exercise.light_load.mps if exercise.light_load else 1.05
    return TrueStrength(one_rm_kg, heavy + float(rng.normal(0, 0.015)), light + float(rng.normal(0, 0.03)))


def first_rep_mps(truth: TrueStrength, load_kg: float, form: float = 1.0) -> float:
    """Return the velocity of a fresh repetition at a load; `form` is the day's strength as a share of the usual."""
    share = load_kg / (truth.one_rm_kg * form)
    return truth.max_mps + (1.0 - share) * (truth.light_mps - truth.max_mps) / 0.6


def reps_to_failure(truth: TrueStrength, load_kg: float, form: float = 1.0) -> float:
    """Return how many repetitions the load allows today (0 above the max), after the default rep relation."""
    share = load_kg / (truth.one_rm_kg * form)
    return 0.0 if share > 1.0 else 1.0 if share > 0.968 else 30 * (1 / share - 1)


def lift_set(truth: TrueStrength, load_kg: float, reps: int, form: float, rng: Generator) -> LiftedSet:
    """Return what the lifter does when asked for `reps`: fewer when they are not there."""
    today = form * (1 + float(rng.normal(0, SET_SPREAD)))
    possible = reps_to_failure(truth, load_kg, today)
    count = min(reps, int(possible))
    first = first_rep_mps(truth, load_kg, today)
    last_possible = truth.max_mps
    velocities: list[float] = []
    for i in range(count):
        spent = i / max(1.0, possible - 1) if possible > 1 else 0.0
        mean = first - (first - last_possible) * spent**1.15 + float(rng.normal(0, REP_SPREAD_MPS))
        velocities.append(max(0.08, mean))
    return LiftedSet(tuple(velocities), max(0.0, possible - count))


def trace_of(lifted: LiftedSet, exercise: Exercise, rate_hz: float, noise_m: float, rng: Generator) -> Trace:
    """Return the bar positions of a lifted set as a sensor would send them."""
    pattern = exercise.simulated_pattern or Pattern.SQUAT
    return simulate_set(pattern, list(lifted.velocities_mps), exercise.simulated_range_m, rate_hz, noise_m, rng)
