"""A line changed by a step: a set more, a repetition fewer, a little heavier, in the terms the line is written in.

Sizes of a step are Jarvok's own [J]: the smallest a coach would bother to say. Each rule knows its own step of load.
"""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.errors import CoachError
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.rule import no_step

WHAT = ("sets", "reps", "load")
MOST_SETS, MOST_REPS = 30, 100  # [T]
SECONDS_STEP, LEAST_SECONDS, MOST_SECONDS = 5, 5, 3600  # [J], [T]
METRES_STEP, LEAST_METRES, MOST_METRES = 5, 5, 1000  # [J], [T]


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
            changed = replace(group, load=group.load.step(by) if group.load is not None else no_step())
    return replace(line, groups=(*line.groups[:-1], changed))


def _within(value: int, low: int, high: int, where: str) -> int:
    if not low <= value <= high:
        raise CoachError("There is no step left.", where=where, accepted=f"{low:g} to {high:g}.")
    return value


def _amount(group: SetGroup, by: int) -> SetGroup:
    if group.parts:
        raise CoachError(
            "The repetitions of a complex are written out.", where="reps", accepted="Write the line, such as 3 × 2+1."
        )
    if group.seconds is not None:
        return replace(group, seconds=_within(group.seconds + SECONDS_STEP * by, LEAST_SECONDS, MOST_SECONDS, "reps"))
    if group.metres is not None:
        return replace(group, metres=_within(group.metres + METRES_STEP * by, LEAST_METRES, MOST_METRES, "reps"))
    reps = _within((group.reps or 1) + by, 1, MOST_REPS, "reps")
    high = group.reps_high + by if group.reps_high is not None else None
    return replace(group, reps=reps, reps_high=high)
