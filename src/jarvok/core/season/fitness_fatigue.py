"""The fitness-fatigue picture: what a run of daily loads leaves on each day. A picture for comparing plans, no promise.

p(t) = p0 + k1 Σ w(s) e^(−(t−s)/τ1) − k2 Σ w(s) e^(−(t−s)/τ2), over days s < t. Morton, Fitz-Clarke & Banister 1990,
quoted from memory.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log, sqrt

import numpy as np
from numpy.typing import NDArray

from jarvok.core.errors import CoachError
from jarvok.core.working import Source

SOURCE = Source("P", "Morton, Fitz-Clarke & Banister 1990")
CAUTION = "An estimate to support judgement: it compares plans, it does not promise a result."
LEAST_RESULTS = 8  # [J] five constants are fitted; with fewer results they follow the noise
LEAST_R2 = 0.5  # [J] a fit that explains less is not used
USUAL_SPREAD = 0.25  # [J] how far an athlete's own constants may lie from the usual ones, as one standard deviation


@dataclass(frozen=True)
class Constants:
    """Time constants in days, gains, and the level without training."""

    tau1_days: float = 45.0
    tau2_days: float = 15.0
    k1: float = 1.0
    k2: float = 2.0
    p0: float = 0.0

    @property
    def zero_day(self) -> float:
        """Days after one single load on which its effect turns from bad to good."""
        return self._span * log(self.k2 / self.k1)

    @property
    def peak_day(self) -> float:
        """Days after one single load on which its effect is largest."""
        return self._span * log(self.k2 * self.tau1_days / (self.k1 * self.tau2_days))

    @property
    def _span(self) -> float:
        return self.tau1_days * self.tau2_days / (self.tau1_days - self.tau2_days)


USUAL = Constants()
SHORTER = Constants(42.0, 7.0)  # later custom of software, from memory


@dataclass(frozen=True)
class Picture:
    """Per day: load, fitness, fatigue and form, in the units of the load."""

    load: NDArray[np.float64]
    fitness: NDArray[np.float64]
    fatigue: NDArray[np.float64]
    form: NDArray[np.float64]


def picture(daily_load: Sequence[float] | NDArray[np.float64], constants: Constants = USUAL) -> Picture:
    """Return the picture of a run of daily loads; the load of a day counts from the next day on."""
    load = np.asarray(daily_load, dtype=float)
    fitness = constants.k1 * _decayed(load, constants.tau1_days)
    fatigue = constants.k2 * _decayed(load, constants.tau2_days)
    return Picture(load, fitness, fatigue, constants.p0 + fitness - fatigue)


def _decayed(load: NDArray[np.float64], tau_days: float) -> NDArray[np.float64]:
    q = exp(-1 / tau_days)
    from scipy.signal import lfilter  # takes a second to load: a process that fits no season does without

    found: NDArray[np.float64] = lfilter([0.0, q], [1.0, -q], load)
    return found


TAU1_DAYS, TAU2_DAYS = (20.0, 80.0), (3.0, 19.0)  # [J] wider than time constants on record
AT_A_BOUND = 0.02  # [T] of the range
FOLDS = 5  # [T] parts of the results left out in turn


def _inside(value: float, bounds: tuple[float, float]) -> bool:
    margin = AT_A_BOUND * (bounds[1] - bounds[0])
    return bounds[0] + margin < value < bounds[1] - margin


@dataclass(frozen=True)
class Fit:
    """Constants fitted to an athlete's own results: R², residual error, how many results, and whether to use them."""

    constants: Constants
    r_squared: float
    error: float
    results: int
    is_usable: bool
    words: str


def _why_not(r_squared: float, inside: bool, left_own: float, left_usual: float) -> str:
    """What speaks against an athlete's own constants, the plainest first."""
    if r_squared >= LEAST_R2 and not inside:
        return "at the bounds of what they may be"
    if r_squared >= LEAST_R2 and left_own >= left_usual:
        return f"no better than the usual ones on results left out (± {left_own:.1f} against ± {left_usual:.1f})"
    return "too weak"


def _scaled(form: NDArray[np.float64], values: NDArray[np.float64], kept: NDArray[np.bool_]) -> NDArray[np.float64]:
    """The usual time constants' form with a level and a scale of the athlete's own, by the results kept."""
    rows = np.column_stack([np.ones(int(kept.sum())), form[kept]])
    level, gain = np.linalg.lstsq(rows, values[kept], rcond=None)[0]
    found: NDArray[np.float64] = level + gain * form
    return found


def fit(daily_load: Sequence[float], results: Sequence[tuple[int, float]]) -> Fit:
    """Return the constants that best explain test results, each a day (index into `daily_load`) and a number.

    Raises `CoachError` with fewer than eight results: five constants would follow their noise.
    """
    if len(results) < LEAST_RESULTS:
        raise CoachError(
            f"{len(results)} results are too few to fit the picture.",
            where="results",
            accepted=f"{LEAST_RESULTS} and more are accepted; until then the usual constants draw it.",
        )
    load = np.asarray(daily_load, dtype=float)
    from scipy.optimize import least_squares

    days = np.array([d for d, _ in results])
    values = np.array([v for _, v in results])
    scale = float(np.abs(_decayed(load, USUAL.tau1_days)).max()) or 1.0
    spread = float(values.std()) or 1.0

    def form_at(x: NDArray[np.float64]) -> NDArray[np.float64]:
        tau1, tau2, a, b, p0 = x
        up, down = _decayed(load, tau1)[days], _decayed(load, tau2)[days]
        found: NDArray[np.float64] = p0 + (a * up - b * down) * spread / scale
        return found

    def own(kept: NDArray[np.bool_]) -> NDArray[np.float64]:
        found = least_squares(
            lambda x: ((form_at(x) - values) / spread)[kept],
            x0=[USUAL.tau1_days, USUAL.tau2_days, 1.0, 1.0, float(values[kept].mean())],
            bounds=([TAU1_DAYS[0], TAU2_DAYS[0], 0, 0, -np.inf], [TAU1_DAYS[1], TAU2_DAYS[1], np.inf, np.inf, np.inf]),
        )
        x: NDArray[np.float64] = found.x
        return x

    usual_form = picture(load).form[days]

    everything = np.ones(len(values), dtype=bool)
    best = own(everything)
    tau1, tau2, a, b, p0 = (float(v) for v in best)
    left = values - form_at(best)
    r_squared = 1 - float((left**2).sum() / ((values - values.mean()) ** 2).sum()) if len(set(values)) > 1 else 0.0
    error = sqrt(float((left**2).sum()) / max(1, len(values) - 5))
    inside = _inside(tau1, TAU1_DAYS) and _inside(tau2, TAU2_DAYS)
    folds = [np.arange(len(values)) % FOLDS == f for f in range(FOLDS)]
    left_own = sqrt(float(np.mean([((values - form_at(own(~f)))[f] ** 2).mean() for f in folds])))
    left_usual = sqrt(float(np.mean([((values - _scaled(usual_form, values, ~f))[f] ** 2).mean() for f in folds])))
    usable = r_squared >= LEAST_R2 and a > 0 and b > a and inside and left_own < left_usual
    constants = Constants(tau1, tau2, a * spread / scale, b * spread / scale, p0)
    said = f"{len(values)} results, R² {r_squared:.2f}, ± {error:.1f}"
    why = _why_not(r_squared, inside, left_own, left_usual)
    words = (
        f"fitted to the athlete's own: {said}, ± {left_own:.1f} on results left out against ± {left_usual:.1f}"
        if usable
        else f"the constants fitted to {said} are {why}; the usual ones draw it"
    )
    return Fit(constants, r_squared, error, len(values), usable, words)


def form_draws(daily_load: Sequence[float], constants: Constants = USUAL, draws: int = 60, seed: int = 7) -> NDArray[np.float64]:
    """Return form per draw and day, over constants an athlete may well have instead; the same draws each time."""
    rng = np.random.default_rng(seed)
    load = np.asarray(daily_load, dtype=float)
    forms = np.empty((draws, len(load)))
    for i in range(draws):
        t1, t2, k1, k2 = np.exp(rng.normal(0, USUAL_SPREAD, 4) * (0.5, 0.5, 0.3, 0.3))
        tau1 = constants.tau1_days * t1
        tau2 = min(constants.tau2_days * t2, 0.8 * tau1)
        drawn = Constants(tau1, tau2, constants.k1 * k1, constants.k2 * k2, constants.p0)
        forms[i] = picture(load, drawn).form
    return forms
