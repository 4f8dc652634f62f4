"""The curve of a sprint from its split times: top speed, how fast it is reached, and force against velocity.

Speed rises as v(t) = vmax (1 − e^(−t/τ)); distance is its integral, and the time at a distance has a closed form with
Lambert's W. Furusawa, Hill & Parkinson 1927 for the curve; Samozino et al. 2016 for force, velocity and power from it; Arsac &
Locatelli 2002 for the area and drag of a runner. All quoted from memory. It holds for a standing start, all out, on the flat,
without wind, up to the distance where speed falls again (about 60 m).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log

import numpy as np

from jarvok.core.errors import CoachError
from jarvok.core.working import Input, Source, Working

SAMOZINO = Source("P", "Samozino et al. 2016")
LEAST_SPLITS = 3  # [T] two unknowns and one to see whether they lie on a curve
LONGEST_M = 60.0  # [C] beyond it speed falls
LEAST_SHARE = 0.93  # [J] of top speed reached at the last split, else top speed is a guess
MOST_RMSE_S = 0.04  # [J] times that lie further off their curve are no single run
VMAX_MPS, TAU_S = (4.0, 13.0), (0.4, 2.5)  # [J] wider than runners are
AIR_KG_PER_M3, DRAG = 1.2, 0.9  # 20 °C at sea level; Arsac & Locatelli 2002
START_TAU_S = (0.7, 1.1, 1.6)  # [T] a fit begins from several: a valley may be a false one
NEAR_TOP = 0.9  # [C] share of top speed that is named as reached


@dataclass(frozen=True)
class Split:
    """The time in s at a distance in m from the start."""

    distance_m: float
    time_s: float


@dataclass(frozen=True)
class SprintCurve:
    """A fitted run: top speed in m/s, time constant in s, root mean square error of its times in s, whether top speed was near.

    `force_n_per_kg` is the force a kilogram at a standing start, `power_w_per_kg` the most power; both with the air where mass
    and height are known.
    """

    splits: tuple[Split, ...]
    vmax_mps: float
    tau_s: float
    rmse_s: float
    is_long_enough: bool
    force_n_per_kg: float
    power_w_per_kg: float
    has_air: bool
    working: Working

    def time_at_s(self, distance_m: float) -> float:
        """Return the time in s at a distance in m."""
        return time_at_s(distance_m, self.vmax_mps, self.tau_s)

    def speed_at_mps(self, time_s: float) -> float:
        """Return the speed in m/s at a time in s."""
        return self.vmax_mps * (1 - exp(-time_s / self.tau_s))

    def distance_at_m(self, time_s: float) -> float:
        """Return the distance in m after a time in s."""
        return self.vmax_mps * (time_s + self.tau_s * (exp(-time_s / self.tau_s) - 1))

    @property
    def near_top_m(self) -> float:
        """The distance in m at which nine tenths of top speed are reached."""
        return self.distance_at_m(-self.tau_s * log(1 - NEAR_TOP))


def time_at_s(distance_m: float, vmax_mps: float, tau_s: float) -> float:
    """Return the time in s at a distance in m: t = c + τ W0(−e^(−c/τ)) with c = d/vmax + τ."""
    return float(_times_at_s(np.array([distance_m]), vmax_mps, tau_s)[0])


def _times_at_s(distances_m: np.ndarray, vmax_mps: float, tau_s: float) -> np.ndarray:
    from scipy.special import lambertw  # takes a while to load: a process that sees no run does without

    c = distances_m / vmax_mps + tau_s
    return np.asarray(c + tau_s * np.real(lambertw(-np.exp(-c / tau_s))))


def check_splits(splits: Sequence[Split]) -> tuple[Split, ...]:
    """Return splits in their order; raises `CoachError` for times that cannot be of one run."""
    rows = tuple(sorted(splits, key=lambda s: s.distance_m))
    if len({s.distance_m for s in rows}) != len(rows):
        raise CoachError("A distance stands there twice.", where="text", accepted="One time for each distance.")
    for before, after in zip((Split(0.0, 0.0), *rows), rows, strict=False):
        if after.time_s <= before.time_s:
            raise CoachError(
                f"{after.distance_m:g} m in {after.time_s:g} s cannot follow {before.distance_m:g} m in {before.time_s:g} s.",
                where="text",
                accepted="Times from the start, each later than the one before: 10 m 1.78, 20 m 3.02, 30 m 4.15.",
            )
        if (after.distance_m - before.distance_m) / (after.time_s - before.time_s) > VMAX_MPS[1]:
            raise CoachError(
                f"{after.distance_m:g} m in {after.time_s:g} s is faster than anybody runs.",
                where="text",
                accepted="Metres and seconds from the start.",
            )
    return rows


def sprint_curve(splits: Sequence[Split], mass_kg: float | None = None, height_cm: float | None = None) -> SprintCurve | None:
    """Return the curve through the splits of one run from a standing start; None for fewer than three up to 60 m."""
    rows = tuple(s for s in check_splits(splits) if s.distance_m <= LONGEST_M)
    if len(rows) < LEAST_SPLITS:
        return None
    from scipy.optimize import least_squares

    far = np.array([s.distance_m for s in rows])
    times = np.array([s.time_s for s in rows])

    def off(guess: np.ndarray) -> np.ndarray:
        return np.asarray(_times_at_s(far, guess[0], guess[1]) - times)

    last_mps = (far[-1] - far[-2]) / (times[-1] - times[-2])
    low, high = zip(VMAX_MPS, TAU_S, strict=True)
    starts = ((min(max(last_mps, VMAX_MPS[0]), VMAX_MPS[1]), tau) for tau in (0.7, 1.1, 1.6))  # [T] several: valleys are false
    best = min((least_squares(off, s, bounds=(low, high)) for s in starts), key=lambda r: r.cost)
    vmax, tau = (float(x) for x in best.x)
    share = 1 - exp(-times[-1] / tau)
    rmse = float(np.sqrt(np.mean(best.fun**2)))
    force, power, has_air = _force_and_power(vmax, tau, mass_kg, height_cm)
    return SprintCurve(
        rows, vmax, tau, rmse, share >= LEAST_SHARE and rmse <= MOST_RMSE_S, force, power, has_air,
        _working(rows, vmax, tau, rmse, share, has_air=has_air),
    )  # fmt: skip


def drag_n_per_mps2(mass_kg: float, height_cm: float) -> float:
    """Return the air's drag in N for each (m/s)² of a runner's speed."""
    area_m2 = 0.2025 * (height_cm / 100) ** 0.725 * mass_kg**0.425 * 0.266
    return float(0.5 * AIR_KG_PER_M3 * area_m2 * DRAG)


def _force_and_power(vmax: float, tau: float, mass_kg: float | None, height_cm: float | None) -> tuple[float, float, bool]:
    """Force at the start a kilogram, most power a kilogram, and whether the air is in it: a line through force over velocity."""
    speed = np.linspace(0.0, 0.98 * vmax, 50)  # [T]
    force = (vmax - speed) / tau  # acceleration, N/kg
    has_air = mass_kg is not None and height_cm is not None
    if mass_kg is not None and height_cm is not None:
        force = force + drag_n_per_mps2(mass_kg, height_cm) * speed**2 / mass_kg
    slope, start = np.polyfit(speed, force, 1)
    return float(start), float(start * (-start / slope) / 4), has_air


def _working(rows: tuple[Split, ...], vmax: float, tau: float, rmse: float, share: float, *, has_air: bool) -> Working:
    missing: list[str] = []
    if share < LEAST_SHARE:
        missing.append(
            f"a longer run: {100 * share:.0f} % of top speed at the last split, {100 * LEAST_SHARE:.0f} % make it sure"
        )
    if rmse > MOST_RMSE_S:
        missing.append(f"times of one run: they lie {rmse:.2f} s off their curve")
    if not has_air:
        missing.append("body mass and height, for the air")
    return Working(
        f"{vmax:.2f} m/s, τ {tau:.2f} s",
        "v = vmax (1 − e^(−t/τ)) through the splits",
        SAMOZINO,
        tuple(
            Input(f"{s.distance_m:g} m", f"{s.time_s:.2f} s, the curve {time_at_s(s.distance_m, vmax, tau):.2f} s") for s in rows
        ),
        "shown to 0.01",
        missing=tuple(missing),
        caution="From a standing start, all out; a start behind the first gate or with a rolling step reads too fast at first.",
    )


def read_splits(text: str) -> tuple[Split, ...]:
    """Return splits typed as `10 1.78, 20 3.02, 30 4.15`, with m and s or without.

    Raises `CoachError` for what cannot be read.
    """
    found: list[Split] = []
    for part in text.replace(";", ",").split(","):
        words = part.replace(":", " ").replace("m", " ").replace("s", " ").replace("in", " ").split()
        if not words:
            continue
        try:
            distance_m, time_s = (float(w) for w in words)
        except ValueError:
            raise CoachError(
                f"“{part.strip()}” is no split.", where="text", accepted="A distance and its time: 10 1.78, 20 3.02, 30 4.15."
            ) from None
        found.append(Split(distance_m, time_s))
    return check_splits(found)
