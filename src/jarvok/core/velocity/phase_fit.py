"""Where a concentric phase begins and ends, and how fast it went, from noisy positions.

The velocity of a phase that runs from rest to rest over s in 0..1 is written as s(1 - s) times a short Legendre
series; position is its integral, and stays level where the bar rests outside the phase. The series is fitted by
linear least squares; the two ends are then moved until the misfit is least (separable least squares; Golub &
Pereyra 1973, quoted from memory). Unlike a threshold on filtered velocity this does not lengthen a phase that
starts or ends in a rest, and a minimum-jerk or cosine repetition is met exactly.

Weights and bounds of the fit are technical [T].
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.polynomial import legendre, polynomial
from numpy.typing import NDArray

TERMS = 6  # [J] enough for two humps around a sticking region, few enough to average noise
# [J] how far a term usually strays from the even hump, relative to it: low terms more than high ones
SHAPE_SPREAD = np.array([1.0, 0.08, 0.03, 0.08, 0.08, 0.05])[:TERMS]
_ITERATIONS = 25
_NUDGE_S = 1e-3
SETTLED_S = 5e-5

Array = NDArray[np.float64]


def _series() -> tuple[Array, Array]:
    """Coefficients (rows: terms, rising powers of s) of each term's position and velocity."""
    velocity = np.zeros((TERMS, TERMS + 2))
    position = np.zeros((TERMS, TERMS + 3))
    for k in range(TERMS):
        unit = np.zeros(k + 1)
        unit[k] = 1.0
        in_s: Array = np.zeros(1)
        for power, weight in enumerate(legendre.leg2poly(unit)):  # x = 2s - 1
            in_s = np.asarray(polynomial.polyadd(in_s, weight * polynomial.polypow([-1.0, 2.0], power)), dtype=np.float64)
        term = polynomial.polymul(in_s, [0.0, 1.0, -1.0])
        velocity[k, : len(term)] = term
        integral = polynomial.polyint(term)
        position[k, : len(integral)] = integral
    return position, velocity


_POSITION, _VELOCITY = _series()


@dataclass(frozen=True)
class PhaseFit:
    """A fitted phase: its ends in s, the range and the misfit (RMS) in m.

    `velocity_coefficients` are the velocity's, in rising powers of s in 0..1.
    """

    start_s: float
    end_s: float
    range_m: float
    misfit_m: float
    velocity_coefficients: Array

    @property
    def duration_s(self) -> float:
        """Length of the phase in s."""
        return self.end_s - self.start_s

    def velocity_mps(self, points: int = 400) -> Array:
        """Velocity in m/s at evenly spaced points of the phase, ends included."""
        s = np.linspace(0.0, 1.0, points)
        return np.asarray(polynomial.polyval(s, self.velocity_coefficients), dtype=np.float64)


@dataclass(frozen=True)
class _Problem:
    time_s: Array
    position_m: Array
    penalty: Array  # added to the normal equations' diagonal, one per unknown

    def misfit(self, ends: Array) -> tuple[Array, Array]:
        """Return the misfit (positions, then the shape's price) and the solved unknowns for given ends."""
        s = np.clip((self.time_s - ends[0]) / (ends[1] - ends[0]), 0.0, 1.0)
        design = np.empty((len(s), TERMS + 1))
        design[:, 0] = 1.0
        design[:, 1:] = np.vander(s, TERMS + 3, increasing=True) @ _POSITION.T
        normal = design.T @ design
        normal[np.diag_indices_from(normal)] += self.penalty
        solution: Array = np.asarray(np.linalg.solve(normal, design.T @ self.position_m), dtype=np.float64)
        return np.concatenate((self.position_m - design @ solution, np.sqrt(self.penalty) * solution)), solution


def _slopes(problem: _Problem, ends: Array, free: Sequence[int], residual: Array) -> Array:
    """How the misfit changes with each free end, a column each."""
    slopes = np.empty((len(residual), len(free)))
    for column, i in enumerate(free):
        nudged = ends.copy()
        nudged[i] += _NUDGE_S
        slopes[:, column] = (problem.misfit(nudged)[0] - residual) / _NUDGE_S
    return slopes


def fit_phase(
    time_s: Array,
    position_m: Array,
    start_s: float,
    end_s: float,
    *,
    noise_m: float,
    start_free: bool,
    end_free: bool,
) -> PhaseFit | None:
    """Fit one phase to samples that hold it (and, at a free end, some rest beyond it).

    `start_s` and `end_s` are first guesses; an end that is not free is kept as given. `noise_m` is the standard
    deviation of the position noise: the noisier, the more an even, one-humped lift is assumed. None when there are
    too few samples. Ends move by at most 0.2 s.
    """
    if len(time_s) < TERMS + 4 or end_s - start_s < 0.08:
        return None
    range_m = max(0.05, float(np.ptp(position_m)))
    penalty = np.full(TERMS + 1, 1e-14)
    penalty[2:] += (max(noise_m, 1e-9) / (6 * range_m * SHAPE_SPREAD[1:])) ** 2
    problem = _Problem(time_s, position_m, penalty)
    ends = np.array([start_s, end_s])
    free = [i for i, is_free in enumerate((start_free, end_free)) if is_free]
    residual, solution = problem.misfit(ends)
    best = float(residual @ residual)
    damping = 1e-3
    for _ in range(_ITERATIONS if free else 0):
        slopes = _slopes(problem, ends, free, residual)
        normal = slopes.T @ slopes
        normal[np.diag_indices_from(normal)] *= 1 + damping
        normal[np.diag_indices_from(normal)] += 1e-12
        step = np.clip(np.linalg.solve(normal, -slopes.T @ residual), -0.05, 0.05)
        trial = ends.copy()
        trial[free] += step
        trial = np.clip(trial, [start_s - 0.2, end_s - 0.2], [start_s + 0.2, end_s + 0.2])
        if trial[1] - trial[0] < 0.08:
            break
        new_residual, new_solution = problem.misfit(trial)
        cost = float(new_residual @ new_residual)
        if cost >= best:
            damping *= 10
            if damping > 1e3:
                break
            continue
        ends, residual, solution, best = trial, new_residual, new_solution, cost
        damping = max(damping / 5, 1e-6)
        if float(np.abs(step).max()) < SETTLED_S:
            break
    duration = float(ends[1] - ends[0])
    series = solution[1:]
    return PhaseFit(
        start_s=float(ends[0]),
        end_s=float(ends[1]),
        range_m=float(series @ _POSITION.sum(axis=1)),
        misfit_m=float(np.sqrt(np.mean(residual[: len(time_s)] ** 2))),
        velocity_coefficients=np.asarray(series @ _VELOCITY / duration, dtype=np.float64),
    )
