"""Marks: dated evidence of what an athlete can do. Facts, never overwritten."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import StrEnum


class MarkKind(StrEnum):
    """Kinds of evidence for a max, best first."""

    ONE_RM = "one_rm"
    TECHNICAL_MAX = "technical_max"
    VELOCITY_MAX = "velocity_max"
    REP_MAX = "rep_max"
    AMRAP = "amrap"
    SET_RIR = "set_rir"


KIND_NAMES: dict[MarkKind, str] = {
    MarkKind.ONE_RM: "tested 1RM",
    MarkKind.TECHNICAL_MAX: "technical max",
    MarkKind.VELOCITY_MAX: "velocity of the day's sets",
    MarkKind.REP_MAX: "rep-max",
    MarkKind.AMRAP: "as many as possible",
    MarkKind.SET_RIR: "set with reps in reserve",
}


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
