"""The curve of a sprint: against numeric integration, under noise of the gates, and times that are no run."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.optimize import brentq

from jarvok.core.errors import CoachError
from jarvok.core.running.sprint_curve import (
    LEAST_SHARE,
    MOST_RMSE_S,
    Split,
    check_splits,
    drag_n_per_mps2,
    read_splits,
    sprint_curve,
    time_at_s,
)

DISTANCES = (5, 10, 20, 30, 40)


def run(vmax: float, tau: float, distances=DISTANCES, noise_s: float = 0.0, seed: int = 1) -> list[Split]:
    rng = np.random.default_rng(seed)
    return [Split(d, time_at_s(d, vmax, tau) + noise_s * rng.standard_normal()) for d in distances]


def test_the_time_at_a_distance_is_the_integral_turned_round() -> None:
    """Outside: numeric integration of the speed and a root finder."""
    for vmax, tau in ((7.0, 0.9), (8.4, 1.15), (10.6, 1.4)):
        for distance in (5.0, 17.0, 40.0):
            far = lambda t, v=vmax, k=tau: quad(lambda u: v * (1 - np.exp(-u / k)), 0, t)[0]  # noqa: E731
            expected = brentq(lambda t, d=distance, f=far: f(t) - d, 0.01, 30)
            assert time_at_s(distance, vmax, tau) == pytest.approx(expected, abs=1e-9)


@pytest.mark.parametrize("vmax", [6.5, 8.0, 9.5, 11.0])
@pytest.mark.parametrize("tau", [0.8, 1.1, 1.4])
def test_exact_times_give_back_the_curve(vmax: float, tau: float) -> None:
    found = sprint_curve(run(vmax, tau))
    assert found is not None
    assert (found.vmax_mps, found.tau_s) == pytest.approx((vmax, tau), rel=1e-4)
    assert found.rmse_s < 1e-4
    assert found.force_n_per_kg == pytest.approx(vmax / tau, rel=1e-6), "without the air the line is exact"
    assert found.power_w_per_kg == pytest.approx(vmax**2 / tau / 4, rel=1e-6)


def test_gates_that_read_a_hundredth_off_leave_it_near() -> None:
    off = [sprint_curve(run(8.4, 1.1, noise_s=0.01, seed=s)) for s in range(200)]
    vmax = np.array([c.vmax_mps for c in off if c])
    assert abs(vmax.mean() - 8.4) < 0.03
    assert vmax.std() < 0.15


def test_three_splits_are_enough_and_two_are_not() -> None:
    assert sprint_curve(run(8, 1.0, (10, 20, 30))) is not None
    assert sprint_curve(run(8, 1.0, (10, 30))) is None
    assert sprint_curve(run(8, 1.0, (10, 20, 70))) is None, "what lies beyond 60 m is left out"


def test_a_short_run_says_that_top_speed_is_a_guess() -> None:
    short, long = sprint_curve(run(9, 1.4, (5, 10, 15))), sprint_curve(run(9, 1.4, (10, 20, 40)))
    assert short is not None
    assert long is not None
    assert (short.is_long_enough, long.is_long_enough) == (False, True)
    assert any("longer run" in m for m in short.working.missing)
    edge_s = -1.0 * np.log(1 - LEAST_SHARE)  # at τ = 1 s
    for after, is_enough in ((1.02, True), (0.98, False)):
        t = edge_s * after
        last = 8.0 * (t + np.exp(-t) - 1)
        found = sprint_curve([Split(d, time_at_s(d, 8.0, 1.0)) for d in (last / 3, last / 2, last)])
        assert found is not None
        assert found.is_long_enough is is_enough


def test_times_of_two_runs_are_said() -> None:
    mixed = [Split(10, 1.9), Split(20, 2.9), Split(30, 4.5), Split(40, 5.3)]
    found = sprint_curve(mixed)
    assert found is not None
    assert found.rmse_s > MOST_RMSE_S
    assert not found.is_long_enough
    assert any("one run" in m for m in found.working.missing)


def test_the_air_adds_force() -> None:
    """Area and drag as Arsac & Locatelli 2002 give them, quoted from memory: about 0.2 to 0.3 N per (m/s)²."""
    assert 0.2 < drag_n_per_mps2(75, 180) < 0.32
    bare, aired = sprint_curve(run(9, 1.2)), sprint_curve(run(9, 1.2), 75, 180)
    assert bare is not None
    assert aired is not None
    assert not bare.has_air
    assert aired.has_air
    assert 0 < aired.power_w_per_kg - bare.power_w_per_kg < 0.12 * bare.power_w_per_kg
    assert sprint_curve(run(9, 1.2), 75, None).has_air is False  # type: ignore[union-attr]


def test_nine_tenths_of_top_speed_are_reached_where_they_are() -> None:
    found = sprint_curve(run(9, 1.2))
    assert found is not None
    assert found.speed_at_mps(found.time_at_s(found.near_top_m)) == pytest.approx(0.9 * found.vmax_mps, rel=1e-6)


class TestTyped:
    @pytest.mark.parametrize(
        "text",
        [
            "10 1.78, 20 3.02, 30 4.15",
            "10m 1.78s; 20m 3.02s; 30m 4.15s",
            "30: 4.15, 10: 1.78, 20: 3.02",
            "10 m in 1.78, 20 m in 3.02, 30 m in 4.15,",
        ],
    )  # fmt: skip
    def test_as_people_write_them(self, text: str) -> None:
        assert read_splits(text) == (Split(10, 1.78), Split(20, 3.02), Split(30, 4.15))

    @pytest.mark.parametrize("text", ["ten 1.7", "10", "10 1.7 2.9", "10 3.0, 20 2.0", "10 1.7, 10 1.8", "10 0.5", "0 0"])
    def test_what_is_no_run_gets_a_sentence(self, text: str) -> None:
        with pytest.raises(CoachError) as caught:
            read_splits(text)
        assert caught.value.accepted

    def test_the_edge_of_what_anybody_runs(self) -> None:
        assert check_splits([Split(13, 1.001)])
        with pytest.raises(CoachError):
            check_splits([Split(13, 0.999)])
