"""Load-velocity profiles against certified data and reference libraries."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import numpy as np
import pytest
import scipy.stats
import statsmodels.api as sm

from jarvok.core.library.exercises import exercise
from jarvok.core.velocity.daily_max import daily_max, velocity_mark
from jarvok.core.velocity.definition import Definition, short_phase_words
from jarvok.core.velocity.profile import (
    LoadVelocity,
    bench_press_percent,
    fit_profile,
    full_squat_percent,
    general_share_for_velocity,
    general_velocity_mps,
)
from jarvok.core.velocity.set_summary import MeasuredRep, summary

DAY = date(2026, 3, 2)
SQUAT = exercise("front_squat")


def points(loads, velocities, day=DAY) -> list[LoadVelocity]:
    return [LoadVelocity(day, float(x), float(v), f"p{i}") for i, (x, v) in enumerate(zip(loads, velocities, strict=True))]


def test_line_against_nist_norris() -> None:
    """NIST StRD Norris, certified values; the data travel with scipy's own tests.

    Our profiles fall as load rises, so Norris is fitted mirrored: y -> -y. Repeated loads keep the fastest only, so
    the comparison uses the certified slope with the data's distinct loads through scipy's linregress as well.
    """
    path = Path(scipy.stats.__file__).parent / "tests" / "data" / "nist_linregress" / "Norris.dat"
    rows = np.array([list(map(float, line.split())) for line in path.read_text().splitlines()[60:] if line.strip()])
    y, x = rows[:, 0], rows[:, 1]
    reference = scipy.stats.linregress(x, y)
    assert reference.slope == pytest.approx(1.00211681802045, rel=1e-12)  # certified
    shifted = x + np.arange(len(x)) * 1e-7  # distinct days are not needed when no two loads are the same
    days = [date.fromordinal(DAY.toordinal() + i) for i in range(len(x))]
    mirrored = [LoadVelocity(d, float(a), float(-b)) for d, a, b in zip(days, shifted, y, strict=True)]
    profile = fit_profile(mirrored, None)
    assert profile is not None
    assert -profile.slope_mps_per_kg == pytest.approx(1.00211681802045, rel=1e-8)
    assert -profile.intercept_mps == pytest.approx(-0.262323073774029, rel=1e-5)
    assert profile.error_mps == pytest.approx(0.884796396144373, rel=1e-6)
    assert profile.r_squared == pytest.approx(0.999993745883712, rel=1e-9)


def test_prediction_band_against_statsmodels() -> None:
    loads = np.array([40, 60, 75, 90, 100, 110.0])
    speeds = np.array([1.12, 0.90, 0.77, 0.58, 0.49, 0.36])
    profile = fit_profile(points(loads, speeds), 120)
    assert profile is not None
    model = sm.OLS(speeds, sm.add_constant(loads)).fit()
    frame = model.get_prediction(np.column_stack([np.ones(3), [50, 80, 120]])).summary_frame(alpha=0.05)
    for load, low, high in zip([50, 80, 120], frame["obs_ci_lower"], frame["obs_ci_upper"], strict=True):
        half = profile.prediction_half_width_mps(load)
        assert profile.velocity_mps(load) - half == pytest.approx(low, abs=1e-9)
        assert profile.velocity_mps(load) + half == pytest.approx(high, abs=1e-9)


def test_load_at_a_velocity_has_fiellers_interval() -> None:
    """Fieller's limits, closed form: the loads whose band of the mean line just reaches the velocity."""
    loads, speeds = np.array([40, 60, 75, 90, 100.0]), np.array([1.12, 0.90, 0.76, 0.57, 0.49])
    profile = fit_profile(points(loads, speeds), 120)
    assert profile is not None
    interval = profile.load_interval_kg(0.30)
    assert interval is not None
    model = sm.OLS(speeds, sm.add_constant(loads)).fit()
    for edge in interval:
        frame = model.get_prediction([[1, edge]]).summary_frame(alpha=0.05)
        bounds = (frame["mean_ci_lower"].iloc[0], frame["mean_ci_upper"].iloc[0])
        assert min(abs(b - 0.30) for b in bounds) < 1e-9
    assert interval[0] < profile.load_kg(0.30) < interval[1]


@pytest.mark.parametrize(
    ("loads", "speeds", "said"),
    [
        ([60, 80, 100], [0.9, 0.7, 0.5], "3 loads so far"),
        ([80, 90, 100, 110], [0.7, 0.6, 0.5, 0.4], "% of the max"),
        ([40, 60, 80, 100], [1.1, 0.6, 0.9, 0.5], "full intent"),
        ([40, 60, 80, 100], [1.1, 0.9, 0.95, 0.5], "heavier load was moved faster"),
    ],
)
def test_each_gate_says_what_is_missing(loads, speeds, said: str) -> None:
    profile = fit_profile(points(loads, speeds), 120)
    assert profile is not None
    assert not profile.is_sound
    assert any(said in text for text in profile.quality)


def test_no_line_from_two_loads_or_a_rising_one() -> None:
    assert fit_profile(points([60, 100], [0.9, 0.5]), 120) is None
    assert fit_profile(points([60, 80, 100], [0.5, 0.6, 0.7]), 120) is None
    assert fit_profile([], 120) is None


def test_only_the_fastest_repetition_of_a_load_counts() -> None:
    profile = fit_profile(points([40, 40, 60, 80, 100], [1.0, 1.1, 0.9, 0.7, 0.5]), 120)
    assert profile is not None
    assert len(profile.points) == 4
    assert profile.intercept_mps + profile.slope_mps_per_kg * 40 == pytest.approx(1.1, abs=0.001)


def test_daily_max_is_the_load_at_v1rm() -> None:
    loads = np.array([40, 60, 80, 100.0])
    result = daily_max(points(loads, 1.5 - 0.01 * loads), SQUAT, 120)
    assert result.load_kg == pytest.approx(120)  # 1.5 - 0.01 x = 0.30
    mark = velocity_mark(points(loads, 1.5 - 0.01 * loads), SQUAT, 120)
    assert mark is not None
    assert mark.ref == "p3"


def test_a_light_day_says_nothing_about_the_max() -> None:
    loads = np.array([20, 40, 60, 70.0])
    result = daily_max(points(loads, 1.5 - 0.01 * loads), SQUAT, 120)
    assert result.load_kg is None
    assert "too light" in result.missing[0]


# published equations, quoted from memory; checked at the velocities their sources give for the max
def test_bench_press_equation() -> None:  # González-Badillo & Sánchez-Medina 2010, quoted from memory
    assert bench_press_percent(0.17) == pytest.approx(100, abs=0.5)
    assert bench_press_percent(0.62) == pytest.approx(70, abs=0.5)


def test_full_squat_equation() -> None:  # Sánchez-Medina et al. 2017, quoted from memory
    assert full_squat_percent(0.32) == pytest.approx(100, abs=0.5)
    assert full_squat_percent(0.84) == pytest.approx(70, abs=0.5)


def test_the_zones_are_not_the_same_percentages_in_every_lift() -> None:
    # 0.50-0.75 m/s is about 90-76 % in the squat and 78-62 % in the bench press by the published equations
    squat = [general_share_for_velocity(exercise("back_squat"), v) for v in (0.50, 0.75)]
    bench = [general_share_for_velocity(exercise("bench_press"), v) for v in (0.50, 0.75)]
    assert squat == pytest.approx([0.90, 0.76], abs=0.01)
    assert bench == pytest.approx([0.78, 0.62], abs=0.01)


def test_general_line_meets_its_anchors() -> None:
    lift = exercise("trap_bar_deadlift")
    assert lift.v1rm is not None
    assert general_velocity_mps(lift, 1.0) == pytest.approx(lift.v1rm.mps)
    assert general_share_for_velocity(lift, lift.v1rm.mps) == pytest.approx(1.0)
    assert general_share_for_velocity(exercise("pull_up"), 0.5) is None


class TestDefinitions:
    """Numbers taken from other to other points of the lift are never put on one line."""

    def points(self, definition: Definition, day: date, *loads: float, shift: float = 0.0) -> list[LoadVelocity]:
        return [LoadVelocity(day, kg, 1.5 - 0.01 * kg + shift, "", definition) for kg in loads]

    def test_the_old_line_stays_until_the_new_kind_makes_one(self) -> None:
        old = self.points(Definition.FITTED, date(2026, 11, 1), 40, 60, 80, 95, 105, shift=-0.05)
        few = self.points(Definition.CROSSING, date(2026, 12, 1), 80, 90)
        found = fit_profile(old + few, 120)
        assert found is not None
        assert found.definition is Definition.FITTED
        assert len(found.points) == 5
        assert "2 %" in found.waiting
        many = self.points(Definition.CROSSING, date(2026, 12, 1), 40, 60, 80, 95, 105)
        now = fit_profile(old + many, 120)
        assert now is not None
        assert (now.definition, now.waiting) == (Definition.CROSSING, "")
        assert now.intercept_mps == pytest.approx(1.5)

    def test_of_two_unsound_lines_the_newer_is_shown(self) -> None:
        old = self.points(Definition.FITTED, date(2026, 11, 1), 80, 85, 90)
        new = self.points(Definition.DEVICE, date(2026, 12, 1), 80, 85, 90)
        found = fit_profile(old + new, 120)
        assert found is not None
        assert found.definition is Definition.DEVICE
        assert not found.is_sound


def test_what_a_short_phase_is_worth_is_said() -> None:
    assert short_phase_words(0.85) == ""
    assert "3.5 % low" in short_phase_words(0.84)
    assert "3.5 % low" in short_phase_words(0.7)
    assert "6 % low" in short_phase_words(0.69)
    assert "6 % low" in short_phase_words(0.3)


class TestSetSummary:
    def reps(self, *means: float) -> list[MeasuredRep]:
        return [MeasuredRep(m, m * 1.02, m * 1.6, 0.4, 0.6) for m in means]

    @pytest.mark.parametrize(("means", "words"), [
        ((0.60, 0.60, 0.59), "even"), ((0.60, 0.55, 0.50), "slowing from repetition to repetition"),
        ((0.55, 0.60, 0.59), "the first repetition was slow: timing not grooved yet"),
        ((0.60, 0.62, 0.55), "somewhat uneven"), ((0.70, 0.72, 0.52, 0.70), "uneven: timing not grooved yet"),
        ((0.60, 0.50), ""),
    ])  # fmt: skip
    def test_evenness_in_words(self, means: tuple[float, ...], words: str) -> None:
        found = summary(self.reps(*means), "mean")
        assert found is not None
        assert found.words == words

    def test_the_figures(self) -> None:
        found = summary(self.reps(0.60, 0.50, 0.40), "peak")
        assert found is not None
        assert found.fastest_mps == pytest.approx(0.96)
        assert found.last_mps == pytest.approx(0.64)
        assert found.loss_pct == pytest.approx(100 / 3)
        assert found.mean_mps == pytest.approx(0.5)
        assert found.propulsive_mps == pytest.approx(0.51)
        assert found.zone == "accelerative strength"
        assert found.spread_pct == pytest.approx(20.0)
        assert found.caution == "", "peak counts, whatever the length"
        assert summary([], "mean") is None
