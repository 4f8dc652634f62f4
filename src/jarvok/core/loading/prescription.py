"""What a set prescription says: sets, repetitions and how the load comes about, without saying kilograms."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.accommodating import Attachment


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
class TodayPercent:
    """A share of the max that the day's warm-up velocities imply, in per cent."""

    pct: float


@dataclass(frozen=True)
class Reserve:
    """The load that leaves `rir` repetitions in reserve; `beat_last` makes last week's load the floor under it."""

    rir: float
    beat_last: bool = False


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
class VelocityZone:
    """The load that moves in a named zone of mean velocity."""

    zone: str


@dataclass(frozen=True)
class FixedLoad:
    """A load as written, in kg; `in_lb` remembers that it was written in pounds."""

    load_kg: float
    in_lb: bool = False


@dataclass(frozen=True)
class Corrected:
    """A percentage to start from, corrected on the floor by reps in reserve, RPE or velocity."""

    start: Percent
    by: Reserve | Rpe | VelocityTarget


@dataclass(frozen=True)
class Rising:
    """A first load that grows each set by `step_kg`; without a step it reaches the max at the last set."""

    start: Percent | FixedLoad
    step_kg: float | None = None


@dataclass(frozen=True)
class WithAttachment:
    """A bar load with bands or chains: `extra` is a share of the max in per cent, or kg, at the top."""

    bar: Percent | FixedLoad
    extra: float
    extra_is_pct: bool
    attachment: Attachment


@dataclass(frozen=True)
class LastPlus:
    """Linear loading: last time's load plus `step_kg`, or plus the published increment."""

    step_kg: float | None = None


@dataclass(frozen=True)
class TwoForTwo:
    """2-for-2: up when the last set beat the goal by two in two sessions."""


@dataclass(frozen=True)
class RmZone:
    """The heaviest load for a range of repetitions, the last set to failure."""

    low_reps: int
    high_reps: int


@dataclass(frozen=True)
class BestShare:
    """A share of the best for this scheme: a word of the week, or a per cent."""

    word: str = ""
    pct: float | None = None


@dataclass(frozen=True)
class Apre:
    """One set of APRE-10, -6 or -3; `number` runs from 1 to 4."""

    rm: int
    number: int


LoadRule = (
    Percent
    | PercentRange
    | TodayPercent
    | Reserve
    | Rpe
    | VelocityTarget
    | VelocityZone
    | FixedLoad
    | Corrected
    | Rising
    | WithAttachment
    | LastPlus
    | TwoForTwo
    | RmZone
    | BestShare
    | Apre
)


@dataclass(frozen=True)
class SetGroup:
    """Sets done alike. Exactly one of `reps`, `seconds`, `metres` says the amount; `or_more` means as many as possible.

    `parts` are the repetitions of each lift of a complex; `reps` is their sum.
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


@dataclass(frozen=True)
class Prescription:
    """One line of a session: groups of sets, tempo such as `3-0-X-0`, rest in s, velocity-loss limit in per cent.

    `every_s` starts a set each so many seconds; `until_miss` goes on until one is missed, the sets being the wanted number.
    """

    groups: tuple[SetGroup, ...]
    tempo: str | None = None
    rest_s: int | None = None
    stop_loss_pct: float | None = None
    every_s: int | None = None
    until_miss: bool = False

    @property
    def total_sets(self) -> int:
        """Number of sets in all groups."""
        return sum(group.sets for group in self.groups)
