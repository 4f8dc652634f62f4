"""The load-velocity profile of one athlete in one exercise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import lru_cache
from itertools import pairwise

import numpy as np

from jarvok.core.exercises import Exercise
from jarvok.core.quantities.mass import format_kg
from jarvok.core.quantities.student import t_quantile
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.velocity.definition import DEFINITION_WORDS, Definition

USUAL_CONFIDENCE = 0.95  # [T]
ONE_ERROR_CONFIDENCE = 0.6827  # published: the share within one standard error, from the normal distribution
LEAST_LOADS = 3  # [C] for a line
HEAVIEST_SHARE = 0.9  # [J] what the heaviest tested load is taken for where no max is known


@dataclass(frozen=True)
class LoadVelocity:
    """The fastest repetition at one load on one day: load in kg, mean (or peak) velocity in m/s, its fact, and from where to
    where the velocity was taken.
    """

    day: date
    load_kg: float
    velocity_mps: float
    ref: str = ""
    definition: Definition = Definition.CROSSING


@lru_cache(maxsize=512)
def _t(confidence: float, degrees: int) -> float:
    return t_quantile(0.5 + confidence / 2, degrees)


@dataclass(frozen=True)
class Profile:
    """velocity = intercept + slope · load, by least squares. `quality` is empty when every gate is passed.

    `definition` is that of all its points; `waiting` says in words that newer numbers of another kind do not make a line yet.
    """

    intercept_mps: float
    slope_mps_per_kg: float
    r_squared: float
    error_mps: float
    points: tuple[LoadVelocity, ...]
    quality: tuple[str, ...]
    definition: Definition = Definition.CROSSING
    waiting: str = ""

    @property
    def is_sound(self) -> bool:
        """Whether the line may set loads."""
        return not self.quality

    @property
    def loads_kg(self) -> tuple[float, float]:
        """Lightest and heaviest load of the points."""
        loads = [p.load_kg for p in self.points]
        return min(loads), max(loads)

    def velocity_mps(self, load_kg: float) -> float:
        """Return the velocity the line expects at a load."""
        return self.intercept_mps + self.slope_mps_per_kg * load_kg

    def load_kg(self, velocity_mps: float) -> float:
        """Return the load at which the line expects a velocity."""
        return (velocity_mps - self.intercept_mps) / self.slope_mps_per_kg

    def line_error_mps(self, load_kg: float) -> float:
        """One standard error of the line itself at a load, widened as Student's t asks for so few points."""
        loads = np.array([p.load_kg for p in self.points])
        n, mean = len(loads), float(loads.mean())
        spread = float(((loads - mean) ** 2).sum())
        return _t(ONE_ERROR_CONFIDENCE, n - 2) * self.error_mps * float((1 / n + (load_kg - mean) ** 2 / spread) ** 0.5)

    def prediction_half_width_mps(self, load_kg: float, confidence: float = USUAL_CONFIDENCE) -> float:
        """Half width of the interval in which one new repetition at `load_kg` should fall."""
        loads = np.array([p.load_kg for p in self.points])
        n = len(loads)
        spread = float(((loads - loads.mean()) ** 2).sum())
        t = _t(confidence, n - 2)
        return t * self.error_mps * float((1 + 1 / n + (load_kg - float(loads.mean())) ** 2 / spread) ** 0.5)

    def load_interval_kg(self, velocity_mps: float, confidence: float = USUAL_CONFIDENCE) -> tuple[float, float] | None:
        """Interval for the load at a velocity by inverse regression (Fieller); None when the slope is too unsure."""
        loads = np.array([p.load_kg for p in self.points])
        n, mean = len(loads), float(loads.mean())
        spread = float(((loads - mean) ** 2).sum())
        t = _t(confidence, n - 2)
        g = (t * self.error_mps) ** 2 / (self.slope_mps_per_kg**2 * spread)
        if g >= 1:
            return None
        offset = self.load_kg(velocity_mps) - mean
        root = t * self.error_mps / abs(self.slope_mps_per_kg) * ((1 - g) / n + offset**2 / spread) ** 0.5
        low, high = (offset - root) / (1 - g), (offset + root) / (1 - g)
        return mean + low, mean + high


def fastest_per_load(points: Sequence[LoadVelocity]) -> tuple[LoadVelocity, ...]:
    """Keep the fastest repetition of each load of each day, rising by load."""
    best: dict[tuple[date, float], LoadVelocity] = {}
    for point in points:
        key = (point.day, round(point.load_kg, 2))
        if key not in best or point.velocity_mps > best[key].velocity_mps:
            best[key] = point
    return tuple(sorted(best.values(), key=lambda p: (p.load_kg, p.day)))


def fit_profile(points: Sequence[LoadVelocity], one_rm_kg: float | None, rules: Rules = DEFAULT_RULES) -> Profile | None:
    """Fit the line to the fastest repetition of each load; None with fewer than three loads or no slope.

    `one_rm_kg` places the loads in per cent for the span gate; without it the heaviest load stands for 90 %. Velocities taken
    from other to other points of the lift are never put on one line: the newest kind that makes a sound line is used, and an
    older line stays in use until then.
    """
    by_kind: dict[Definition, list[LoadVelocity]] = {}
    for point in sorted(points, key=lambda p: p.day, reverse=True):
        by_kind.setdefault(point.definition, []).append(point)
    lines = [line for rows in by_kind.values() if (line := _fit_one(rows, one_rm_kg, rules)) is not None]
    if not lines:
        return None
    chosen = next((line for line in lines if line.is_sound), lines[0])
    newest = next(iter(by_kind))
    if chosen.definition is newest:
        return chosen
    words = (
        f"the line is of velocities {DEFINITION_WORDS[chosen.definition]}; those since then, {DEFINITION_WORDS[newest]}, "
        f"take over once they make a line of their own: until then the max of a day may read up to {SHIFT_PCT:g} % otherwise"
    )
    return replace(chosen, waiting=words)


def _fit_one(points: Sequence[LoadVelocity], one_rm_kg: float | None, rules: Rules) -> Profile | None:
    """The line of velocities of one kind."""
    kept = fastest_per_load(points)
    if len({round(p.load_kg, 1) for p in kept}) < LEAST_LOADS:
        return None
    loads = np.array([p.load_kg for p in kept])
    velocities = np.array([p.velocity_mps for p in kept])
    centred = loads - loads.mean()
    slope = float(centred @ velocities / (centred @ centred))
    intercept = float(velocities.mean() - slope * loads.mean())
    residual = velocities - intercept - slope * loads
    misfit, total = float(residual @ residual), float(((velocities - velocities.mean()) ** 2).sum())
    if slope >= 0 or total == 0:
        return None
    return Profile(
        intercept,
        slope,
        1 - misfit / total,
        (misfit / (len(kept) - 2)) ** 0.5,
        kept,
        _gates(kept, 1 - misfit / total, one_rm_kg, rules),
        kept[0].definition,
    )


SHIFT_PCT = 2.0  # [C] between two definitions of the same phase, at the max


def _gates(points: Sequence[LoadVelocity], r_squared: float, one_rm_kg: float | None, rules: Rules) -> tuple[str, ...]:
    least_loads, least_span, least_r2 = (rules[f"velocity.{name}"] for name in ("least_loads", "least_span", "least_r2"))
    said: list[str] = []
    distinct = sorted({round(p.load_kg, 1) for p in points})
    if len(distinct) < least_loads:
        said.append(f"{len(distinct)} loads so far; {least_loads:g} are needed, five are better")
    reference = one_rm_kg if one_rm_kg else distinct[-1] / HEAVIEST_SHARE
    span = 100 * (distinct[-1] - distinct[0]) / reference
    if span < least_span:
        said.append(
            f"the loads cover {span:.0f} % of the max; {least_span:.0f} % are needed: "
            f"add a lighter one than {format_kg(distinct[0])} kg"
        )
    if r_squared < least_r2:
        said.append(f"R² is {r_squared:.2f}; {least_r2:.2f} is needed: was every repetition done with full intent?")
    if len({p.day for p in points}) == 1 and any(
        b.velocity_mps >= a.velocity_mps for a, b in pairwise(points) if b.load_kg > a.load_kg
    ):
        said.append("a heavier load was moved faster than a lighter one")
    return tuple(said)


GENERAL_SLOPE_MPS = -1.2  # [J] mean velocity over the whole max, where an athlete has no line of their own
PEAK_STEEPER = 1.6  # [J] peak velocity falls so much faster


def record_at(profile: Profile | None, target_mps: float, *, before: date | None = None) -> LoadVelocity | None:
    """Return the heaviest load of a profile's own points still moved at a velocity in m/s, before a day if given; or None."""
    points = profile.points if profile is not None else ()
    passed = [p for p in points if p.velocity_mps >= target_mps and (before is None or p.day < before)]
    return max(passed, key=lambda p: p.load_kg, default=None)


def general_slope_mps_per_kg(max_kg: float, *, is_peak: bool = False) -> float:
    """Return the slope in m/s per kg to use for a lifter without a line of their own, from the max in kg (above 0)."""
    return GENERAL_SLOPE_MPS * (PEAK_STEEPER if is_peak else 1.0) / max_kg


def general_share_for_velocity(exercise: Exercise, velocity_mps: float) -> float | None:
    """Return the share of 1RM at a mean velocity by the general line of this lift, or None when there is none.

    A published equation where the lift has one, else a straight line between two anchors (velocity at a light load
    and at the max). Bounded to 0.2-1.0.
    """
    equation = PUBLISHED_PERCENT.get(exercise.id)
    if equation is not None:
        return min(1.0, max(0.2, equation(velocity_mps) / 100))
    heavy, light = exercise.v1rm, exercise.light_load
    if heavy is None or light is None:
        return None
    share = light.share + (velocity_mps - light.mps) * (heavy.share - light.share) / (heavy.mps - light.mps)
    return min(1.0, max(0.2, share))


def general_velocity_mps(exercise: Exercise, share_of_max: float) -> float | None:
    """Return the mean velocity the general line of this lift expects at a share of 1RM, or None."""
    heavy, light = exercise.v1rm, exercise.light_load
    if heavy is None or light is None:
        return None
    return light.mps + (share_of_max - light.share) * (heavy.mps - light.mps) / (heavy.share - light.share)


def bench_press_percent(mpv_mps: float) -> float:
    """%1RM in the bench press at a mean propulsive velocity. González-Badillo & Sánchez-Medina 2010, from memory."""
    return 8.4326 * mpv_mps**2 - 73.501 * mpv_mps + 112.33


def full_squat_percent(mpv_mps: float) -> float:
    """%1RM in the full squat at a mean propulsive velocity. Sánchez-Medina et al. 2017, from memory."""
    return -5.961 * mpv_mps**2 - 50.71 * mpv_mps + 117.0


PUBLISHED_PERCENT = {
    "bench_press": bench_press_percent,
    "fast_bench_press": bench_press_percent,
    "back_squat": full_squat_percent,
}
