"""The measures of one repetition from its window of evenly sampled positions.

Windows and paddings are technical [T].
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from jarvok.core.quantities.gravity import STANDARD_GRAVITY_MPS2
from jarvok.core.velocity.definition import PHASE_CUTOFF_HZ, PHASE_EDGE_MPS
from jarvok.core.velocity.filtering import cutoff_for_duration_hz, low_pass
from jarvok.core.velocity.phase_fit import PhaseFit, fit_phase

PROPULSIVE_LIMIT_MPS2 = -9.81  # Sánchez-Medina, Perez & González-Badillo 2010, quoted from memory
REST_MPS = 0.05  # [J] a bar beside a turning point that stays below this is resting there
SLOW_MPS = 0.05  # [J] a turning point is looked for where the bar is slower than this
LONGEST_TURN_S = 0.4  # [J] slower turns than this are rests
MISFIT_OF_NOISE = 1.15  # [J] a fit this much above the noise does not explain the samples
LEAST_MISFIT_M = 2e-5  # [J]
LEAST_NOISE_M = 1e-4  # [J] below a tenth of a millimetre the samples are taken as they are
NEAR_EDGE_SHARE = 0.15  # [J] of the range: how near its end a slow bar must be to count as having arrived
SHARP = 2.5  # [J] turning points are steep: there a higher cut-off costs little noise and moves them less
SHORTEST_PHASE_S = 0.05  # [T] shorter is no repetition
REST_WINDOW_S = 0.30  # [J] how much rest beside the phase helps to place its end

Array = NDArray[np.float64]


@dataclass(frozen=True)
class RepMetrics:
    """Measures of the concentric phase. Velocities in m/s, range in m, times in s from the phase's start.

    Mean velocity is by the definition `crossing` (see `definition.py`).
    `onset_s` is the phase's start from the beginning of the measured window; `duration_s` its length.
    """

    mean_mps: float
    mean_propulsive_mps: float
    peak_mps: float
    time_to_peak_s: float
    range_m: float
    duration_s: float
    onset_s: float

    def mean_power_w(self, system_mass_kg: float) -> float:
        """Mean concentric power of a mass moved from rest to rest: weight times mean velocity."""
        return system_mass_kg * STANDARD_GRAVITY_MPS2 * self.mean_mps


def measure_rep(position_m: Array, rate_hz: float, bottom_index: int, top_index: int) -> RepMetrics | None:
    """Measure the concentric phase between roughly known turning points; None when the window holds no such phase.

    The phase runs between two crossings of `PHASE_EDGE_MPS` of the velocity filtered for this purpose, looked for from the
    fast middle outwards, so that neither noise nor rest beside it moves its ends; a slow middle does not end it. Mean velocity
    is the distance between the crossings over the time between them. The peak comes from a fit of the phase, because the
    filter would flatten it.
    """
    if len(position_m) < 16 or top_index - bottom_index < 4:
        return None
    smooth = low_pass(position_m, rate_hz, PHASE_CUTOFF_HZ)
    velocity = np.gradient(smooth, 1.0 / rate_hz)
    lo, hi = max(0, bottom_index), min(len(velocity) - 1, top_index)
    fast = lo + int(np.argmax(velocity[lo : hi + 1]))
    if velocity[fast] <= REST_MPS:
        return None
    near_m = NEAR_EDGE_SHARE * float(smooth[hi] - smooth[lo])
    start = _crossing(velocity, smooth < smooth[lo] + near_m, fast, -1)
    end = _crossing(velocity, smooth > smooth[hi] - near_m, fast, +1)
    duration_s = (end - start) / rate_hz
    at_m = np.interp([start, end], np.arange(len(smooth)), smooth)
    range_m = float(at_m[1] - at_m[0])
    if duration_s <= SHORTEST_PHASE_S or range_m <= 0:
        return None
    peak = _peak(position_m, rate_hz, bottom_index, top_index) or _Peak(fast / rate_hz, float(velocity[fast]))
    return RepMetrics(
        mean_mps=range_m / duration_s,
        mean_propulsive_mps=_propulsive(velocity, rate_hz, start, end, fast),
        peak_mps=peak.velocity_mps,
        time_to_peak_s=max(0.0, peak.at_s - start / rate_hz),
        range_m=range_m,
        duration_s=duration_s,
        onset_s=start / rate_hz,
    )


def _crossing(velocity: Array, near_edge: NDArray[np.bool_], fast: int, way: int) -> float:
    """Where velocity passes the edge speed, as a fractional index; slow samples far from the end are sticking points."""
    index, limit = fast, 0 if way < 0 else len(velocity) - 1
    while index != limit and not (velocity[index] < PHASE_EDGE_MPS and near_edge[index]):
        index += way
    slow, quick = float(velocity[index]), float(velocity[index - way])
    if slow >= PHASE_EDGE_MPS or quick <= slow:
        return float(index)
    return index - way * (PHASE_EDGE_MPS - slow) / (quick - slow)


def _propulsive(velocity: Array, rate_hz: float, start: float, end: float, fast: int) -> float:
    """Mean velocity from the start of the phase until the bar brakes harder than gravity would, or its end."""
    last = int(end)
    braking = np.nonzero(np.gradient(velocity, 1.0 / rate_hz)[fast : last + 1] <= PROPULSIVE_LIMIT_MPS2)[0]
    stop = fast + float(braking[0]) if braking.size else end
    points = np.linspace(start, stop, max(2, int(stop - start) * 2))
    return float(np.mean(np.interp(points, np.arange(len(velocity)), velocity)))


@dataclass(frozen=True)
class _Peak:
    at_s: float
    velocity_mps: float


def _peak(position_m: Array, rate_hz: float, bottom_index: int, top_index: int) -> _Peak | None:
    """The highest velocity of the fitted phase and when, from the beginning of the window; None where nothing fits."""
    rough_s = max(0.15, (top_index - bottom_index) / rate_hz)
    smooth = low_pass(position_m, rate_hz, cutoff_for_duration_hz(rough_s))
    velocity = np.gradient(smooth, 1.0 / rate_hz)
    lo, hi = max(0, bottom_index), min(len(velocity) - 1, top_index)
    peak_at = lo + int(np.argmax(velocity[lo : hi + 1]))
    if velocity[peak_at] <= REST_MPS:
        return None
    sharp = np.gradient(low_pass(position_m, rate_hz, SHARP * cutoff_for_duration_hz(rough_s)), 1.0 / rate_hz)
    bottom_m, top_m = float(smooth[bottom_index]), float(smooth[min(top_index, len(smooth) - 1)])
    near_m = NEAR_EDGE_SHARE * (top_m - bottom_m)
    start = _turning_point(sharp, smooth < bottom_m + near_m, peak_at, -1, rate_hz)
    end = _turning_point(sharp, smooth > top_m - near_m, peak_at, +1, rate_hz)
    fit = _fit(position_m, velocity, white_noise_m(position_m), rate_hz, start, end)
    if fit is None or fit.duration_s <= SHORTEST_PHASE_S or fit.range_m <= 0:
        return None
    fitted = fit.velocity_mps()
    at = int(np.argmax(fitted))
    return _Peak(fit.start_s + at * fit.duration_s / (len(fitted) - 1), float(fitted[at]))


def white_noise_m(position_m: Array) -> float:
    """Standard deviation of white position noise, from sixth differences: motion leaves next to nothing in them."""
    sixth = np.diff(position_m, 6)
    noise_m = float(np.sqrt(np.mean(sixth * sixth) / 924.0))  # 924: sum of the squared binomial weights
    return noise_m if noise_m > LEAST_NOISE_M else 0.0


@dataclass(frozen=True)
class _Edge:
    """One end of the phase as fractional indices: where its slope points, and where velocity crosses zero, if it does."""

    from_slope: float
    crossing: float | None


def _turning_point(velocity: Array, near_edge: NDArray[np.bool_], peak_at: int, way: int, rate_hz: float) -> _Edge:
    """Find the phase's end on one side of its peak.

    `near_edge` marks the samples whose height is close to that end's: slow samples elsewhere are sticking points.
    """
    slow = min(SLOW_MPS, 0.2 * float(velocity[peak_at]))
    limit = 0 if way < 0 else len(velocity) - 1
    index = peak_at
    while index != limit and not (velocity[index] < slow and near_edge[index]):
        index += way
    if index == peak_at:
        return _Edge(float(index), None)
    crossing: float | None = None
    for ahead in range(index, index + way * int(LONGEST_TURN_S * rate_hz), way):
        if not 0 <= ahead < len(velocity):
            break
        here, there = float(velocity[ahead - way]), float(velocity[ahead])
        if there < 0 <= here:
            crossing = ahead - way + way * here / (here - there)
            break
    return _Edge(_from_slope(velocity, index, peak_at, way), crossing)


def _from_slope(velocity: Array, outside: int, peak_at: int, way: int) -> float:
    """Carry the flank between 20 and 45 % of the peak down to zero: a first guess where the bar rests beside it."""
    peak = float(velocity[peak_at])
    levels: list[float] = []
    index = outside
    for share in (0.20, 0.45):
        while index != peak_at and velocity[index] < share * peak:
            index -= way
        here, there = float(velocity[index]), float(velocity[index + way]) if index + way < len(velocity) else 0.0
        inside = here - share * peak
        levels.append(index + way * (inside / (here - there) if here > there else 0.0))
    low, high = levels
    return low + (low - high) * 0.20 / 0.25


def _fit(position_m: Array, velocity: Array, noise_m: float, rate_hz: float, start: _Edge, end: _Edge) -> PhaseFit | None:
    """Fit the phase as one from rest to rest; where that does not explain the samples, as one the bar passes through.

    A sharp turn or a pause is met by the first. A bar that swings softly through its turning points (misfit above the
    noise) has its ends where velocity crosses zero.
    """
    rested = _fit_between(position_m, velocity, noise_m, rate_hz, start.from_slope, end.from_slope, (True, True))
    if rested is not None and rested.misfit_m <= MISFIT_OF_NOISE * noise_m + LEAST_MISFIT_M:
        return rested
    found = [rested] if rested is not None else []
    ends = [(e.from_slope, True) if e.crossing is None else (e.crossing, False) for e in (start, end)]
    for (start_at, start_free), (end_at, end_free) in (
        (ends[0], ends[1]),
        (ends[0], (end.from_slope, True)),
        ((start.from_slope, True), ends[1]),
    ):
        fit = _fit_between(position_m, velocity, noise_m, rate_hz, start_at, end_at, (start_free, end_free))
        if fit is not None:
            found.append(fit)
    return min(found, key=lambda fit: fit.misfit_m, default=None)


def _fit_between(
    position_m: Array, velocity: Array, noise_m: float, rate_hz: float, start_at: float, end_at: float, free: tuple[bool, bool]
) -> PhaseFit | None:
    first = _rest_reach(velocity, int(start_at), -1, rate_hz) if free[0] else int(np.ceil(start_at))
    last = _rest_reach(velocity, int(np.ceil(end_at)), 1, rate_hz) if free[1] else int(np.floor(end_at))
    return fit_phase(
        np.arange(first, last + 1) / rate_hz,
        position_m[first : last + 1],
        start_at / rate_hz,
        end_at / rate_hz,
        noise_m=noise_m,
        start_free=free[0],
        end_free=free[1],
    )


def _rest_reach(velocity: Array, edge: int, way: int, rate_hz: float) -> int:
    """Return the last index of the rest beyond an edge, at most REST_WINDOW_S away."""
    index = max(0, min(len(velocity) - 1, edge))
    for _ in range(int(REST_WINDOW_S * rate_hz)):
        if not 0 <= index + way < len(velocity) or abs(velocity[index + way]) > 1.5 * REST_MPS:
            break
        index += way
    return index
