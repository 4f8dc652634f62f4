"""From positions to repetitions: closed forms, simulated sets, and streams that misbehave.

No real bar traces in metres were found to check against; the checks are closed forms and the simulator's own truth.
"""

from __future__ import annotations

import os

import numpy as np
import pytest
from scipy.signal import butter, sosfiltfilt

from jarvok.core.exercises import LiftMotion, Pattern, Start
from jarvok.core.sensors.trace import Trace, simulate_set
from jarvok.core.velocity.definition import PHASE_EDGE_MPS
from jarvok.core.velocity.detect import RepDetector, detect_reps
from jarvok.core.velocity.filtering import DUAL_PASS_CORRECTION, low_pass
from jarvok.core.velocity.metrics import STANDARD_GRAVITY_MPS2

LOWERED, REST = Start.LOWERED_FIRST, Start.FROM_REST
# five lifts: what the detector is told, range in m, mean velocity at the max and how it grows as the load falls
LIFTS = {
    Pattern.SQUAT: (LiftMotion(0.25, LOWERED), 0.55, 0.30, 1.7),
    Pattern.BENCH: (LiftMotion(0.18, LOWERED), 0.38, 0.17, 1.5),
    Pattern.DEADLIFT: (LiftMotion(0.25, REST), 0.50, 0.20, 1.15),
    Pattern.PRESS: (LiftMotion(0.25, REST), 0.50, 0.19, 1.4),
    Pattern.ROW: (LiftMotion(0.20, REST), 0.40, 0.52, 1.2),
}


def simulated(index: int, rate_hz: float) -> tuple[Trace, LiftMotion]:
    """Set number `index`: 50-95 % of the max, walk-out and re-rack in it, noise of 1-2 mm."""
    rng = np.random.default_rng(5000 + index)
    pattern = list(Pattern)[index % 5]
    motion, range_m, at_max, slope = LIFTS[pattern]
    share = float(rng.uniform(0.5, 0.95))
    reps = int(rng.integers(1, 1 + min(8, max(1, int(30 * (1 / share - 1))))))
    velocities = [max(at_max * 0.9, at_max + slope * (1 - share) - float(rng.uniform(0, 0.04)) * i) for i in range(reps)]
    noise_m = float(rng.uniform(0.001, 0.002))
    return simulate_set(pattern, velocities, range_m, rate_hz, noise_m, rng), motion


def cosine_mps(length_m: float, up_s: float) -> float:
    """The definition in closed form for v = (π L / 2T) sin(πt/T): it crosses the edge where sin is k."""
    k = PHASE_EDGE_MPS / (np.pi * length_m / (2 * up_s))
    return float(length_m * np.sqrt(1 - k * k) / (up_s * (1 - 2 * np.arcsin(k) / np.pi)))


def minimum_jerk_mps(length_m: float, up_s: float) -> float:
    """The definition in closed form for v = 30 L/T s²(1 − s)²: it crosses the edge where s(1 − s) = √(edge T / 30 L)."""
    q = np.sqrt(PHASE_EDGE_MPS * up_s / (30 * length_m))
    s = (1 - np.sqrt(1 - 4 * q)) / 2
    covered = [length_m * (10 * x**3 - 15 * x**4 + 6 * x**5) for x in (s, 1 - s)]
    return float((covered[1] - covered[0]) / (up_s * (1 - 2 * s)))


class TestClosedForms:
    def test_the_forms_are_those_of_the_books(self) -> None:
        # for 0.6 m in 1 s; worked out by hand from the definition
        assert minimum_jerk_mps(0.6, 1.0) == pytest.approx(0.655, abs=0.001)
        assert cosine_mps(0.6, 1.0) == pytest.approx(0.612, abs=0.001)

    @pytest.mark.parametrize("rate_hz", [50, 100, 200])
    @pytest.mark.parametrize(("amplitude_m", "period_s"), [(0.6, 2.0), (0.4, 1.9), (0.5, 3.5)])
    def test_cosine_repetitions(self, rate_hz: float, amplitude_m: float, period_s: float) -> None:
        # x = A (1 - cos wt) / 2, no rest anywhere: peak A w / 2
        t = np.arange(0, 4.6 * period_s, 1 / rate_hz)
        w = 2 * np.pi / period_s
        x = amplitude_m * (1 + np.cos(w * t)) / 2  # begins at the top, as a squat does
        reps = detect_reps(zip(t, x, strict=True), LiftMotion(0.25, LOWERED), rate_hz)
        assert len(reps) == 4
        for rep in reps[:3]:
            assert rep.metrics.mean_mps == pytest.approx(cosine_mps(amplitude_m, period_s / 2), rel=0.02)
            assert rep.metrics.peak_mps == pytest.approx(amplitude_m * w / 2, rel=0.005)
            assert rep.metrics.range_m == pytest.approx(amplitude_m, rel=0.01)
            assert rep.metrics.time_to_peak_s == pytest.approx(period_s / 4, abs=0.02 * period_s)

    @pytest.mark.parametrize("pause_s", [0.0, 0.6])
    @pytest.mark.parametrize(
        ("length_m", "up_s", "within"), [(0.5, 1.0, 0.02), (0.4, 0.7, 0.035), (0.4, 0.5, 0.06), (0.6, 1.6, 0.02)]
    )
    def test_minimum_jerk_repetitions(self, length_m: float, up_s: float, within: float, pause_s: float) -> None:
        # x = L (10 s^3 - 15 s^4 + 6 s^5): peak 1.875 L/T at mid-time
        rate_hz = 200.0
        s = np.arange(0, 1, 1 / (up_s * rate_hz))
        up = length_m * (10 * s**3 - 15 * s**4 + 6 * s**5)
        still_low, still_high = np.zeros(int(pause_s * rate_hz)), np.full(int(pause_s * rate_hz), length_m)
        x = np.concatenate([up[::-1], still_low, up, still_high, up[::-1], still_low, up, still_high, up[::-1]])
        t = np.arange(len(x)) / rate_hz
        reps = detect_reps(zip(t, x, strict=True), LiftMotion(0.25, LOWERED), rate_hz)
        assert len(reps) == 2
        for rep in reps:
            assert rep.metrics.mean_mps == pytest.approx(minimum_jerk_mps(length_m, up_s), rel=within)
            assert rep.metrics.peak_mps == pytest.approx(1.875 * length_m / up_s, rel=0.005)
            assert rep.metrics.time_to_peak_s == pytest.approx(0.44 * up_s, abs=0.06 * up_s)

    def test_mean_power_is_weight_times_mean_velocity_from_rest_to_rest(self) -> None:
        trace, motion = simulated(0, 200)
        metrics = detect_reps(trace.samples(), motion, 200)[0].metrics
        assert metrics.mean_power_w(100) == pytest.approx(100 * STANDARD_GRAVITY_MPS2 * metrics.mean_mps)


class TestFilter:
    def test_cut_off_is_corrected_for_two_passes(self) -> None:
        # closed form: (sqrt 2 - 1)^(1/4) for a 2nd-order filter run twice
        assert pytest.approx(0.80224, abs=1e-5) == DUAL_PASS_CORRECTION
        rate_hz, cutoff_hz = 400.0, 6.0
        t = np.arange(0, 20, 1 / rate_hz)
        x = np.sin(2 * np.pi * cutoff_hz * t)
        passed = low_pass(x, rate_hz, cutoff_hz)[2000:-2000]
        assert passed.max() == pytest.approx(2**-0.5, abs=0.005)  # -3 dB where it was asked for

    def test_against_scipy_with_the_same_design(self) -> None:
        rng = np.random.default_rng(1)
        x = np.cumsum(rng.normal(0, 0.01, 600))
        sections = butter(2, 5.0 / DUAL_PASS_CORRECTION, fs=100, output="sos")
        assert low_pass(x, 100, 5.0) == pytest.approx(sosfiltfilt(sections, x, padlen=20), abs=1e-12)


def filter_costs(duration_s: float) -> float:
    """The share that a short phase may read low, as it is said beside the number."""
    return 0.0 if duration_s >= 1.5 else 0.02 if duration_s >= 0.85 else 0.035 if duration_s >= 0.7 else 0.06


SETS = int(os.environ.get("JARVOK_SETS", "100"))  # a rate; a thousand take four minutes: run them before a release
CHUNK = 100


@pytest.mark.parametrize("first", range(0, SETS, CHUNK))
@pytest.mark.parametrize(("rate_hz", "mean_mps", "peak_mps"), [(50.0, 0.04, 0.04), (100.0, 0.03, 0.02), (200.0, 0.02, 0.02)])
def test_sets_without_a_missed_or_phantom_repetition(rate_hz: float, mean_mps: float, peak_mps: float, first: int) -> None:
    """Counts exact in every set, and velocities within their limit for 95 % of the repetitions of a chunk."""
    wrong, means, peaks = [], [], []
    for index in range(first, first + CHUNK):
        trace, motion = simulated(index, rate_hz)
        reps = detect_reps(trace.samples(), motion, rate_hz)
        if len(reps) != len(trace.reps):
            wrong.append(index)
            continue
        for rep, truth in zip(reps, trace.reps, strict=True):
            assert abs(rep.start_s - truth.start_s) < 0.2
            means.append(
                abs(rep.metrics.mean_mps - truth.crossing_mps) - filter_costs(truth.end_s - truth.start_s) * truth.crossing_mps
            )
            peaks.append(abs(rep.metrics.peak_mps - truth.peak_mps))
    assert wrong == []
    assert len(means) > 3 * CHUNK
    assert float(np.quantile(means, 0.95)) <= mean_mps
    assert float(np.quantile(peaks, 0.95)) <= peak_mps


def test_live_in_any_batches_equals_after_the_fact() -> None:
    for index in range(12):
        trace, motion = simulated(index, 100)
        samples = trace.samples()
        whole = detect_reps(samples, motion, 100)
        rng = np.random.default_rng(index)
        live, found, at = RepDetector(motion, 100), [], 0
        while at < len(samples):
            step = int(rng.integers(1, 40))
            found += live.push(samples[at : at + step])
            at += step
        found += live.flush()
        assert found == whole


class TestBadStreams:
    def setup_method(self) -> None:
        self.trace, self.motion = simulated(2, 100)
        self.samples = self.trace.samples()
        self.truth = detect_reps(self.samples, self.motion, 100)

    def run(self, samples) -> tuple[list, list[str]]:
        detector = RepDetector(self.motion, 100)
        reps = detector.push(samples) + detector.flush()
        return reps, [f.message for f in detector.faults]

    def test_repeated_timestamps_change_nothing(self) -> None:
        doubled = [s for s in self.samples for _ in (0, 1)]
        reps, faults = self.run(doubled)
        assert reps == self.truth
        assert faults == ["Repeated or late samples were left out."]

    def test_late_samples_are_left_out(self) -> None:
        samples = list(self.samples)
        samples.insert(200, (samples[150][0], 3.0))
        reps, faults = self.run(samples)
        assert reps == self.truth
        assert len(faults) == 1

    def test_single_missing_samples_are_bridged(self) -> None:
        reps, faults = self.run([s for i, s in enumerate(self.samples) if i % 9])
        assert faults == []
        assert [r.metrics.mean_mps for r in reps] == pytest.approx([r.metrics.mean_mps for r in self.truth], abs=0.03)

    def test_a_gap_inside_a_repetition_costs_that_repetition_only(self) -> None:
        rep = self.truth[0]
        middle = (rep.start_s + rep.end_s) / 2
        reps, faults = self.run([s for s in self.samples if not middle < s[0] < middle + 0.4])
        assert len(reps) == len(self.truth) - 1
        assert "without samples" in faults[0]

    def test_a_clock_that_jumps_back_starts_again(self) -> None:
        reps, faults = self.run([*self.samples, *self.samples])
        assert len(reps) == 2 * len(self.truth)
        assert "jumped back" in faults[0]

    def test_a_bar_that_does_not_move_has_no_repetitions(self) -> None:
        rng = np.random.default_rng(0)
        still = [(i / 100, 0.6 + float(rng.normal(0, 0.002))) for i in range(3000)]
        assert self.run(still)[0] == []

    @pytest.mark.parametrize("rate_hz", [5, 5000, float("nan")])
    def test_impossible_rates_are_refused(self, rate_hz: float) -> None:
        with pytest.raises(ValueError, match="20 to 1000"):
            RepDetector(self.motion, rate_hz)
