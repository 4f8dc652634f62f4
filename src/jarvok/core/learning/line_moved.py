"""Whether an athlete moves the same load faster than on an earlier day: the load–velocity line then and now, at one load."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import sqrt

from jarvok.core.learning.noise import Change
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.velocity.profile import LoadVelocity, Profile, fit_profile

LEAST_MOVED_MPS = 0.03  # [J] less changes a load by less than its rounding


@dataclass(frozen=True)
class LineMoved:
    """Two lines of one lift, the load in kg in the middle of what both were measured at, and what the lines say there in m/s."""

    then: Profile
    now: Profile
    load_kg: float
    change: Change

    @property
    def then_mps(self) -> float:
        """What the earlier line says at the load."""
        return self.then.velocity_mps(self.load_kg)

    @property
    def now_mps(self) -> float:
        """What the later line says at the load."""
        return self.now.velocity_mps(self.load_kg)


def line_between(
    points: Sequence[LoadVelocity],
    first: date,
    last: date,
    *,
    then_max_kg: float | None = None,
    now_max_kg: float | None = None,
    rules: Rules = DEFAULT_RULES,
) -> LineMoved | None:
    """Return the lines of two days; None where one of them is not sound, or they have no load or definition in common.

    A line is of the loads of the days that count as fresh on its day, or of the time between the days where that is less: no
    day is in both. The change is held against the standard error of both lines at the load, as two tests are against √2 typical
    errors. The maxes in kg, where known, place the loads for the gates. Raises ValueError where `first` is not before `last`.
    """
    if first >= last:
        raise ValueError("the first day is before the last")
    length = timedelta(days=min(int(rules["velocity.oldest_days"]), (last - first).days))
    lines = [
        fit_profile([p for p in points if day - length < p.day <= day], max_kg, rules)
        for day, max_kg in ((first, then_max_kg), (last, now_max_kg))
    ]
    then, now = lines
    if then is None or now is None or not (then.is_sound and now.is_sound) or then.definition is not now.definition:
        return None
    lightest, heaviest = (
        pick(ends) for pick, ends in zip((max, min), zip(then.loads_kg, now.loads_kg, strict=True), strict=True)
    )
    if lightest >= heaviest:
        return None
    load_kg = (lightest + heaviest) / 2
    error = sqrt((then.line_error_mps(load_kg) ** 2 + now.line_error_mps(load_kg) ** 2) / 2)
    change = Change(now.velocity_mps(load_kg) - then.velocity_mps(load_kg), error, LEAST_MOVED_MPS)
    return LineMoved(then, now, load_kg, change)
