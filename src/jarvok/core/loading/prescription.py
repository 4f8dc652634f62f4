"""What a set prescription says: sets, repetitions and how the load comes about, without saying kilograms."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Percent:
    """A share of the working max. One value for all sets, or one per set (75/80/85 %); in per cent."""

    percents: tuple[float, ...]


@dataclass(frozen=True)
class PercentRange:
    """Between two shares of the working max, in per cent: the first set at the low end, the last at the high end."""

    low_pct: float
    high_pct: float


@dataclass(frozen=True)
class Reserve:
    """The load that leaves `rir` repetitions in reserve."""

    rir: float


@dataclass(frozen=True)
class Rpe:
    """The load that feels like `rpe` (5-10)."""

    rpe: float


@dataclass(frozen=True)
class VelocityTarget:
    """The load moved at a velocity in m/s: mean of the concentric phase, or peak."""

    low_mps: float
    high_mps: float
    peak: bool = False


@dataclass(frozen=True)
class FixedLoad:
    """A load as written, in kg; `in_lb` remembers that it was written in pounds."""

    load_kg: float
    in_lb: bool = False


LoadRule = Percent | PercentRange | Reserve | Rpe | VelocityTarget | FixedLoad


@dataclass(frozen=True)
class SetGroup:
    """Sets done alike. Exactly one of `reps`, `seconds`, `metres` says the amount; `or_more` means as many as possible."""

    sets: int
    reps: int | None = None
    reps_high: int | None = None
    or_more: bool = False
    seconds: int | None = None
    metres: int | None = None
    per_side: bool = False
    load: LoadRule | None = None


@dataclass(frozen=True)
class Prescription:
    """One line of a session: groups of sets, tempo such as `3-0-X-0`, rest in s, velocity-loss limit in per cent."""

    groups: tuple[SetGroup, ...]
    tempo: str | None = None
    rest_s: int | None = None
    stop_loss_pct: float | None = None

    @property
    def total_sets(self) -> int:
        """Number of sets in all groups."""
        return sum(group.sets for group in self.groups)
