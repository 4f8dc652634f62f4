"""What a set prescription says: sets, repetitions and how the load comes about, without saying kilograms."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.rule import LoadRule


@dataclass(frozen=True)
class SetGroup:
    """Sets done alike. Exactly one of `reps`, `seconds`, `metres` says the amount; `or_more` means as many as possible.

    `parts` are the repetitions of each lift of a complex, `minis` those of each small set of a cluster; `reps` is their sum.
    `sets_high` is the most where a range of sets is written; seconds `in_all` are gathered in as many holds as it takes.
    """

    sets: int
    reps: int | None = None
    reps_high: int | None = None
    or_more: bool = False
    seconds: int | None = None
    metres: int | None = None
    per_side: bool = False
    load: LoadRule | None = None
    parts: tuple[int, ...] = ()
    sets_high: int | None = None
    minis: tuple[int, ...] = ()
    in_all: bool = False

    @property
    def sides(self) -> int:
        """How often a repetition is done: twice where each side works by itself."""
        return 2 if self.per_side else 1

    @property
    def all_reps(self) -> int:
        """Repetitions of all its sets, both sides counted; 0 where it has none."""
        return self.sets * (self.reps or 0) * self.sides

    @property
    def all_metres(self) -> int:
        """Metres of all its sets, both sides counted."""
        return self.sets * (self.metres or 0) * self.sides


@dataclass(frozen=True)
class Drops:
    """A last set that goes on `count` times with `pct` per cent less each time."""

    count: int
    pct: float


@dataclass(frozen=True)
class Prescription:
    """One line of a session: groups of sets, tempo such as `3-0-X-0`, rest in s, velocity-loss limit in per cent.

    `every_s` starts a set each so many seconds; `until_miss` goes on until one is missed, the sets being the wanted number;
    `between_reps_s` is rest between repetitions of a set, `inside_s` between the small sets of a cluster; `scored_by` is what
    counts: "time", "rounds", "height", "distance", or nothing; `submaximal` says that a jump or throw is not meant as high or as
    far as one can.
    """

    groups: tuple[SetGroup, ...]
    tempo: str | None = None
    rest_s: int | None = None
    stop_loss_pct: float | None = None
    every_s: int | None = None
    until_miss: bool = False
    between_reps_s: int | None = None
    inside_s: int | None = None
    drops: Drops | None = None
    scored_by: str = ""
    submaximal: bool = False

    @property
    def total_sets(self) -> int:
        """Number of sets in all groups."""
        return sum(group.sets for group in self.groups)

    @property
    def all_reps(self) -> int:
        """Repetitions of all groups, both sides counted."""
        return sum(group.all_reps for group in self.groups)

    @property
    def all_metres(self) -> int:
        """Metres of all groups, both sides counted."""
        return sum(group.all_metres for group in self.groups)
