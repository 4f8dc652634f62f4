"""Sums of work, training load against pandas and worked examples, and what is more than noise."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np
import pandas as pd
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.learning.after import beside_forecast, taper_seen
from jarvok.core.learning.findings import Kind, asks_again_on, cues_typed, miscounts, too_light
from jarvok.core.learning.noise import Change, smallest_worthwhile, typical_error
from jarvok.core.learning.training_load import (
    ACUTE_DAYS,
    CHRONIC_DAYS,
    FAR_SD,
    LEAST_WEEKS,
    beside_usual,
    week_load,
    weighted,
)
from jarvok.core.learning.work import NOTHING, done_pct, summed, work_of_line, work_of_set, zone_of
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse
from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.marks.reserve_offset import ReserveOffset, ReservePair
from jarvok.core.working import Source, Working

LOADS = st.lists(st.floats(0, 2000), min_size=7, max_size=60)


class TestLoad:
    @given(LOADS)
    @pytest.mark.parametrize("span", [ACUTE_DAYS, CHRONIC_DAYS])
    def test_the_weighted_averages_are_those_of_pandas(self, span: int, days: list[float]) -> None:
        theirs = pd.Series(days).ewm(span=span, adjust=False).mean()
        assert weighted(days, span) == pytest.approx(list(theirs), rel=1e-9, abs=1e-6)

    @given(st.lists(st.floats(0, 2000), min_size=7, max_size=7))
    def test_monotony_and_strain_by_their_definition(self, days: list[float]) -> None:
        found = week_load(days)
        assert found.load_au == pytest.approx(sum(days))
        if (spread := float(np.std(days, ddof=1))) > 1e-6:
            assert found.monotony == pytest.approx(np.mean(days) / spread, rel=1e-6)
            assert found.strain_au == pytest.approx(sum(days) * np.mean(days) / spread, rel=1e-6)

    def test_days_off_count_as_nought(self) -> None:
        found = week_load([400, 0, 400, 0, 400, 0, 0])
        assert found.mean_au == pytest.approx(171.4, abs=0.1)
        assert found.monotony == pytest.approx(171.43 / 213.81, abs=0.001)  # SD of the sample, n - 1

    def test_seven_days_alike_have_no_monotony(self) -> None:
        assert week_load([300] * 7).monotony is None
        assert week_load([300] * 7).strain_au is None

    def test_a_week_is_seven_days(self) -> None:
        with pytest.raises(ValueError, match="seven"):
            week_load([1] * 6)

    def test_a_usual_takes_four_weeks(self) -> None:
        assert beside_usual(2000, [2000] * (LEAST_WEEKS - 1)) is None
        assert beside_usual(2000, [2000] * LEAST_WEEKS) is not None

    @pytest.mark.parametrize(("load", "far"), [(2299, False), (2301, True), (1699, True), (1701, False)])
    def test_far_is_one_and_a_half_of_the_own_spread(self, load: float, far: bool) -> None:
        before = [1800.0, 2200.0, 1800.0, 2200.0, 1800.0, 2200.0, 1800.0, 2200.0]
        spread = float(np.std(before, ddof=1))
        edge = 2000 + FAR_SD * spread
        found = beside_usual(2000 + (load - 2000) / 300 * (edge - 2000), before)
        assert found is not None
        assert found.is_far is far
        assert found.words.startswith("as usual" if not far else "above" if load > 2000 else "below")

    def test_weeks_all_alike_still_vary_by_a_tenth(self) -> None:
        near, far = beside_usual(2290, [2000] * 6), beside_usual(2310, [2000] * 6)
        assert near is not None
        assert far is not None
        assert (near.is_far, far.is_far) == (False, True)


class TestWork:
    @pytest.mark.parametrize(("pct", "zone"), [(40, 0), (69.9, 0), (70, 1), (79.9, 1), (80, 2), (89.9, 2), (90, 3), (104, 3)])
    def test_zones(self, pct: float, zone: int) -> None:
        assert zone_of(pct) == zone

    def test_a_squat_of_five_at_80_per_cent(self) -> None:
        one = work_of_set(exercise("back_squat"), counts=True, reps=5, load_kg=100, share=0.8)
        assert (one.main_sets, one.lifts, one.volume_kg, one.average_pct) == (1, (0, 0, 5, 0), 500, 80)
        assert one.sets_by_pattern == {"squat": 1}

    def test_what_is_no_main_work_has_volume_and_no_lifts(self) -> None:
        small = work_of_set(exercise("back_squat"), counts=False, reps=5, load_kg=40, share=0.4)
        assert (small.main_sets, small.lifts, small.volume_kg) == (0, (0, 0, 0, 0), 200)

    def test_a_load_without_a_share_is_in_no_zone(self) -> None:
        one = work_of_set(exercise("back_squat"), counts=True, reps=5, load_kg=100)
        assert (one.lifts, one.average_pct, one.main_sets) == ((0, 0, 0, 0), None, 1)

    def test_what_a_line_plans(self) -> None:
        planned = work_of_line(exercise("back_squat"), parse("1 × 5 @ 70 %, 2 × 3 @ 85 %").groups, counts=True)
        assert (planned.main_sets, planned.lifts) == (3, (0, 5, 6, 0))
        assert planned.average_pct == pytest.approx((5 * 70 + 6 * 85) / 11)

    @given(st.lists(st.tuples(st.integers(1, 12), st.floats(20, 250), st.floats(0.3, 1.1)), max_size=12), st.integers(0, 12))
    def test_a_sum_does_not_hang_on_how_it_is_parted(self, rows: list[tuple[int, float, float]], at: int) -> None:
        parts = [work_of_set(exercise("back_squat"), counts=True, reps=n, load_kg=kg, share=s) for n, kg, s in rows]
        whole, two = summed(parts), summed(parts[:at]) + summed(parts[at:])
        assert (whole.main_sets, whole.lifts, whole.sets_by_pattern) == (two.main_sets, two.lifts, two.sets_by_pattern)
        assert whole.volume_kg == pytest.approx(two.volume_kg)
        assert whole.average_pct == pytest.approx(two.average_pct) if rows else whole == NOTHING

    def test_the_share_done(self) -> None:
        assert done_pct(20, 15) == 75
        assert done_pct(0, 3) is None


class TestNoise:
    """Figures worked by hand: differences 1, 3, −1, 2, 0 have a mean of 1 and a sample SD of 1.581, over √2 that is 1.118."""

    first, second = [100.0, 110.0, 95.0, 120.0, 105.0], [101.0, 113.0, 94.0, 122.0, 105.0]

    def test_typical_error(self) -> None:
        assert typical_error(self.first, self.second) == pytest.approx(1.118, abs=0.001)

    def test_smallest_worthwhile(self) -> None:
        assert smallest_worthwhile(self.first) == pytest.approx(0.2 * 9.618, abs=0.001)

    def test_two_athletes_are_too_few(self) -> None:
        with pytest.raises(ValueError, match="three"):
            typical_error([1, 2], [2, 3])

    @pytest.mark.parametrize(
        ("change", "words"),
        [(1.58, "not more than noise"), (-1.58, "not more than noise"), (1.59, "more than noise, too small to matter"),
         (1.93, "more than noise"), (-1.93, "more than noise")],
    )  # fmt: skip
    def test_a_change_in_words(self, change: float, words: str) -> None:
        assert Change(change, 1.118, 1.92).words == words


TODAY = date(2026, 11, 24)


def past(*sets: tuple[float, int, float | None], ago: int = 0, text: str = "3 × 5") -> PastSession:
    return PastSession(
        TODAY - timedelta(days=ago), text, tuple(PastSet(kg, reps, rir, reps) for kg, reps, rir in sets), f"line:{ago}"
    )


class TestNoticed:
    @pytest.mark.parametrize(("rir", "noticed"), [(4, True), (3.5, False)])
    def test_four_left_in_every_set_of_three_sessions_is_too_light(self, rir: float, noticed: bool) -> None:
        rows = [past((100, 5, 5), (100, 5, rir), ago=ago) for ago in (14, 7, 0)]
        assert (too_light("Squat", "back_squat", rows, TODAY) is not None) is noticed

    def test_two_sessions_are_chance(self) -> None:
        assert too_light("Squat", "back_squat", [past((100, 5, 6), ago=a) for a in (7, 0)], TODAY) is None

    @pytest.mark.parametrize(("ago", "noticed"), [(28, True), (29, False)])
    def test_what_lies_longer_back_than_four_weeks_says_nothing_of_the_next_load(self, ago: int, noticed: bool) -> None:
        rows = [past((100, 5, 6), ago=ago + more) for more in (14, 7, 0)]
        assert (too_light("Squat", "back_squat", rows, TODAY) is not None) is noticed

    @pytest.mark.parametrize(
        ("text", "rir", "noticed"),
        [
            ("3 × 5 @ 80 %", 4, True),  # seven and a half to failure by Epley: two left as written
            ("3 × 3 @ 75 %", 8, True),  # ten to failure, seven left: 8.5 and more is too light
            ("3 × 3 @ 60 %", 9, False),  # written light
            ("3 × 5 @ RIR 4", 5, False),
            ("3 × 5 @ RIR 4", 5.5, True),
            ("3 × 5 @ RPE 7", 4, False),
            ("3 × 5 @ RPE 7", 4.5, True),
        ],
    )
    def test_a_line_leaves_what_it_is_written_to_leave(self, text: str, rir: float, noticed: bool) -> None:
        reps = parse(text).groups[0].reps or 0
        rows = [past((100, reps, rir + (0.5 if "75" in text else 0)), ago=a, text=text) for a in (14, 7, 0)]
        assert (too_light("Squat", "back_squat", rows, TODAY) is not None) is noticed

    @pytest.mark.parametrize(
        ("off", "pairs", "words"), [(0.75, 4, "1 too few"), (-1.9, 4, "2 too many"), (0.74, 4, ""), (2, 3, "")]
    )
    def test_a_count_that_is_off(self, off: float, pairs: int, words: str) -> None:
        row = ReservePair(TODAY, 100, 7, 8, "set:1")
        working = Working("", "", Source("J", "x"), ())
        found = miscounts(ReserveOffset(off, 0.3, (row,) * pairs, False, "", working))
        assert (words in found.sentence) if found is not None else words == ""

    def test_what_was_typed_twice_is_one(self) -> None:
        rows = [(TODAY, "back_squat", "Chest up", "set:2"), (TODAY - timedelta(days=7), "back_squat", "chest  up", "set:1")]
        (found,) = cues_typed([*rows, (TODAY, "back_squat", "ok", "set:3")])
        assert (found.ref, found.day) == ("said:set:2", TODAY)

    def test_a_cue_is_for_good_and_a_number_for_eight_weeks(self) -> None:
        assert asks_again_on(Kind.CUE, TODAY) is None
        assert asks_again_on(Kind.LOAD, TODAY) == TODAY + timedelta(weeks=8)


class TestAfter:
    @pytest.mark.parametrize(
        ("kg", "words"), [(104, "as forecast"), (104.1, "4.1 kg over it"), (96, "as forecast"), (95.9, "4.1 kg under it")]
    )
    def test_a_result_within_one_error_is_as_forecast(self, kg: float, words: str) -> None:
        assert words in beside_forecast(kg, 100, 4)

    def test_a_taper_is_the_last_fortnight_beside_the_month_before(self) -> None:
        seen = taper_seen([99, 20, 20, 20, 20, 12, 8])
        assert seen is not None
        assert (seen.last_sets, seen.before_sets, seen.cut_pct) == (10, 20, 50)
        assert taper_seen([20, 20, 20, 12, 8]) is None
        assert taper_seen([0, 0, 0, 0, 12, 8]) is None
