"""Each lift's own relation of last-rep velocity to effort, per athlete: a monotone table from paired sets."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np
from numpy.typing import NDArray

from jarvok.core.marks.relation import Relation
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working

LOWEST_RPE, HIGHEST_RPE, STEP = 5.0, 10.0, 0.5  # [C] of the scale
CLOSE_TO_FAILURE_RPE = 9.5  # [J]
LEAST_EFFORTS = 3  # [J] different efforts, for a relation
MOST_REPS_FOR_A_MAX = 12  # common practice
UNDER_BY = 1.5  # [J] said so much less than the velocity says: under-reporting
SOURCE = Source("fact", "the athlete's own sets with velocity and effort, monotone least squares")


@dataclass(frozen=True)
class Pair:
    """The last repetition of one set: day, velocity in m/s, felt effort 1-10 (10 less the reps in reserve)."""

    day: date
    velocity_mps: float
    rpe: float
    ref: str = ""


@dataclass(frozen=True)
class EffortTable:
    """Velocity in m/s of the last repetition at each effort that was seen, falling; `missing` is empty when it may be used."""

    rows: tuple[tuple[float, float], ...]
    pairs: tuple[Pair, ...]
    spread_mps: float
    missing: tuple[str, ...]

    @property
    def is_open(self) -> bool:
        """Whether every gate is passed."""
        return not self.missing

    def velocity_mps(self, rpe: float) -> float | None:
        """Return the velocity at an effort, between rows by a straight line; None outside what was seen."""
        if not self.rows or not self.rows[0][0] <= rpe <= self.rows[-1][0]:
            return None
        return float(np.interp(rpe, [r for r, _ in self.rows], [v for _, v in self.rows]))

    def rpe(self, velocity_mps: float) -> float | None:
        """Return the effort that a last-rep velocity stands for, to the half point; bounded to what was seen."""
        if not self.rows:
            return None
        efforts = [r for r, _ in reversed(self.rows)]
        speeds = [v for _, v in reversed(self.rows)]
        found = float(np.interp(velocity_mps, speeds, efforts))
        return round(found / STEP) * STEP


def effort_table(pairs: Sequence[Pair], rules: Rules = DEFAULT_RULES) -> EffortTable:
    """Return the table of one athlete in one lift. With too few sets or weeks it says what is missing and may not be used."""
    kept = [p for p in pairs if LOWEST_RPE <= p.rpe <= HIGHEST_RPE]
    missing: list[str] = []
    least, weeks = rules["velocity.pairs_sets"], rules["velocity.pairs_weeks"]
    if len(kept) < least:
        missing.append(f"{counted(len(kept), 'set')} with velocity and effort; {least:g} are needed")
    days = [p.day for p in kept]
    span = (max(days) - min(days)).days / 7 if days else 0.0
    if span < weeks:
        missing.append(f"they span {counted(round(span), 'week')}; {weeks:g} are needed")
    if len({p.rpe for p in kept}) < LEAST_EFFORTS:
        missing.append("three different efforts are needed")
    if not kept:
        return EffortTable((), (), 0.0, tuple(missing))
    order = sorted(kept, key=lambda p: (p.rpe, p.velocity_mps))
    speeds = np.array([p.velocity_mps for p in order])
    from scipy.optimize import isotonic_regression  # loaded where it is used, as all heavy parts of scipy are

    fitted = isotonic_regression(_mean_by_effort(order), weights=_weights(order), increasing=False).x
    efforts = sorted({p.rpe for p in order})
    at = dict(zip(efforts, (float(v) for v in fitted), strict=True))
    misfit = speeds - np.array([at[p.rpe] for p in order])
    spread = float((misfit @ misfit / max(1, len(order) - 2)) ** 0.5)
    return EffortTable(tuple((e, round(at[e], 3)) for e in efforts), tuple(kept), spread, tuple(missing))


def _mean_by_effort(order: Sequence[Pair]) -> NDArray[np.float64]:
    efforts = sorted({p.rpe for p in order})
    return np.array([np.mean([p.velocity_mps for p in order if p.rpe == e]) for e in efforts])


def _weights(order: Sequence[Pair]) -> NDArray[np.float64]:
    efforts = sorted({p.rpe for p in order})
    return np.array([sum(1 for p in order if p.rpe == e) for e in efforts], dtype=float)


@dataclass(frozen=True)
class Settled:
    """What the table says of a set: its effort, a sentence or nothing, whether it looks under-reported, the working."""

    rpe: float | None
    sentence: str
    is_under: bool
    working: Working | None


def settle(table: EffortTable, said_rpe: float | None, velocity_mps: float) -> Settled:
    """Return what the table makes of a reported effort: a half point settled, or under-reporting said.

    With a closed table, or nothing said, there is nothing to settle.
    """
    by_velocity = table.rpe(velocity_mps) if table.is_open else None
    if by_velocity is None:
        return Settled(None, "", False, None)
    inputs = (
        Input("last rep", f"{velocity_mps:.2f} m/s"),
        Input("said", f"RPE {said_rpe:g}" if said_rpe is not None else "nothing"),
        Input("table", f"{counted(len(table.pairs), 'set')}, ± {table.spread_mps:.2f} m/s"),
    )
    working = Working(f"RPE {by_velocity:g}", "the athlete's own effort–velocity table", SOURCE, inputs)
    if said_rpe is None:
        return Settled(by_velocity, f"The last rep looks like RPE {by_velocity:g}.", False, working)
    slow = table.velocity_mps(min(said_rpe, table.rows[-1][0]))
    clearly = slow is not None and velocity_mps < slow - table.spread_mps
    if by_velocity >= CLOSE_TO_FAILURE_RPE and by_velocity - said_rpe >= UNDER_BY and clearly:
        sentence = f"RPE {said_rpe:g} was called; {velocity_mps:.2f} m/s says RPE {by_velocity:g} here. Ask the athlete again."
        return Settled(by_velocity, sentence, True, working)
    if 0 < abs(by_velocity - said_rpe) <= STEP:
        return Settled(by_velocity, f"By the last rep this was RPE {by_velocity:g}.", False, working)
    return Settled(by_velocity, "", False, working)


def max_from_last_rep(table: EffortTable, load_kg: float, reps: int, velocity_mps: float, relation: Relation) -> float | None:
    """Return the 1RM in kg that a set implies when its effort is read from the last repetition's velocity, or None."""
    rpe = table.rpe(velocity_mps) if table.is_open else None
    if rpe is None or reps < 1:
        return None
    total = reps + (HIGHEST_RPE - rpe)
    return relation.one_rm_kg(load_kg, total) if total <= MOST_REPS_FOR_A_MAX else None
