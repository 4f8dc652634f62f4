"""Two athletes or two phases beside each other: the error of a difference is that of every number in it."""

from __future__ import annotations

from datetime import date, timedelta
from math import sqrt

import numpy as np
import pytest
from scipy import stats

from jarvok.core.learning.beside import Brought, Known, athletes_beside, phases_beside
from jarvok.core.learning.measured import WINDOW_DAYS, between_athletes

DAY = date(2026, 11, 24)


def known(value: float, error: float, days_before: int = 0) -> Known:
    return Known(DAY - timedelta(days=days_before), value, error)


@pytest.mark.parametrize(("other", "is_more"), [(104.99, False), (105.01, True), (94.99, True), (95.01, False)])
def test_of_two_athletes_the_errors_add_up_as_squares(other: float, is_more: bool) -> None:
    change = athletes_beside(known(100, 3), known(other, 4))  # 3 and 4 give 5
    assert change.change == pytest.approx(other - 100)
    assert sqrt(2) * change.typical_error == pytest.approx(5)
    assert change.is_more_than_noise is is_more


def test_what_is_too_small_to_matter_is_said_of_athletes_too() -> None:
    assert athletes_beside(known(100, 1), known(104, 1), worthwhile=6).words == "more than noise, too small to matter"
    assert athletes_beside(known(100, 1), known(107, 1), worthwhile=6).words == "more than noise"


def test_of_two_phases_apart_all_four_errors_count() -> None:
    first, second = Brought(known(100, 1, 90), known(103, 2, 60)), Brought(known(102, 3, 30), known(110, 4))
    change = phases_beside(first, second)
    assert change.change == pytest.approx(8 - 3)
    assert sqrt(2) * change.typical_error == pytest.approx(sqrt(1 + 4 + 9 + 16))


@pytest.mark.parametrize("is_turned", [False, True])
def test_of_two_phases_that_meet_the_day_between_counts_twice(is_turned: bool) -> None:
    between = known(103, 2, 30)
    phases = Brought(known(100, 3, 60), between), Brought(between, known(110, 6))
    change = phases_beside(*reversed(phases)) if is_turned else phases_beside(*phases)
    assert change.change == pytest.approx(-4 if is_turned else 4)
    assert sqrt(2) * change.typical_error == pytest.approx(sqrt(9 + (2 * 2) ** 2 + 36))


@pytest.mark.parametrize("meet", [True, False])
def test_equal_gains_are_taken_for_different_as_often_as_the_normal_distribution_says(meet: bool) -> None:
    """From outside: one standard error is passed by chance in 31.7 % of cases."""
    rng, errors = np.random.default_rng(11), (2.0, 1.5, 2.5, 1.0)
    told, many = 0, 4000
    for _ in range(many):
        at = [100 + 3 * n + e * z for n, (e, z) in enumerate(zip(errors, rng.standard_normal(4), strict=True))]
        a, b, c, d = (known(v, e, 90 - 30 * n) for n, (v, e) in enumerate(zip(at, errors, strict=True)))
        told += phases_beside(Brought(a, b), Brought(b, c) if meet else Brought(c, d)).is_more_than_noise
    assert told / many == pytest.approx(2 * stats.norm.sf(1), abs=0.025)


def test_jumps_of_two_athletes_are_the_means_of_four_weeks() -> None:
    one = {DAY - timedelta(days=n): v for n, v in ((0, 38.0), (7, 40.0), (WINDOW_DAYS, 99.0))}
    other = {DAY - timedelta(days=n): v for n, v in ((3, 44.0), (WINDOW_DAYS - 1, 46.0))}
    found = between_athletes(one, other, DAY)
    assert found is not None
    assert (found.then.value, found.now.value, found.moved) == (39.0, 45.0, 6.0)
    scatter = sqrt((1 + 1 + 1 + 1) / 2)  # of four days around two means
    wide = stats.t.ppf(stats.norm.cdf(1), 2)
    assert found.now_error == pytest.approx(scatter * wide / sqrt(2), rel=1e-3)


def test_of_somebody_without_a_day_nothing_is_compared() -> None:
    assert between_athletes({DAY: 40.0}, {DAY - timedelta(days=WINDOW_DAYS): 40.0}, DAY) is None
    few = between_athletes({DAY: 40.0}, {DAY: 44.0}, DAY)
    assert few is not None
    assert few.change is None
