"""A case on each side of a threshold. The numbers are written out here with their mark, never read from the code."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np
import pytest

from jarvok.core.equations import MOST_REPS, ROUGH_FROM_REPS
from jarvok.core.exercises import LiftMotion, Start
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.performance import Reading, compare_sides
from jarvok.core.marks.readings import max_from_mark
from jarvok.core.marks.sweep import Decision
from jarvok.core.marks.working_max import CurrentMax, current_max
from jarvok.core.quantities.plates import Barbell
from jarvok.core.rules import Rules
from jarvok.core.season.arrangements.force_velocity import ARRANGEMENT
from jarvok.core.season.planner import plan_season
from jarvok.core.season.residuals import residuals_for
from jarvok.core.season.taper import Shape, TaperStyle, remarks
from jarvok.core.velocity.detect import FULL_RANGE_SHARE, detect_reps
from jarvok.core.velocity.ladder import LadderRule, State, Try, next_load
from jarvok.core.velocity.profile import LoadVelocity, fit_profile

DAY = date(2026, 11, 24)


def mark(kg: float, days_ago: int = 0, kind: MarkKind = MarkKind.ONE_RM, reps: int = 1, rir: float = 0.0) -> Mark:
    return Mark(f"{kind}:{kg}:{days_ago}", DAY - timedelta(days=days_ago), kind, kg, reps, rir)


class TestTheMax:
    # [J] 5 % in a week
    @pytest.mark.parametrize(("kg", "waits"), [(104.9, False), (105.1, True), (107, True)])
    def test_a_rise_in_a_week_waits_from_five_per_cent_on(self, kg: float, waits: bool) -> None:
        found = current_max([mark(100, 7), mark(kg)], DAY)
        assert found is not None
        assert (found.proposal is not None) == waits

    # [J] from 5 % within one week to 15 % within ten: 6.1 % within two
    @pytest.mark.parametrize(("kg", "waits"), [(106.0, False), (106.2, True)])
    def test_over_a_fortnight_it_may_be_a_little_more(self, kg: float, waits: bool) -> None:
        found = current_max([mark(100, 14), mark(kg)], DAY)
        assert found is not None
        assert (found.proposal is not None) == waits

    # [J] 182 days
    @pytest.mark.parametrize(("days", "speaks"), [(182, True), (183, False)])
    def test_the_oldest_mark_that_speaks_beside_a_newer_one(self, days: int, speaks: bool) -> None:
        old, new = mark(100, days), mark(100, 3, MarkKind.REP_MAX, 1)
        found = current_max([old, new], DAY)
        assert found is not None
        assert (old in [e.mark for e in found.evidence]) == speaks

    def test_the_error_is_wider_where_sources_disagree(self) -> None:
        def two(first_kg: float, second_kg: float) -> CurrentMax:
            found = current_max([mark(first_kg, 3, MarkKind.REP_MAX), mark(second_kg, 3, MarkKind.AMRAP)], DAY)
            assert found is not None
            return found

        agreeing, apart = two(100, 100), two(101.9, 98.1)
        errors = [kg * (3 + 0.8 * 3 / 7) / 100 for kg in (100, 100)]
        shared_kg2 = 1.7**2 + 1.5**2  # what kinds read from repetitions have in common, in per cent of 100 kg
        assert agreeing.error_kg == pytest.approx((1 / sum(e**-2 for e in errors) + shared_kg2) ** 0.5)
        assert apart.error_kg == pytest.approx(agreeing.error_kg, rel=0.01), "apart by less than their errors"
        wide = two(108, 100)
        weights = [(kg * (3 + 0.8 * 3 / 7) / 100) ** -2 for kg in (108, 100)]
        middle = (108 * weights[0] + 100 * weights[1]) / sum(weights)
        spread = weights[0] * (108 - middle) ** 2 + weights[1] * (100 - middle) ** 2
        assert wide.error_kg == pytest.approx((spread / sum(weights) + shared_kg2 * (middle / 100) ** 2) ** 0.5)

    # [J] usual errors in % of a mark of today; 0.8 % a week on top as it ages
    @pytest.mark.parametrize(
        ("kind", "error_pct"),
        [(MarkKind.ONE_RM, 1.5), (MarkKind.TECHNICAL_MAX, 2.0), (MarkKind.VELOCITY_MAX, 3.0), (MarkKind.REP_MAX, 3.0),
         (MarkKind.AMRAP, 3.0), (MarkKind.SET_RIR, 4.0)],
    )  # fmt: skip
    def test_the_error_of_each_kind(self, kind: MarkKind, error_pct: float) -> None:
        reps = 1 if kind in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.VELOCITY_MAX) else 5
        for weeks in (0, 4):
            found = current_max([mark(100, 7 * weeks, kind, reps)], DAY)
            assert found is not None
            assert 100 * found.error_kg / found.value_kg == pytest.approx(error_pct + 0.8 * weeks)

    # [C] up to 10 repetitions as usual, 11 to 15 roughly (8 %), beyond that nothing
    @pytest.mark.parametrize(("reps", "error_pct"), [(10, 3.0), (11, 8.0), (15, 8.0), (16, None)])
    def test_many_repetitions_say_little(self, reps: int, error_pct: float | None) -> None:
        found = current_max([mark(60, 0, MarkKind.REP_MAX, reps)], DAY)
        assert (found is None) == (error_pct is None)
        if found is not None:
            assert 100 * found.error_kg / found.value_kg == pytest.approx(error_pct)

    def test_fifteen_is_the_most_and_eleven_the_first_rough_one(self) -> None:
        assert (MOST_REPS, ROUGH_FROM_REPS) == (15, 11)

    # [C] 80 % of the max, 4 in reserve
    @pytest.mark.parametrize(("kg", "counts"), [(81, True), (79, False)])
    def test_the_lightest_set_with_reserve_that_counts(self, kg: float, counts: bool) -> None:
        found = current_max([mark(100, 7), mark(kg, 0, MarkKind.SET_RIR, 5, 3)], DAY)
        assert found is not None
        assert (len(found.evidence) == 2) == counts

    @pytest.mark.parametrize(("rir", "counts"), [(4, True), (4.5, False)])
    def test_the_most_reserve_that_counts(self, rir: float, counts: bool) -> None:
        assert (max_from_mark(mark(90, 0, MarkKind.SET_RIR, 3, rir)) is not None) == counts

    # [C] the first year of lifting
    @pytest.mark.parametrize(("years", "counts"), [(0.99, False), (1.0, True)])
    def test_from_when_on_reserve_counts(self, years: float, counts: bool) -> None:
        found = current_max([mark(100, 7), mark(90, 0, MarkKind.SET_RIR, 3, 1)], DAY, training_age_years=years)
        assert found is not None
        assert (len(found.evidence) == 2) == counts

    def test_a_refused_day_is_left_out_and_its_neighbour_is_not(self) -> None:
        marks = [mark(100, 9), mark(120, 1), mark(101, 2, MarkKind.TECHNICAL_MAX)]
        found = current_max(marks, DAY, decisions=[Decision("one_rm:120:1", accepted=False)])
        assert found is not None
        assert {e.mark.load_kg for e in found.evidence} == {100, 101}


# common practice: more than 10 % between the sides is looked at
@pytest.mark.parametrize(("weaker", "flagged"), [(90.1, False), (90.0, False), (89.9, True)])
def test_a_difference_between_sides(weaker: float, flagged: bool) -> None:
    left, right = Reading(weaker, "cm", "", False), Reading(100.0, "cm", "", False)
    assert compare_sides(left, right).is_flagged == flagged


class TestLadder:
    def rule(self, **more: float) -> LadderRule:
        return LadderRule(0.70, Barbell(20, ((20, 4), (10, 2), (5, 2), (2.5, 2), (1.25, 2))), -0.01, **more)  # type: ignore[arg-type]

    # [J] the spread of one repetition at equal loads, 0.03 m/s
    @pytest.mark.parametrize(("mps", "state"), [(0.671, State.CONFIRM), (0.669, State.ON)])
    def test_a_borderline_miss_is_tried_once_more(self, mps: float, state: State) -> None:
        assert next_load(self.rule(), [Try(60, 0.85), Try(70, mps)]).state is state

    # [J] with one load known, six tenths of the way to the crossing
    def test_how_far_towards_the_crossing(self) -> None:
        found = next_load(self.rule(), [Try(60, 0.75)])
        assert found.crossing_kg == pytest.approx(65, abs=0.5)
        assert found.load_kg == pytest.approx(60 + 0.6 * (found.crossing_kg - 60), abs=1.25)
        assert found.load_kg < found.crossing_kg - 1

    # [J] it begins at 55 % of what is expected
    def test_where_it_begins(self) -> None:
        assert next_load(self.rule(expected_kg=100), []).load_kg == 55

    # [J] after a miss with nothing passed, the load below 85 % of it
    def test_how_far_back_down(self) -> None:
        assert next_load(self.rule(), [Try(100, 0.40)]).load_kg == 82.5


class TestProfile:
    def points(self, wobble: float) -> list[LoadVelocity]:
        signs = (1, -1, -1, 1, 1)
        return [LoadVelocity(DAY, 40 + 15 * i, 1.2 - 0.15 * i + wobble * signs[i]) for i in range(5)]

    # common practice: R² of 0.95
    def test_the_line_must_be_tight(self) -> None:
        wobble = {}
        for i in range(1, 200):
            found = fit_profile(self.points(i / 2000), 105)
            assert found is not None
            wobble[i] = (found.r_squared, found.is_sound)
        assert any(0.95 <= r2 < 0.955 for r2, _ in wobble.values())
        assert any(0.945 < r2 < 0.95 for r2, _ in wobble.values())
        assert all(sound == (r2 >= 0.95) for r2, sound in wobble.values())

    # common practice: four loads over 40 points of the max
    @pytest.mark.parametrize(("loads", "sound"), [((40, 55, 70, 82), True), ((40, 60, 82), False), ((45, 55, 70, 82), False)])
    def test_loads_and_span(self, loads: tuple[float, ...], sound: bool) -> None:
        found = fit_profile([LoadVelocity(DAY, x, 1.6 - 0.01 * x) for x in loads], 100)
        assert (found is not None and found.is_sound) == sound


class TestTaper:
    # Bosquet et al. 2007, quoted from memory: 8 to 14 days, 41 to 60 % less
    @pytest.mark.parametrize(("days", "said"), [(7, True), (8, False), (14, False), (15, True)])
    def test_days(self, days: int, said: bool) -> None:
        assert any("days;" in r for r in remarks(TaperStyle(days, Shape.STEP, 50))) == said

    @pytest.mark.parametrize(("cut", "said"), [(40.9, True), (41, False), (60, False), (60.1, True)])
    def test_cut(self, cut: float, said: bool) -> None:
        assert any("volume" in r for r in remarks(TaperStyle(12, Shape.STEP, cut))) == said

    # Pritchard et al. 2015, quoted from memory: 30 to 70 % in strength tapers
    @pytest.mark.parametrize(("cut", "known"), [(29.9, False), (30, True), (70, True), (70.1, False)])
    def test_cut_of_strength_tapers(self, cut: float, known: bool) -> None:
        assert any("Pritchard" in r for r in remarks(TaperStyle(12, Shape.STEP, cut))) == known

    # Mujika & Padilla 2003, quoted from memory: 80 % of the days and more
    @pytest.mark.parametrize(("share", "said"), [(79.9, True), (80, False)])
    def test_frequency(self, share: float, said: bool) -> None:
        assert any("of the days" in r for r in remarks(TaperStyle(12, Shape.STEP, 50, share))) == said


class TestResiduals:
    def test_a_quality_holds_to_its_last_day_and_not_a_day_longer(self) -> None:
        """The last dose lies a fixed number of days before the day: it covers it while it holds at least so long."""
        day = date(2027, 4, 3)
        plan = plan_season(date(2026, 11, 24), day)
        out = next((day - r.last_exposure).days for r in plan.residuals if r.quality == "max strength")
        for holds, covers in ((out - 1, False), (out, True), (out + 1, True)):
            rules = Rules({"season.max_strength_days": holds})
            found = next(r for r in residuals_for(plan.weeks, day, ARRANGEMENT, rules) if r.quality == "max strength")
            assert found.covers_competition == covers


def test_a_repetition_that_stops_just_short_of_the_last_ones_top_counts() -> None:
    """[J] a stop counts as the top from 85 % of the expected range on; the number itself is only pinned."""
    assert FULL_RANGE_SHARE == 0.85
    rate_hz, still = 100.0, np.full(60, 0.6)
    up = 0.6 * (1 - np.cos(np.linspace(0, np.pi, 80))) / 2
    once, again = [0.6 - up, np.zeros(20), up], [0.6 - up, np.zeros(20), 0.95 * up, np.full(100, 0.57)]
    x = np.concatenate([still, *once, still, *again])
    samples = zip(np.arange(len(x)) / rate_hz, x, strict=True)
    assert len(detect_reps(samples, LiftMotion(0.25, Start.LOWERED_FIRST), rate_hz)) == 2
