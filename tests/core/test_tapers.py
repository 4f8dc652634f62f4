"""Fitness and fatigue against closed forms and a reference filter; tapers against the published ranges; the bench."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.signal import lfilter

from jarvok.core.errors import CoachError
from jarvok.core.plan.planned_load import USUAL_AU_A_SET, au_a_main_set, au_of
from jarvok.core.plan.season_spending import spend_season
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.fitness_fatigue import LEAST_RESULTS, SHORTER, USUAL, Constants, fit, form_draws, picture
from jarvok.core.season.model import Target
from jarvok.core.season.planner import plan_year
from jarvok.core.season.taper import Shape, TaperStyle, check_taper, remarks
from jarvok.core.season.taper_bench import AFTER_DAYS, Tried, bench, is_outside, with_practice
from jarvok.core.week.plan import WeekFacts

TODAY = date(2026, 11, 24)
DAY = date(2027, 4, 3)
PRACTICE = (0.0, 450.0, 0.0, 450.0, 0.0, 300.0, 0.0)


class TestThePicture:
    def test_one_load_crosses_zero_and_peaks_where_the_closed_form_says(self) -> None:
        # closed form with k1 = 1, k2 = 2, τ1 = 45, τ2 = 15: 15.596 and 40.315 days
        assert USUAL.zero_day == pytest.approx(15.596, abs=0.001)
        assert USUAL.peak_day == pytest.approx(40.315, abs=0.001)
        form = picture([100.0, *[0.0] * 120]).form
        assert form[15] < 0 < form[16]
        assert int(np.argmax(form)) == 40

    def test_the_load_of_a_day_counts_from_the_next(self) -> None:
        seen = picture([100.0, 0.0, 0.0])
        assert (seen.fitness[0], seen.fatigue[0]) == (0, 0)
        assert seen.fitness[1] == pytest.approx(100 * np.exp(-1 / 45))
        assert seen.fatigue[1] == pytest.approx(2 * 100 * np.exp(-1 / 15))

    @given(st.lists(st.floats(0, 1500), min_size=1, max_size=200))
    @settings(max_examples=60, deadline=None)
    def test_it_is_the_sum_of_decayed_loads(self, loads: list[float]) -> None:
        """Against scipy.signal.lfilter and numpy.convolve."""
        seen = picture(loads)
        for tau, k, found in ((45, 1, seen.fitness), (15, 2, seen.fatigue)):
            q = np.exp(-1 / tau)
            assert found == pytest.approx(k * lfilter([0, q], [1, -q], loads), abs=1e-6)
            kernel = np.concatenate([[0], q ** np.arange(1, len(loads))])
            assert found == pytest.approx(k * np.convolve(loads, kernel)[: len(loads)], abs=1e-6)

    def test_the_shorter_constants_can_be_chosen(self) -> None:
        assert SHORTER.zero_day < USUAL.zero_day

    def test_the_band_holds_the_line_and_widens_with_what_is_not_known(self) -> None:
        loads = [300.0] * 100 + [100.0] * 14
        low, high = np.percentile(form_draws(loads), [10, 90], axis=0)
        form = picture(loads).form
        assert np.all(low <= high)
        assert np.mean((low <= form) & (form <= high)) > 0.95
        assert form_draws(loads) == pytest.approx(form_draws(loads)), "the same each time"


class TestTheFit:
    truth = Constants(40.0, 11.0, 0.06, 0.14, 250.0)

    def results(self, count: int, noise: float, seed: int = 1) -> tuple[list[float], list[tuple[int, float]]]:
        rng = np.random.default_rng(seed)
        loads = [float(x) for x in 300 + 200 * np.sin(np.arange(260) / 9) + rng.normal(0, 60, 260)]
        days = np.linspace(30, 258, count).astype(int)
        form = picture(loads, self.truth).form
        return loads, [(int(d), float(form[d] + rng.normal(0, noise))) for d in days]

    def test_it_finds_the_constants_behind_clean_results(self) -> None:
        found = fit(*self.results(30, 0.0))
        assert found.is_usable
        assert found.r_squared > 0.99
        assert found.constants.tau1_days == pytest.approx(40, rel=0.1)
        assert found.constants.tau2_days == pytest.approx(11, rel=0.1)

    def test_noise_is_told(self) -> None:
        clean, noisy = fit(*self.results(30, 0.5)), fit(*self.results(30, 5.0))
        assert noisy.error > clean.error
        assert "30 results" in noisy.words

    def test_results_that_follow_nothing_are_not_used(self) -> None:
        loads, results = self.results(12, 0.0)
        rng = np.random.default_rng(4)
        found = fit(loads, [(d, float(rng.normal(250, 10))) for d, _ in results])
        assert not found.is_usable or found.r_squared >= 0.5
        same = fit(loads, [(d, 250.0) for d, _ in results])
        assert not same.is_usable
        assert "too weak" in same.words

    def test_too_few_are_refused(self) -> None:
        with pytest.raises(CoachError, match="too few"):
            fit(*self.results(LEAST_RESULTS - 1, 0.0))


class TestShapes:
    # shapes: Mujika & Padilla 2003, quoted from memory
    @pytest.mark.parametrize("shape", list(Shape))
    @pytest.mark.parametrize("depth", [0, 30, 50, 60, 90])
    @pytest.mark.parametrize("days", [4, 8, 12, 14, 28])
    def test_volume_never_rises_and_the_days_together_take_off_the_depth(self, shape: Shape, depth: int, days: int) -> None:
        style = TaperStyle(days, shape, depth)
        shares = [style.volume_share(d) for d in range(days)]
        assert shares == sorted(shares, reverse=True)
        assert all(0 <= s <= 1 for s in shares)
        assert sum(shares) / days == pytest.approx(1 - depth / 100, abs=1e-6)
        assert style.at_its_end_pct == pytest.approx(100 * (1 - shares[-1]), abs=0.06)

    def test_fast_falls_below_slow_below_linear_early_on(self) -> None:
        fast, slow, linear = (TaperStyle(14, s, 45).volume_share(3) for s in (Shape.FAST, Shape.SLOW, Shape.LINEAR))
        assert fast < slow < linear

    def test_a_step_takes_its_depth_at_once(self) -> None:
        assert TaperStyle(10, Shape.STEP, 50).volume_share(0) == pytest.approx(0.5)

    # 41-60 % less volume over 8 to 14 days: Bosquet et al. 2007; 80 % of the days: Mujika & Padilla 2003;
    # strength tapers of 30-70 %: Pritchard et al. 2015; all quoted from memory
    @pytest.mark.parametrize(("style", "said"), [
        (TaperStyle(12, Shape.STEP, 50), []), (TaperStyle(8, Shape.STEP, 41), []), (TaperStyle(14, Shape.STEP, 60), []),
        (TaperStyle(7, Shape.STEP, 50), ["7 days"]), (TaperStyle(15, Shape.STEP, 50), ["15 days"]),
        (TaperStyle(12, Shape.STEP, 35), ["Pritchard"]), (TaperStyle(12, Shape.STEP, 80), ["80 % down"]),
        (TaperStyle(12, Shape.STEP, 50, 70), ["70 % of the days"]), (TaperStyle(12, Shape.STEP, 50, 80), []),
    ])  # fmt: skip
    def test_what_lies_outside_the_published_ranges_is_said(self, style: TaperStyle, said: list[str]) -> None:
        found = remarks(style)
        assert len(found) == len(said)
        assert all(part in words for part, words in zip(said, found, strict=True))

    @pytest.mark.parametrize(("style", "where"), [
        (TaperStyle(3), "taper_days"), (TaperStyle(29), "taper_days"), (TaperStyle(12, Shape.STEP, 95), "taper_depth_pct"),
        (TaperStyle(12, Shape.STEP, 50, 10), "taper_frequency_pct"),
    ])  # fmt: skip
    def test_what_cannot_be_a_taper_is_refused(self, style: TaperStyle, where: str) -> None:
        with pytest.raises(CoachError) as refused:
            check_taper(style)
        assert refused.value.where == where


def loads(style: TaperStyle) -> Tried:
    """Strength work of a taper on two days a week, after as many full weeks."""
    plan = plan_year(SeasonFacts(TODAY, (Target("Cup", DAY),), taper=style))
    spending = spend_season(plan, lambda w: ("two_days", WeekFacts(plan, w, days=2)))
    days = [0.0] * (7 * len(plan.weeks))
    for week in spending.weeks:
        for day, sets in week.by_day.items():
            days[(day - plan.start).days] += sets * USUAL_AU_A_SET
    return Tried(style, days)


START = date(2026, 11, 23)
AT = (DAY - START).days


class TestTheBench:
    shallow, deep = TaperStyle(12, Shape.STEP, 41), TaperStyle(12, Shape.STEP, 60)

    def bench(self, *styles: TaperStyle, **more):
        return bench(START, DAY, [loads(s) for s in styles], PRACTICE, **more)

    def test_practice_is_left_out_unless_it_is_reckoned(self) -> None:
        tried = loads(self.shallow)
        out, kept, less = (with_practice(tried, START, DAY, PRACTICE, share) for share in (None, 100.0, 50.0))
        first = AT - 12
        assert out[: len(tried.strength_au)] == [*tried.strength_au[:AT], *[0.0] * (len(tried.strength_au) - AT)]
        weekday = (START + timedelta(days=first)).weekday()
        practice = [PRACTICE[(weekday + i) % 7] for i in range(12)]
        assert sum(kept[first:AT]) - sum(out[first:AT]) == pytest.approx(sum(practice))
        assert sum(less[first:AT]) - sum(out[first:AT]) == pytest.approx(sum(practice) / 2)
        assert kept[:first] == less[:first]
        assert not any(kept[AT:])
        assert len(kept) == AT + AFTER_DAYS

    def test_the_first_is_what_the_others_stand_beside(self) -> None:
        first, second = self.bench(self.shallow, self.deep)
        assert first.on_the_day is None
        assert set(first.against) == {0.0}
        assert second.on_the_day is not None
        middle, low, high = second.on_the_day
        assert low <= middle <= high
        assert second.fatigue[AT] < first.fatigue[AT]
        assert second.fitness[AT] < first.fitness[AT]
        assert middle == pytest.approx(
            (second.fitness[AT] - second.fatigue[AT]) - (first.fitness[AT] - first.fatigue[AT]), abs=0.3
        )
        assert second.against[AT - 13] == 0.0, "before the window both did the same"

    @pytest.mark.parametrize(("style", "outside"), [
        (TaperStyle(12, Shape.STEP, 60), False), (TaperStyle(12, Shape.STEP, 61), True),
        (TaperStyle(21, Shape.LINEAR, 50), False), (TaperStyle(22, Shape.LINEAR, 50), True),
        (TaperStyle(12, Shape.STEP, 90), True),
    ])  # fmt: skip
    def test_nothing_is_compared_outside_what_tapers_were_studied_in(self, style: TaperStyle, outside: bool) -> None:
        # 41-60 % less volume: Bosquet et al. 2007, quoted from memory
        found = self.bench(self.shallow, style)[1]
        assert is_outside(style) == found.is_outside == outside
        assert (found.on_the_day is None) == outside
        assert any("favours more rest without end" in words for words in found.remarks) == outside
        assert bool(found.against) != outside

    def test_at_most_three_stand_side_by_side_each_with_its_working(self) -> None:
        found = self.bench(*(TaperStyle(d) for d in (8, 10, 12, 14)))
        assert [b.style.days for b in found] == [8, 10, 12]
        for tried in found:
            assert "does not promise" in tried.working.caution
            assert "left out: it is the sport coach's" in tried.working.inputs[-1].text

    def test_the_constants_of_the_athlete_are_used(self) -> None:
        usual, own = (self.bench(self.shallow, self.deep, constants=c)[1] for c in (USUAL, Constants(40, 8)))
        assert usual.on_the_day != own.on_the_day
        assert "40 and 8 days" in own.working.inputs[0].text


class TestTheLoadOfASet:
    @pytest.mark.parametrize(("done", "au"), [
        ([], 35.0), ([(10, 500.0), (10, 400.0)], 35.0), ([(10, 500.0), (10, 400.0), (10, 300.0)], 40.0),
        ([(0, 900.0), (10, 500.0), (10, 400.0)], 35.0),
        ([(1, 1000.0), *[(10, 300.0)] * 8], 30.0), ([*[(10, 300.0)] * 5, *[(10, 600.0)] * 4], 45.0),
    ])  # fmt: skip
    def test_is_the_median_of_the_last_eight_or_the_usual_one_until_there_are_three(self, done, au: float) -> None:
        assert au_of(au_a_main_set(done)) == au


class TestOwnConstants:
    def test_at_a_bound_they_are_not_used(self) -> None:
        rng = np.random.default_rng(2)
        load = [float(x) for x in 300 + 200 * np.sin(np.arange(260) / 9) + rng.normal(0, 60, 260)]
        form = picture(load, Constants(160.0, 11.0, 0.06, 0.14, 250.0)).form
        found = fit(load, [(int(d), float(form[d])) for d in np.linspace(30, 258, 30).astype(int)])
        assert not found.is_usable
        assert "at the bounds" in found.words

    def test_no_better_than_the_usual_on_results_left_out_they_are_not_used(self) -> None:
        rng = np.random.default_rng(5)
        load = [float(x) for x in 300 + 200 * np.sin(np.arange(260) / 9) + rng.normal(0, 60, 260)]
        form = picture(load, USUAL).form
        spread = float(form[30:].std())
        for seed in range(8):
            noise = np.random.default_rng(seed)
            results = [(int(d), float(form[d] + noise.normal(0, spread))) for d in np.linspace(30, 258, 9).astype(int)]
            found = fit(load, results)
            if found.r_squared >= 0.5 and "no better than the usual" in found.words:
                assert not found.is_usable
                return
        pytest.fail("of eight noisy runs none fitted its own noise")
