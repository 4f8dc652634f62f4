"""Marks: dated evidence of what an athlete can do. Facts, never overwritten."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import StrEnum


class MarkKind(StrEnum):
    """Kinds of marks: those that are evidence of a max first, best first; then bests and measures of their own."""

    ONE_RM = "one_rm"
    TECHNICAL_MAX = "technical_max"
    VELOCITY_MAX = "velocity_max"
    REP_MAX = "rep_max"
    AMRAP = "amrap"
    SET_RIR = "set_rir"
    SET_DONE = "set_done"
    SET_VELOCITY = "set_velocity"
    VELOCITY_BEST = "velocity_best"
    SET_REP_BEST = "set_rep_best"
    JUMP = "jump"
    DROP_JUMP = "drop_jump"
    HOLD = "hold"
    SPRINT = "sprint"


KIND_NAMES: dict[MarkKind, str] = {
    MarkKind.ONE_RM: "tested 1RM",
    MarkKind.TECHNICAL_MAX: "technical 1RM",
    MarkKind.VELOCITY_MAX: "velocity of the day's sets",
    MarkKind.REP_MAX: "rep-max",
    MarkKind.AMRAP: "as many as possible",
    MarkKind.SET_RIR: "set with reps in reserve",
    MarkKind.SET_DONE: "set as it was done",
    MarkKind.SET_VELOCITY: "set with bar velocity",
    MarkKind.VELOCITY_BEST: "best load at a velocity",
    MarkKind.SET_REP_BEST: "set-rep best",
    MarkKind.JUMP: "jump",
    MarkKind.DROP_JUMP: "drop jump",
    MarkKind.HOLD: "hold",
    MarkKind.SPRINT: "sprint",
}

EVIDENCE = (
    MarkKind.ONE_RM,
    MarkKind.TECHNICAL_MAX,
    MarkKind.VELOCITY_MAX,
    MarkKind.REP_MAX,
    MarkKind.AMRAP,
    MarkKind.SET_RIR,
    MarkKind.SET_DONE,
)

# these say that the max is no less, whatever else it is
BOUNDS = (MarkKind.TECHNICAL_MAX, MarkKind.SET_DONE)


Conditions = tuple[tuple[str, str], ...]  # kind and choice, such as ("equipment", "belt"); what is not named is as usual


@dataclass(frozen=True)
class Mark:
    """One piece of evidence for one exercise. `ref` names the stored fact, such as `mark:12` or `set:40`."""

    ref: str
    day: date
    kind: MarkKind
    load_kg: float
    reps: int = 1
    rir: float = 0.0
    error_pct: float | None = None  # where the mark brings its own error, in per cent of the max
    conditions: Conditions = ()
