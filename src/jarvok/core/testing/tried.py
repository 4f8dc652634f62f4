"""What was tried in a test, as it is kept: a set, a repetition of a ladder or a round of jumps, by the kind of test."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from enum import StrEnum
from typing import Any

from jarvok.core.testing.choice import TestKind
from jarvok.core.testing.steps import Attempt
from jarvok.core.velocity.ladder import Try

VERSION = 1  # [T] of the form in which tries are kept


class TrialKind(StrEnum):
    """The tests of what suits an athlete, beside the guided ones of a max."""

    LADDER = "ladder"
    SINGLE = "single"
    REST = "rest"
    REPS = "reps"


@dataclass(frozen=True)
class Jumps:
    """A round of jumps: heights in cm, and the rest before them in s where a rest is what is tested (0: baseline)."""

    heights_cm: tuple[float, ...]
    rest_s: int | None = None


Tried = Attempt | Try | Jumps


def to_raw(tried: Tried) -> dict[str, Any]:
    """Return a try as it is kept."""
    return {"version": VERSION, **asdict(tried)}


def from_raw(kind: str, raw: Mapping[str, Any]) -> Tried:
    """Return a try of a kind of test as it was kept; from before there were versions too."""
    known = {k: v for k, v in raw.items() if k != "version"}
    if kind in set(TestKind):
        return Attempt(**known)
    if TrialKind(kind) in (TrialKind.LADDER, TrialKind.SINGLE):
        return Try(**known)
    return Jumps(tuple(known["heights_cm"]), known.get("rest_s"))
