"""The max of a day from the velocities of that day's sets."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.exercises import Exercise
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.velocity.profile import LoadVelocity, Profile, fit_profile

MOST_EXTRAPOLATION = 1.40  # [J] the max may lie at most this far above the heaviest load of the day


@dataclass(frozen=True)
class DailyMax:
    """The load at V1RM on the day's own line in kg, with its 95 % interval, the line and what is missing."""

    load_kg: float | None
    interval_kg: tuple[float, float] | None
    profile: Profile | None
    missing: tuple[str, ...]


def daily_max(
    points: Sequence[LoadVelocity], exercise: Exercise, one_rm_kg: float | None, rules: Rules = DEFAULT_RULES
) -> DailyMax:
    """Return the max that the sets of one day imply; no load, and the reasons, when a gate is not passed."""
    if exercise.v1rm is None or exercise.velocity != "mean":
        return DailyMax(None, None, None, ("no velocity at 1RM is known for this lift",))
    profile = fit_profile(points, one_rm_kg, rules)
    if profile is None:
        return DailyMax(None, None, None, ("at least four different loads with velocity are needed in the day",))
    if not profile.is_sound:
        return DailyMax(None, None, profile, profile.quality)
    load = profile.load_kg(exercise.v1rm.mps)
    if load > MOST_EXTRAPOLATION * profile.loads_kg[1]:
        return DailyMax(None, None, profile, ("the heaviest load of the day is too light to say",))
    return DailyMax(load, profile.load_interval_kg(exercise.v1rm.mps), profile, ())


def velocity_mark(
    points: Sequence[LoadVelocity], exercise: Exercise, one_rm_kg: float | None, rules: Rules = DEFAULT_RULES
) -> Mark | None:
    """Return the day's velocity-based max as evidence, referring to its heaviest set, or None."""
    result = daily_max(points, exercise, one_rm_kg, rules)
    if result.load_kg is None or not points:
        return None
    heaviest = max(points, key=lambda p: p.load_kg)
    error_pct = None
    if result.interval_kg is not None:  # [T] half the 95 % interval is about two standard errors
        error_pct = 100 * (result.interval_kg[1] - result.interval_kg[0]) / 4 / result.load_kg
    return Mark(heaviest.ref, heaviest.day, MarkKind.VELOCITY_MAX, round(result.load_kg, 1), error_pct=error_pct)
