"""What is worked out of some marks or points, kept for whoever asks for the same again: a squad's page does so for everybody.

It depends on nothing but what it is asked with. What holds something of today is another after every set: of that only the
newest are kept, else a day of sets would stay in memory.
"""

from __future__ import annotations

from datetime import date
from functools import lru_cache
from typing import Any

from jarvok.core.exercises import Exercise
from jarvok.core.marks.mark import Mark
from jarvok.core.marks.working_max import CurrentMax, current_max
from jarvok.core.quantities.days import DayOrder, order_of_days
from jarvok.core.rules import Rules
from jarvok.core.velocity.daily_max import velocity_mark
from jarvok.core.velocity.profile import LoadVelocity, Profile, fit_profile

MARKS, PROFILES, MAXES = 20_000, 4_000, 8_000  # [T] of past days, enough for two hundred athletes
MARKS_TODAY, PROFILES_TODAY, MAXES_TODAY = 256, 256, 512  # [T]

_marks, _marks_today = lru_cache(MARKS)(velocity_mark), lru_cache(MARKS_TODAY)(velocity_mark)
_profiles, _profiles_today = lru_cache(PROFILES)(fit_profile), lru_cache(PROFILES_TODAY)(fit_profile)


def _max_said(_order: DayOrder, *args: Any, **more: Any) -> CurrentMax | None:
    """The max with its working, which names days in the reader's order."""
    return current_max(*args, **more)


_maxes, _maxes_today = lru_cache(MAXES)(_max_said), lru_cache(MAXES_TODAY)(_max_said)


def mark_of_day(
    points: tuple[LoadVelocity, ...], lift: Exercise, expected_kg: float | None, rules: Rules, *, is_today: bool
) -> Mark | None:
    """The max that one day's velocities say."""
    return (_marks_today if is_today else _marks)(points, lift, expected_kg, rules)


def profile_of(points: tuple[LoadVelocity, ...], expected_kg: float | None, rules: Rules, today: date) -> Profile | None:
    """The load–velocity profile of some points."""
    is_todays = any(p.day == today for p in points)
    return (_profiles_today if is_todays else _profiles)(points, expected_kg, rules)


def max_of(marks: tuple[Mark, ...], today: date, rules: Rules, **more: Any) -> CurrentMax | None:
    """The max that some marks say today; `more` as in `current_max`, each of a kind that can be kept."""
    is_todays = any(m.day == today for m in marks)
    return (_maxes_today if is_todays else _maxes)(order_of_days(), marks, today, rules=rules, **more)
