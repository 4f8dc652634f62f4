"""The same load on two days: which lines are held beside each other, and their error against numpy's own least squares."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, timedelta

import numpy as np
import pytest
from scipy import stats

from jarvok.core.learning.line_moved import line_between
from jarvok.core.rules import DEFAULT_RULES
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.profile import LoadVelocity

FIRST, LAST = date(2026, 8, 3), date(2026, 11, 24)
FRESH = int(DEFAULT_RULES["velocity.oldest_days"])
SCATTER = (0.012, -0.012, 0.0, -0.012, 0.012)
NEW = next(d for d in Definition if d is not Definition.CROSSING)


def line(
    day: date, at_80: float, loads: Iterable[float] = (40, 55, 70, 85, 100), definition: Definition = Definition.CROSSING
) -> list[LoadVelocity]:
    """Five loads of a day around a line that falls by 0.012 m/s a kilogram."""
    return [
        LoadVelocity(day, kg, at_80 - 0.012 * (kg - 80) + off, f"{day}:{kg}", definition)
        for kg, off in zip(loads, SCATTER, strict=True)
    ]


def test_the_error_of_both_lines_is_that_of_least_squares() -> None:
    then, now = line(FIRST, 0.60), line(LAST, 0.66)
    moved = line_between([*then, *now], FIRST, LAST)
    assert moved is not None
    assert moved.load_kg == 70
    x, y = np.array([p.load_kg for p in then]), np.array([p.velocity_mps for p in then])
    coefficients, covariance = np.polyfit(x, y, 1, cov=True)
    at = np.array([moved.load_kg, 1.0])
    error = stats.t.ppf(stats.norm.cdf(1), 3) * np.sqrt(at @ covariance @ at)
    assert moved.then.line_error_mps(moved.load_kg) == pytest.approx(error, rel=1e-3)
    assert moved.then_mps == pytest.approx(np.polyval(coefficients, 70))
    assert moved.change.change == pytest.approx(0.06)
    assert moved.change.typical_error == pytest.approx(error, rel=1e-3)  # both lines scatter alike


@pytest.mark.parametrize(("gain", "more"), [(0.010, False), (0.011, True), (-0.011, True)])
def test_more_than_noise_is_more_than_both_errors(gain: float, more: bool) -> None:
    moved = line_between([*line(FIRST, 0.6), *line(LAST, 0.6 + gain)], FIRST, LAST)
    assert moved is not None
    assert moved.change.is_more_than_noise is more


def test_it_is_asked_at_a_load_that_both_were_measured_at() -> None:
    moved = line_between([*line(FIRST, 0.6, (30, 40, 50, 60, 80)), *line(LAST, 0.6, (60, 75, 90, 100, 120))], FIRST, LAST)
    assert moved is not None
    assert moved.load_kg == 70
    apart = [*line(FIRST, 0.6, (20, 30, 40, 50, 60)), *line(LAST, 0.6, (60, 75, 90, 100, 120))]
    assert line_between(apart, FIRST, LAST) is None


@pytest.mark.parametrize(("days_before", "known"), [(FRESH - 1, True), (FRESH, False)])
def test_what_is_no_longer_fresh_on_its_day_makes_no_line(days_before: int, known: bool) -> None:
    old = line(FIRST - timedelta(days=days_before), 0.6)
    assert (line_between([*old, *line(LAST, 0.65)], FIRST, LAST) is not None) is known


def test_no_day_is_in_both_lines() -> None:
    near = LAST - timedelta(days=10)
    moved = line_between([*line(near, 0.6), *line(LAST, 0.7)], near, LAST)
    assert moved is not None
    assert {p.day for p in moved.then.points} == {near}
    assert {p.day for p in moved.now.points} == {LAST}


def test_velocities_taken_otherwise_and_lines_that_are_not_sound_are_not_compared() -> None:
    assert line_between([*line(FIRST, 0.6), *line(LAST, 0.6, definition=NEW)], FIRST, LAST) is None
    assert line_between([*line(FIRST, 0.6)[:3], *line(LAST, 0.6)], FIRST, LAST) is None
    with pytest.raises(ValueError, match="before"):
        line_between([], LAST, LAST)
