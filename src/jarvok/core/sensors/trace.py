"""A made-up bar: the position signal of a set, with the noise-free truth beside it.

The shape of the made-up path is technical [T]: chosen so that bars are unracked, paused, missed and put back as real ones are.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from jarvok.core.exercises import Pattern
from jarvok.core.velocity.definition import PHASE_EDGE_MPS

FINE_HZ = 1000.0


@dataclass(frozen=True)
class TrueRep:
    """What a repetition really was, before noise. Times from the start of the trace, which are those of the whole movement.

    `mean_mps` is range over time; `crossing_mps` the mean between the crossings of the edge speed, as it is measured.
    """

    start_s: float
    end_s: float
    mean_mps: float
    crossing_mps: float
    peak_mps: float
    range_m: float


@dataclass(frozen=True)
class Trace:
    """Samples `(time_s, position_m)` at `rate_hz` and the repetitions that are really in them."""

    rate_hz: float
    time_s: NDArray[np.float64]
    position_m: NDArray[np.float64]
    reps: tuple[TrueRep, ...]

    def samples(self) -> list[tuple[float, float]]:
        """Return the samples as pairs, in order."""
        return list(zip(self.time_s.tolist(), self.position_m.tolist(), strict=True))


def concentric_velocity(mean_mps: float, range_m: float, sticking: float = 0.0) -> NDArray[np.float64]:
    """Return velocity each millisecond of a concentric phase that covers `range_m` at `mean_mps` on average.

    `sticking` from 0 (smooth) to 0.7 (a grind) slows the middle of the lift.
    """
    count = max(60, round(range_m / mean_mps * FINE_HZ))
    s = (np.arange(count) + 0.5) / count
    shape = s * (1 - s) * (1 - sticking * np.exp(-(((s - 0.42) / 0.16) ** 2)))
    return np.asarray(shape * (range_m * FINE_HZ / shape.sum()), dtype=np.float64)


def crossing_mean_mps(velocity_mps: NDArray[np.float64]) -> float:
    """Return the mean of the velocities from the first to the last that is not under the edge speed."""
    over = np.nonzero(velocity_mps >= PHASE_EDGE_MPS)[0]
    return float(velocity_mps[over[0] : over[-1] + 1].mean()) if len(over) else 0.0


def _glide(distance_m: float, seconds: float) -> NDArray[np.float64]:
    """Velocity each millisecond of a smooth controlled movement over `distance_m` (negative: down)."""
    count = max(40, round(seconds * FINE_HZ))
    s = (np.arange(count) + 0.5) / count
    shape = s * (1 - s)
    return np.asarray(shape * (distance_m * FINE_HZ / shape.sum()), dtype=np.float64)


def _still(seconds: float) -> NDArray[np.float64]:
    return np.zeros(max(1, round(seconds * FINE_HZ)))


class _Builder:
    def __init__(self, rng: Generator) -> None:
        self.rng = rng
        self.parts: list[NDArray[np.float64]] = []
        self.reps: list[TrueRep] = []

    def now_s(self) -> float:
        return sum(len(p) for p in self.parts) / FINE_HZ

    def add(self, velocity: NDArray[np.float64]) -> None:
        self.parts.append(velocity)

    def rest(self, low_s: float, high_s: float) -> None:
        self.add(_still(float(self.rng.uniform(low_s, high_s))))

    def lift(self, mean_mps: float, range_m: float, sticking: float) -> None:
        velocity = concentric_velocity(mean_mps, range_m, sticking)
        start = self.now_s()
        self.add(velocity)
        seconds = len(velocity) / FINE_HZ
        self.reps.append(
            TrueRep(start, start + seconds, range_m / seconds, crossing_mean_mps(velocity), float(velocity.max()), range_m)
        )


def simulate_set(
    pattern: Pattern,
    mean_velocities_mps: list[float],
    range_m: float,
    rate_hz: float,
    noise_m: float,
    rng: Generator,
) -> Trace:
    """Return the bar's positions for one set: unrack and walk-out, one repetition per given velocity, re-rack.

    `noise_m` is the standard deviation of white position noise; `rng` makes the set repeatable.
    """
    b = _Builder(rng)
    b.rest(0.8, 1.4)
    if pattern in (Pattern.SQUAT, Pattern.BENCH, Pattern.PRESS):
        _unrack(b, pattern)
    for index, mean_mps in enumerate(mean_velocities_mps):
        covered = range_m * float(rng.uniform(0.97, 1.03))
        sticking = float(np.clip(0.75 - mean_mps, 0.0, 0.5))
        if pattern in (Pattern.SQUAT, Pattern.BENCH):
            b.add(_glide(-covered, float(rng.uniform(0.7, 1.5))))
            if rng.uniform() < 0.3:
                b.rest(0.05, 0.5)
            b.lift(mean_mps, covered, sticking)
            b.rest(0.15, 0.9)
        else:
            b.lift(mean_mps, covered, sticking)
            b.rest(0.12, 0.7)
            b.add(_glide(-covered, float(rng.uniform(0.6, 1.2))))
            b.rest(0.25, 0.9)
        if index == 0 and pattern is Pattern.DEADLIFT and rng.uniform() < 0.3:
            b.add(_glide(0.06, 0.35))  # a false start: slack out, bar put back
            b.add(_glide(-0.06, 0.3))
            b.rest(0.3, 0.8)
    if pattern in (Pattern.SQUAT, Pattern.BENCH, Pattern.PRESS):
        b.rest(0.4, 0.9)
        b.add(_glide(float(rng.uniform(0.01, 0.04)), 0.5))
        b.add(_glide(-float(rng.uniform(0.05, 0.14)), float(rng.uniform(0.4, 0.8))))
    b.rest(0.8, 1.2)
    return _sample(b, rate_hz, noise_m)


def _unrack(b: _Builder, pattern: Pattern) -> None:
    b.add(_glide(float(b.rng.uniform(0.05, 0.12)), 0.6))
    b.rest(0.2, 0.6)
    for _ in range(2 if pattern is Pattern.BENCH else 4):  # steps back, or the bar brought over the shoulders
        sway = float(b.rng.uniform(0.008, 0.025))
        b.add(_glide(-sway, 0.25))
        b.add(_glide(sway, 0.25))
    b.rest(0.5, 1.0)


def _sample(b: _Builder, rate_hz: float, noise_m: float) -> Trace:
    velocity = np.concatenate(b.parts)
    fine = 0.6 + np.concatenate(([0.0], np.cumsum(velocity) / FINE_HZ))
    duration_s = (len(fine) - 1) / FINE_HZ
    time_s = np.arange(0.0, duration_s, 1.0 / rate_hz)
    clean = np.interp(time_s, np.arange(len(fine)) / FINE_HZ, fine)
    noisy = clean + b.rng.normal(0.0, noise_m, len(clean)) if noise_m > 0 else clean
    return Trace(rate_hz, time_s, noisy, tuple(b.reps))
