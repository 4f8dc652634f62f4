"""Fitness and fatigue against closed forms and a reference filter; tapers against the published ranges; the bench."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.signal import lfilter

from jarvok.core.errors import CoachError
from jarvok.core.season.fitness_fatigue import LEAST_RESULTS, SHORTER, USUAL, Constants, fit, form_draws, picture
from jarvok.core.season.planner import plan_season
from jarvok.core.season.taper import Shape, TaperStyle, check_taper, remarks
from jarvok.core.season.taper_bench import AFTER_DAYS, before_taper, bench, daily_loads

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


class TestTheBench:
    plan = plan_season(TODAY, DAY)

    def test_daily_loads_cover_the_season_and_stop_on_the_day(self) -> None:
        daily = daily_loads(self.plan, PRACTICE)
        assert len(daily) == 7 * len(self.plan.weeks)
        at = (DAY - self.plan.start).days
        assert not any(daily[at:])
        first = daily[:7]
        assert first[1] > PRACTICE[1], "a session and practice on Tuesday"
        assert first[3] == PRACTICE[3]

    def test_a_deeper_taper_leaves_less_fatigue(self) -> None:
        shallow, deep = bench(self.plan, PRACTICE, [TaperStyle(12, Shape.STEP, 20), TaperStyle(12, Shape.STEP, 60)])
        at = (DAY - self.plan.start).days
        assert deep.fatigue[at] < shallow.fatigue[at]
        assert deep.fitness[at] < shallow.fitness[at]
        assert deep.form_on_the_day > shallow.form_on_the_day
        assert deep.band_on_the_day[0] < deep.form_on_the_day < deep.band_on_the_day[1]

    def test_a_longer_one_begins_earlier_and_only_then_differs(self) -> None:
        daily = daily_loads(self.plan, PRACTICE)
        short, long = (before_taper(self.plan, daily, TaperStyle(d, Shape.STEP, 50), DAY) for d in (8, 14))
        at = (DAY - self.plan.start).days
        assert short[: at - 14] == long[: at - 14]
        assert sum(long[at - 14 : at - 8]) == pytest.approx(0.5 * sum(short[at - 14 : at - 8]))
        assert short[at - 8 :] == long[at - 8 :]
        assert len(short) == at + AFTER_DAYS

    def test_fewer_days_take_load_away_as_well(self) -> None:
        daily = daily_loads(self.plan, PRACTICE)
        whole, fewer = (before_taper(self.plan, daily, TaperStyle(10, Shape.STEP, 50, f), DAY) for f in (100, 80))
        at = (DAY - self.plan.start).days
        assert sum(fewer[at - 10 : at]) == pytest.approx(0.8 * sum(whole[at - 10 : at]))

    def test_two_tapers_differ_by_less_than_athletes_do(self) -> None:
        first, second = bench(self.plan, PRACTICE, [TaperStyle(12, Shape.STEP, 20), TaperStyle(12, Shape.STEP, 60)])
        assert first.against_first == (0, 0, 0)
        middle, low, high = second.against_first
        assert middle == pytest.approx(second.form_on_the_day - first.form_on_the_day)
        assert low <= middle <= high
        assert high - low < second.band_on_the_day[1] - second.band_on_the_day[0]

    def test_at_most_three_stand_side_by_side_each_with_its_working(self) -> None:
        found = bench(self.plan, PRACTICE, [TaperStyle(d) for d in (8, 10, 12, 14)])
        assert [b.style.days for b in found] == [8, 10, 12]
        for tried in found:
            assert "does not promise" in tried.working.caution
            assert tried.peak_day <= DAY + timedelta(days=AFTER_DAYS)

    def test_the_constants_of_the_athlete_are_used(self) -> None:
        usual, own = (bench(self.plan, PRACTICE, [TaperStyle()], c)[0] for c in (USUAL, Constants(40, 8)))
        assert usual.form_on_the_day != own.form_on_the_day
        assert "40 and 8 days" in own.working.inputs[0].text
