"""Jumps, runs and holds around two days: the best of each day, the mean of four weeks, their own scatter as the error."""

from __future__ import annotations

from datetime import date, timedelta
from math import sqrt

import numpy as np
import pytest
from scipy import stats

from jarvok.core.learning.measured import LEAST_DAYS, WINDOW_DAYS, best_of_days, between_days
from jarvok.core.learning.new_bests import BestKind, DoneSet

FIRST, LAST = date(2026, 9, 1), date(2026, 11, 24)


def days(values: dict[int, float], until: date) -> dict[date, float]:
    """Values by how many days before a day they were measured."""
    return {until - timedelta(days=n): v for n, v in values.items()}


def both(then: list[float], now: list[float]) -> dict[date, float]:
    return {
        **days({3 * i: v for i, v in enumerate(then)}, FIRST),
        **days({3 * i: v for i, v in enumerate(now)}, LAST),
    }


def test_the_best_of_each_day_counts_and_a_run_s_is_its_fastest() -> None:
    sets = [
        DoneSet(day=LAST, ref="a", jump_cm=38.0), DoneSet(day=LAST, ref="b", jump_cm=39.5),
        DoneSet(day=LAST, ref="c", jump_cm=30.0, load_kg=20.0), DoneSet(day=LAST, ref="d", run_s=1.75, run_m=10.0),
        DoneSet(day=LAST, ref="e", run_s=1.69, run_m=10.0), DoneSet(day=FIRST, ref="f", hold_s=40.0),
    ]  # fmt: skip
    found = best_of_days(sets)
    assert found[BestKind.JUMP, 0.0] == {LAST: 39.5}
    assert found[BestKind.JUMP, 20.0] == {LAST: 30.0}
    assert found[BestKind.RUN, 10.0] == {LAST: 1.69}
    assert found[BestKind.HOLD, 0.0] == {FIRST: 40.0}


@pytest.mark.parametrize("seed", range(6))
def test_a_change_is_held_against_the_same_error_as_students_t(seed: int) -> None:
    """scipy.stats: the t of ttest_ind, equal variances, is held against one standard error of Student's t at its days."""
    rng = np.random.default_rng(seed)
    then, now = list(rng.normal(39, 1.1, 4 + seed % 3)), list(rng.normal(40, 1.1, 5))
    found = between_days(both(then, now), FIRST, LAST)
    assert found is not None
    assert found.change is not None
    one = stats.t.ppf(stats.norm.cdf(1), len(then) + len(now) - 2)
    t = stats.ttest_ind(now, then).statistic
    assert found.change.change / (sqrt(2) * found.change.typical_error) == pytest.approx(t / one, rel=1e-3)
    assert found.change.is_more_than_noise == (abs(t) > one)
    pooled = sqrt(((len(then) - 1) * np.var(then, ddof=1) + (len(now) - 1) * np.var(now, ddof=1)) / (len(then) + len(now) - 2))
    assert found.then_error == pytest.approx(one * pooled / sqrt(len(then)), rel=1e-3)
    assert (found.then.days, found.now.days) == (len(then), len(now))


def test_without_a_change_it_is_noise_in_two_of_three_however_few_days_there_are() -> None:
    for per_window in (2, 4):
        rng, beyond = np.random.default_rng(5), 0
        for _ in range(1500):
            found = between_days(both(list(rng.normal(39, 1, per_window)), list(rng.normal(39, 1, per_window))), FIRST, LAST)
            beyond += found.change.is_more_than_noise
        assert beyond / 1500 == pytest.approx(0.317, abs=0.04)


def test_what_comes_and_goes_by_itself_is_a_least_scatter() -> None:
    rows = both([69.0, 69.0, 69.1], [68.4, 68.5, 68.4])
    assert between_days(rows, FIRST, LAST).change.is_more_than_noise
    assert not between_days(rows, FIRST, LAST, least_spread=0.69).change.is_more_than_noise


def test_days_outside_the_four_weeks_do_not_count() -> None:
    rows = both([39.0, 39.2], [40.0, 40.4])
    edge = {LAST - timedelta(days=WINDOW_DAYS - 1): 40.2}
    beyond = {LAST - timedelta(days=WINDOW_DAYS): 20.0}
    assert between_days({**rows, **edge}, FIRST, LAST).now.days == 3
    assert between_days({**rows, **beyond}, FIRST, LAST) == between_days(rows, FIRST, LAST)


def test_too_few_days_say_no_error_and_an_empty_window_says_nothing() -> None:
    assert LEAST_DAYS == 4
    few = between_days(both([39.0, 39.4], [40.0]), FIRST, LAST)
    assert (few.then.value, few.now.value, few.change) == (pytest.approx(39.2), 40.0, None)
    assert between_days(both([39.0, 39.4], [40.0, 40.2]), FIRST, LAST).change is not None
    assert between_days(both([39.0], []), FIRST, LAST) is None


def test_days_nearer_than_four_weeks_take_the_time_between_them_and_no_day_twice() -> None:
    rows = days({n: 39 + n / 10 for n in range(0, 40, 4)}, LAST)
    near = between_days(rows, LAST - timedelta(days=10), LAST)
    assert (near.then.days, near.now.days) == (2, 3)  # 12 and 16 days before, and 0, 4 and 8
    with pytest.raises(ValueError, match="before"):
        between_days(rows, LAST, LAST)
