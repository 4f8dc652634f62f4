"""What is said after a set, and the set it is said of."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from jarvok.core.working import Working


class Move(StrEnum):
    """What to do with the next set."""

    UP = "up"
    SAME = "same"
    DOWN = "down"
    DONE = "done"


class Trouble(StrEnum):
    """Why a set was not what it should be, as the coach tapped it."""

    FORM_BROKE = "form_broke"
    PAIN = "pain"


TROUBLE_WORDS = {Trouble.FORM_BROKE: "technique broke", Trouble.PAIN: "pain"}


@dataclass(frozen=True)
class DoneSet:
    """One set as it was done. `velocities_mps` are the repetitions in order, of the number that counts for the lift."""

    load_kg: float | None
    reps: int
    rir: float | None = None
    velocities_mps: tuple[float, ...] = ()
    trouble: Trouble | None = None
    planned_reps: int | None = None


@dataclass(frozen=True)
class Advice:
    """What next: the move, the load of the next set in kg (None when done or unloaded), one sentence, the working."""

    move: Move
    load_kg: float | None
    sentence: str
    working: Working
    why: str = ""
