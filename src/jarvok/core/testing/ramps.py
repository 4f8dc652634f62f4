"""The loads of a test on the way up: to a known max with few plates moved, or to an unknown one by felt effort.

Caps, shares and repetitions are common practice; step sizes and the felt table Jarvok's. A known max takes eight sets at most
and its top attempts, a novice's as many as the caps ask for.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

import numpy as np

from jarvok.core.loading.state import LiftState
from jarvok.core.quantities.mass import said_mass
from jarvok.core.quantities.plates import build, unit_of

# share of the known max and repetitions, common practice
RAMP: tuple[tuple[float, int], ...] = ((0.40, 6), (0.55, 5), (0.70, 3), (0.80, 2), (0.87, 1), (0.93, 1))
NEAR = {0.40: 0.05, 0.55: 0.04, 0.70: 0.03, 0.80: 0.02, 0.87: 0.015, 0.93: 0.012}  # [J] how far a load may lie off its share
MOST_SETS = 8  # [C] the bar in them
LOWER_CAP = 0.20  # [C] of the max, a step of the lower body
UPPER_CAP, UPPER_CAP_EARLY, UPPER_EARLY = 0.10, 0.15, 0.60  # [C] [J] of the upper body: larger below that share
NOVICE_EARLY_KG, NOVICE_EARLY = 10.0, 0.70  # [C] [J] a novice's step below that share of the max; above it that of the settings
OFF_COSTS = (100.0, 50.0, 20.0)  # [T] what being off a share costs, in plates: tried one after the other
SET_COST = 2.0  # [J] a set more is worth two plates moved
# felt effort of a set and the share of the max it usually is [J]
FELT_SHARE = ((1.0, 0.15), (2.0, 0.30), (3.0, 0.43), (4.0, 0.55), (6.0, 0.72), (8.0, 0.87), (9.0, 0.94), (10.0, 1.0))
# where the next load goes from a share of the estimated max, and repetitions there [J]
NEXT_SHARE = ((0.50, 0.62, 5), (0.60, 0.74, 3), (0.70, 0.82, 2), (0.78, 0.88, 1), (0.84, 0.92, 1), (0.90, 0.95, 1))
LAST_KG = {False: 5.0, True: 2.5}  # final steps for most, and for novices: common practice
LAST_SHARE = 0.03  # [J] or so much of the max, whichever is more for the strong, and less for the light
FIRST_BY_FELT = 3.0  # [J] lighter sets say little of the max


@dataclass(frozen=True)
class RampLoad:
    """A load of a ramp: kg, repetitions, its share of the known max (0: inserted), plates moved a side since the set before."""

    load_kg: float
    reps: int
    share: float
    moved: int


def step_cap_kg(from_kg: float, max_kg: float, *, is_upper: bool, is_novice: bool, novice_step_kg: float) -> float:
    """Return the largest step that may be taken from a load on the way to a max, both in kg."""
    if is_novice:
        early = from_kg < NOVICE_EARLY * max_kg
        return max(NOVICE_EARLY_KG, novice_step_kg) if early else novice_step_kg
    if is_upper:
        return (UPPER_CAP_EARLY if from_kg < UPPER_EARLY * max_kg else UPPER_CAP) * max_kg
    return LOWER_CAP * max_kg


def known_ramp(state: LiftState, is_novice: bool) -> tuple[RampLoad, ...]:
    """Return the loads of a ramp to a known max, the bar first: near their shares, within the caps, plates left on the bar."""
    top_kg = state.max_kg
    if top_kg is None:
        return ()
    start_kg = _built(0.0, state)
    shares = [row for row in RAMP if row[0] * top_kg > start_kg]
    for rows in _fewer(shares):
        ways = [
            _filled(_least_moved(rows, start_kg, top_kg, state, off), start_kg, top_kg, state, is_novice) for off in OFF_COSTS
        ]
        ways = [way for way in ways if len(way) <= MOST_SETS or is_novice]
        if ways:
            return min(ways, key=lambda way: sum(r.moved for r in way) + SET_COST * len(way))
    return _by_caps(start_kg, top_kg, state, is_novice)


def _fewer(rows: list[tuple[float, int]]) -> list[list[tuple[float, int]]]:
    """The rows, then with early ones left out: a heavy max may take its caps instead."""
    return [rows, [r for r in rows if r[0] != 0.55], [r for r in rows if r[0] not in (0.40, 0.70)]]  # [J]


def _built(load_kg: float, state: LiftState) -> float:
    return build(round(load_kg, 2), state.implement).load_kg if state.implement is not None else load_kg


def plates_moved(before_kg: float, after_kg: float, state: LiftState) -> int:
    """Return how many plates a side come off and go on between two loads: those outside of what both begin with."""
    if state.implement is None:
        return 0
    a, b = build(before_kg, state.implement).per_side_kg, build(after_kg, state.implement).per_side_kg
    same = next((i for i, (x, y) in enumerate(zip(a, b, strict=False)) if x != y), min(len(a), len(b)))
    return len(a) + len(b) - 2 * same


def _near(share: float, top_kg: float, state: LiftState) -> list[float]:
    """Loads that can be built near a share of the max; the nearest where none lies inside."""
    low, high = (share - NEAR[share]) * top_kg, (share + NEAR[share]) * top_kg
    found: list[float] = []
    at: float | None = _built(low, state)
    while at is not None and at <= high and state.implement is not None:
        if at >= low:
            found.append(at)
        at = build(at, state.implement).above_kg
    return found or [_built(share * top_kg, state)]


def _least_moved(
    rows: Sequence[tuple[float, int]], start_kg: float, top_kg: float, state: LiftState, off_cost: float
) -> list[RampLoad]:
    """One load for each row, rising, so that plates moved and distance from the shares together are least."""
    best: dict[float, tuple[float, list[RampLoad]]] = {start_kg: (0.0, [])}
    for share, reps in rows:
        following: dict[float, tuple[float, list[RampLoad]]] = {}
        for load_kg in _near(share, top_kg, state):
            off = off_cost * abs(load_kg / top_kg - share)
            for before_kg, (cost, path) in best.items():
                if load_kg <= before_kg:
                    continue
                moved = plates_moved(before_kg, load_kg, state)
                total = cost + moved + off
                if load_kg not in following or total < following[load_kg][0]:
                    following[load_kg] = (total, [*path, RampLoad(load_kg, reps, share, moved)])
        best = following or best
    return min(best.values(), key=lambda row: row[0])[1]


def _filled(path: Sequence[RampLoad], start_kg: float, top_kg: float, state: LiftState, is_novice: bool) -> tuple[RampLoad, ...]:
    """The path from the bar with sets inserted where a step would break its cap."""
    found = [RampLoad(start_kg, 10, 0.0, 0)]
    for item in path:
        while item.load_kg - found[-1].load_kg > (cap_kg := _cap(found[-1].load_kg, top_kg, state, is_novice)) + 1e-9:
            here_kg = found[-1].load_kg
            steps = ceil((item.load_kg - here_kg) / cap_kg - 1e-9)
            between = _handiest(here_kg, item.load_kg - (steps - 1) * cap_kg, here_kg + cap_kg, item.load_kg, state)
            if between is None:  # the plates allow no smaller step
                break
            found.append(RampLoad(between, max(item.reps, 1), 0.0, plates_moved(found[-1].load_kg, between, state)))
        found.append(RampLoad(item.load_kg, item.reps, item.share, plates_moved(found[-1].load_kg, item.load_kg, state)))
    return tuple(found)


def _handiest(from_kg: float, low_kg: float, high_kg: float, to_kg: float, state: LiftState) -> float | None:
    """The load between two that moves the fewest plates on the way from the one before to the one behind it; None without any."""
    at = build(max(low_kg, from_kg), state.implement).load_kg if state.implement is not None else None
    found: list[float] = []
    while at is not None and at <= high_kg + 1e-9 and state.implement is not None:
        if at > from_kg and at >= low_kg - 1e-9:
            found.append(at)
        at = build(at, state.implement).above_kg
    if not found:
        last = _at_most(high_kg, high_kg, state)
        return last if last > from_kg else None
    return min(found, key=lambda kg: (plates_moved(from_kg, kg, state) + plates_moved(kg, to_kg, state), -kg))


def _by_caps(start_kg: float, top_kg: float, state: LiftState, is_novice: bool) -> tuple[RampLoad, ...]:
    """As few sets as the caps allow, for a max so heavy that its shares would take too many."""
    last_kg = _built(RAMP[-1][0] * top_kg, state)
    found = [RampLoad(start_kg, 10, 0.0, 0)]
    while found[-1].load_kg < last_kg and (is_novice or len(found) < MOST_SETS):
        here = found[-1].load_kg
        most = min(last_kg, here + _cap(here, top_kg, state, is_novice))
        nxt = _at_most(most, most, state)
        if nxt <= here and state.implement is not None:
            nxt = build(here, state.implement).above_kg or here
        if nxt <= here:
            break
        reps = next((r for s, r in RAMP if nxt <= s * top_kg + 1e-9), 1)
        found.append(RampLoad(nxt, reps, nxt / top_kg, plates_moved(here, nxt, state)))
    return tuple(found)


def _cap(from_kg: float, max_kg: float, state: LiftState, is_novice: bool) -> float:
    novice_kg = state.rules["test.novice_step_kg"]
    return step_cap_kg(from_kg, max_kg, is_upper=state.is_upper, is_novice=is_novice, novice_step_kg=novice_kg)


def _at_most(load_kg: float, cap_kg: float, state: LiftState) -> float:
    if state.implement is None:
        return min(load_kg, cap_kg)
    return build(round(load_kg, 2), state.implement, cap_kg=max(cap_kg, _built(0.0, state))).load_kg


@dataclass(frozen=True)
class Felt:
    """A set as it was felt: load in kg and effort 1-10."""

    load_kg: float
    effort: float


@dataclass(frozen=True)
class NextLoad:
    """The next load on the way to a max: kg, repetitions, the max as estimated in kg, whether it is a top attempt, and why."""

    load_kg: float
    reps: int
    estimate_kg: float
    is_top: bool
    why: str


def share_felt(effort: float) -> float:
    """Return the share of the max (0-1) that a felt effort usually is."""
    return float(np.interp(effort, [f for f, _ in FELT_SHARE], [s for _, s in FELT_SHARE]))


def estimated_max_kg(felt: Sequence[Felt]) -> float:
    """Return the max in kg that sets as they were felt imply: heavy ones weigh more, very light ones only where alone."""
    rows = [f for f in felt if f.effort >= FIRST_BY_FELT][-2:] or list(felt[-1:])
    weights = [share_felt(f.effort) ** 4 for f in rows]
    found = sum(w * f.load_kg / share_felt(f.effort) for w, f in zip(weights, rows, strict=True)) / sum(weights)
    return max(found, felt[-1].load_kg)


def next_by_felt(felt: Sequence[Felt], state: LiftState, is_novice: bool) -> NextLoad:
    """Return the next load on the way to a max that is not known, from at least one set as it was felt.

    The estimate of the max gives the next share; near it single steps of 2.5 to 5 kg go on until a miss ends it.
    """
    here_kg, effort = felt[-1].load_kg, felt[-1].effort
    estimate = estimated_max_kg(felt)
    share = here_kg / estimate
    row = next((r for r in NEXT_SHARE if share < r[0]), None)
    least = build(here_kg, state.implement).above_kg if state.implement is not None else here_kg + 1.0
    if row is None:
        step_kg = min(last_step_kg(estimate, is_novice), max(0.0, estimate - here_kg))
        wanted, reps, is_top = here_kg + step_kg, 1, True
    else:
        wanted, reps = row[1] * estimate, row[2]
        is_top = reps == 1
    cap_kg = here_kg + _cap(here_kg, estimate, state, is_novice)
    if row is None:
        cap_kg = min(cap_kg, here_kg + last_step_kg(estimate, is_novice))
    load_kg = _at_most(min(wanted, cap_kg), cap_kg, state)
    if load_kg <= here_kg:
        load_kg = least or here_kg
    unit = unit_of(state.implement)
    says = f"about {100 * share_felt(effort):.0f} % of a max near {said_mass(estimate, unit, whole=True)}"
    why = f"felt {effort:g} of 10, {says}: up {said_mass(load_kg - here_kg, unit)}"
    return NextLoad(load_kg, reps, estimate, is_top, why)


def last_step_kg(max_kg: float, is_novice: bool) -> float:
    """Return the largest step between top attempts in kg: 5 for most, less for a light max, 3 % for a very heavy one."""
    if is_novice:
        return LAST_KG[True]
    share_kg = LAST_SHARE * max_kg
    return max(LAST_KG[False], share_kg) if share_kg >= LAST_KG[True] else LAST_KG[True]
