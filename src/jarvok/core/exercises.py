"""What an exercise is: a small type that every rule may name. The library holds the exercises themselves."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from jarvok.core.working import Source


class Start(StrEnum):
    """How a repetition of this lift begins."""

    LOWERED_FIRST = "lowered_first"  # squat, bench press: down, then up
    FROM_REST = "from_rest"  # deadlift, row, press from the shoulders: up from a dead stop


@dataclass(frozen=True)
class LiftMotion:
    """What the detector must know of a lift: the least range of a repetition and how one begins."""

    least_range_m: float
    start: Start


class Pattern(StrEnum):
    """The path of the bar through a set."""

    SQUAT = "squat"
    BENCH = "bench"
    DEADLIFT = "deadlift"
    PRESS = "press"
    ROW = "row"


@dataclass(frozen=True)
class VelocityAnchor:
    """A point of the general load-velocity relation: mean velocity in m/s at a share of 1RM (1.0 is the max)."""

    share: float
    mps: float
    source: Source


@dataclass(frozen=True)
class Plyometric:
    """How a jump meets the ground: `continuous` or `reset` between repetitions, contact in s, contacts a repetition; `maximal`
    where it is usually jumped as high or as far as one can.
    """

    kind: str
    contact_s: float
    contacts: int
    maximal: bool = False


@dataclass(frozen=True)
class Exercise:
    """One exercise. `cost` is its same-day band: high, middle or low. `velocity` says which number counts.

    `same_lift` is the exercise whose marks and profile it shares: a lift done fast is still that lift. `free_jump` is
    what an assisted jump is held against, empty for others. `tail_days` is how long a limit dose of it is felt, the other
    of the two costs. `needs` is gear beside the implement; `roles` are the slots of a session it can fill; `place` where it
    lies from heavy and slow to unloaded; `faults` what it is chosen for; `teaching` 1 (anybody) to 3 (years of lifting).
    """

    id: str
    name: str
    family: str
    pattern: str
    region: str
    cost: str
    kind: str
    cue: str
    implement: str
    bar_kg: float
    velocity: str
    seconds_per_rep: float
    per_side: bool
    motion: LiftMotion | None
    v1rm: VelocityAnchor | None
    light_load: VelocityAnchor | None
    tags: tuple[str, ...]
    same_lift: str
    free_jump: str
    max_from: tuple[str, float] | None
    simulated_pattern: Pattern | None
    simulated_range_m: float
    variation_of: str = ""
    roles: tuple[str, ...] = ()
    needs: frozenset[str] = frozenset()
    place: str = ""
    tail_days: int = 0
    plyometric: Plyometric | None = None
    running: str = ""
    faults: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    tempo: str = ""
    teaching: int = 1
    is_own: bool = False

    def __hash__(self) -> int:
        """By the id alone: the rest of it is compared."""
        return hash(self.id)

    @property
    def carries_body(self) -> bool:
        """Whether bodyweight is lifted with the load: pull-ups and dips, of which the load is only what is added."""
        return self.implement == "belt" and self.pattern in ("pull", "press")

    @property
    def is_loaded(self) -> bool:
        """Whether a load in kilograms belongs to it."""
        return self.implement != "none"
