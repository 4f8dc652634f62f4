"""A line changed by a step: a set more, a repetition fewer, a little heavier, in the terms the line is written in.

Sizes of a step are Jarvok's own [J]: the smallest a coach would bother to say.
"""

from __future__ import annotations

from dataclasses import replace
from typing import assert_never

from jarvok.core.errors import CoachError
from jarvok.core.loading.prescription import (
    Apre,
    BestShare,
    Corrected,
    FixedLoad,
    LastPlus,
    LoadRule,
    Percent,
    PercentRange,
    Prescription,
    Reserve,
    Rising,
    RmZone,
    Rpe,
    SetGroup,
    TodayPercent,
    TwoForTwo,
    VelocityTarget,
    VelocityZone,
    WithAttachment,
)

# one step of each way to write a load; Jarvok's default
PCT_STEP, KG_STEP, RPE_STEP, RIR_STEP, MPS_STEP = 2.5, 2.5, 0.5, 1.0, 0.05
WHAT = ("sets", "reps", "load")
MOST_SETS, MOST_REPS = 30, 100


def adjust(line: Prescription, what: str, by: int) -> Prescription:
    """Return the line with one step more (`by` 1) or fewer (-1) of sets, repetitions (seconds, metres) or load.

    The last group changes, which is the work after any lighter start. A heavier step leaves fewer repetitions in reserve
    and aims at a slower bar. Raises `CoachError` where there is nothing of the kind to change, or no step left.
    """
    if what not in WHAT or by not in (1, -1):
        raise CoachError("That step is not known.", where="what", accepted=", ".join(WHAT))
    group = line.groups[-1]
    match what:
        case "sets":
            changed = replace(group, sets=_within(group.sets + by, 1, MOST_SETS, "sets"))
        case "reps":
            changed = _amount(group, by)
        case _:
            changed = replace(group, load=_load(group.load, by))
    return replace(line, groups=(*line.groups[:-1], changed))


def _within(value: float, low: float, high: float, where: str) -> int:
    if not low <= value <= high:
        raise CoachError("There is no step left.", where=where, accepted=f"{low:g} to {high:g}.")
    return int(value)


def _amount(group: SetGroup, by: int) -> SetGroup:
    if group.parts:
        raise CoachError(
            "The repetitions of a complex are written out.", where="reps", accepted="Write the line, such as 3 × 2+1."
        )
    if group.seconds is not None:
        return replace(group, seconds=_within(group.seconds + 5 * by, 5, 3600, "reps"))
    if group.metres is not None:
        return replace(group, metres=_within(group.metres + 5 * by, 5, 1000, "reps"))
    reps = _within((group.reps or 1) + by, 1, MOST_REPS, "reps")
    high = group.reps_high + by if group.reps_high is not None else None
    return replace(group, reps=reps, reps_high=high)


def _pct(value: float, by: int) -> float:
    return max(5.0, min(130.0, value + PCT_STEP * by))


def _load(rule: LoadRule | None, by: int) -> LoadRule:
    match rule:
        case Percent(percents):
            return Percent(tuple(_pct(p, by) for p in percents))
        case PercentRange(low, high):
            return PercentRange(_pct(low, by), _pct(high, by))
        case TodayPercent(pct):
            return TodayPercent(_pct(pct, by))
        case BestShare(pct=pct) if pct is not None:
            return replace(rule, pct=_pct(pct, by))
        case Reserve(rir):
            return replace(rule, rir=float(_within(rir - RIR_STEP * by, 0, 9, "load")))
        case Rpe(rpe):
            return Rpe(max(5.0, min(10.0, rpe + RPE_STEP * by)))
        case FixedLoad(load_kg):
            return replace(rule, load_kg=max(0.5, load_kg + KG_STEP * by))
        case VelocityTarget(low, high):
            lower, upper = round(low - MPS_STEP * by, 2), round(high - MPS_STEP * by, 2)
            return replace(rule, low_mps=max(0.05, lower), high_mps=max(0.05, upper))
        case Corrected(start):
            return replace(rule, start=Percent(tuple(_pct(p, by) for p in start.percents)))
        case Rising(start) | WithAttachment(bar=start):
            moved = _load(start, by)
            assert isinstance(moved, Percent | FixedLoad)
            return replace(rule, start=moved) if isinstance(rule, Rising) else replace(rule, bar=moved)
        case LastPlus() | TwoForTwo() | RmZone() | Apre() | BestShare() | VelocityZone() | None:
            raise CoachError("This load has no step.", where="load", accepted="Write the load, such as @ 80 % or 2 in reserve.")
        case _:
            assert_never(rule)
