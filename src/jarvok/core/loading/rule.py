"""What every rule of setting a load can do: be read, written, priced and stepped, each in the one module that holds it.

A rule that cannot be written, priced or stepped is abstract, so the type checker refuses the place that makes one.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar, NamedTuple, NoReturn, Self

from jarvok.core.errors import CoachError
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.working import COMMON_PRACTICE

if TYPE_CHECKING:
    from jarvok.core.loading.prescription import SetGroup
    from jarvok.core.loading.reader import Reader


class Target(NamedTuple):
    """What a rule aims at beside a load: mean or peak velocity in m/s, and reps in reserve."""

    mps: tuple[float, float] | None = None
    is_peak: bool = False
    rir: float | None = None


class Example(NamedTuple):
    """A line as a coach would type it, and what it says."""

    typed: str
    says: str


@dataclass(frozen=True)
class LoadRule(ABC):
    """How the load of a set comes about, without saying kilograms. Rules are alike when they are written alike."""

    method: ClassVar[str] = ""  # key of the method it belongs to, if any
    examples: ClassVar[tuple[Example, ...]] = ()  # for the page about typed lines; the first one is also tested by itself
    is_read_last: ClassVar[bool] = False  # where a shorter form would swallow the beginning of a longer one
    looks_back: ClassVar[bool] = False  # needs the earlier sessions of the lift
    carries_progress: ClassVar[bool] = False  # moves the athlete on by itself: nothing to beat is said beside it

    @classmethod
    def begins(cls, reader: Reader) -> LoadRule | None:
        """Read the rule where a load may begin; None where it does not stand."""
        return None

    @classmethod
    def follows(cls, reader: Reader, start: LoadRule) -> LoadRule | None:
        """Read what may stand behind another rule and changes its meaning; None where it does not stand."""
        return None

    @classmethod
    def after_reps(cls, reader: Reader, reps: int, reps_high: int | None, at: int) -> LoadRule | None:
        """Read what may stand right behind the repetitions, which begin at `at`; None where it does not stand."""
        return None

    @classmethod
    def whole_line(cls, reader: Reader) -> tuple[SetGroup, ...]:
        """Read a word that stands for a whole line; empty where it does not stand."""
        return ()

    @abstractmethod
    def written(self) -> str:
        """Return the rule as it follows the repetitions, with what parts it from them."""

    @abstractmethod
    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return what goes on the bar in kg before rounding; `missing` of the offer says why it fell back."""

    @abstractmethod
    def step(self, by: int) -> LoadRule:
        """Return the rule one step heavier (`by` 1) or lighter (-1). Raises `CoachError` where there is no step."""

    @property
    def written_behind_reps(self) -> str:
        """What is written right behind the repetitions."""
        return ""

    @property
    def written_line(self) -> str:
        """The word that stands for the whole line, when this is the rule of its first set."""
        return ""

    def target(self, state: LiftState) -> Target:
        """Return what it aims at beside a load, for the floor."""
        return Target()

    def of_set(self, position: int, sets: int) -> LoadRule:
        """Return the rule of one set of a group, by its position from 0."""
        return self

    @property
    def varies(self) -> bool:
        """Whether the load may differ from set to set of a group."""
        return False

    @property
    def depends_on_place(self) -> bool:
        """Whether equal rules at two places of a group may give two loads."""
        return False

    @property
    def share_meant(self) -> float | None:
        """The share of the max that the rule itself names (0-1.3), or None."""
        return None

    @property
    def share_of_bar(self) -> float | None:
        """The share of the max that lies on the bar alone (0-1.3), or None."""
        return self.share_meant

    @property
    def hangs(self) -> str:
        """What hangs on the bar; nothing where it is free."""
        return ""

    @property
    def is_to_failure(self) -> bool:
        """Whether the set is meant to end where no more repetition can be done."""
        return False

    @property
    def builds_to_limit(self) -> bool:
        """Whether the sets grow until the athlete's limit of the day."""
        return False

    @property
    def uses_past(self) -> bool:
        """Whether this rule as written needs the earlier sessions of the lift."""
        return self.looks_back

    @property
    def needs_velocities_of_today(self) -> bool:
        """Whether the load waits for the velocities of the warm-up."""
        return False

    def unreliable(self, reps: int) -> bool:
        """Whether the count it asks for is known to be unreliable at so many repetitions."""
        return False

    def capped(self, most_pct: float) -> Self:
        """Return the rule with no share of the max above `most_pct`, where it names shares set by set; else itself."""
        return self


class Intent(NamedTuple):
    """How hard a line is meant to be: repetitions, share of the max (0-1.3) and reps in reserve."""

    reps: int
    share: float | None
    rir: float


def _no_reason(_state: LiftState) -> str:
    return "the repetitions are outside what this method can load"


@dataclass(frozen=True, kw_only=True)
class Method:
    """One school of setting a load: its key, name, what it is good for and its printed limits.

    `place` orders the methods on a page; `spoken` is what an offer made by the method's own facts calls itself; `express`
    writes a line's intent as this method would, or returns None; `lay_out` writes the sets of a whole line where the
    method has a form of its own; `cannot` says why there is no line. Without `knows_the_week` easy weeks and tapers are kept
    from it; with `may_miss_the_meaning` a load far from what the line means is said.
    """

    key: str
    place: int
    name: str
    how: str
    good_for: str
    limits: str
    spoken: str
    express: Callable[[Intent, LiftState], LoadRule | None]
    lay_out: Callable[[Intent], tuple[SetGroup, ...]] | None = None
    cannot: Callable[[LiftState], str] = _no_reason
    reps_above: int = 0
    knows_the_week: bool = True
    may_miss_the_meaning: bool = False


def by_effort(*missing: str) -> Offer:
    """Return the end of every chain: no load, found by feel."""
    return Offer(None, "effort", "start light, felt effort 4 of 10, and grow by feel", COMMON_PRACTICE, missing=missing)


def no_step() -> NoReturn:
    """Raise the error of a rule that has no step."""
    raise CoachError("This load has no step.", where="load", accepted="Write the load, such as @ 80 % or 2 in reserve.")


# one step of a share, and its ends; Jarvok's default [J]
PCT_STEP, LEAST_STEPPED_PCT, MOST_STEPPED_PCT = 2.5, 5.0, 130.0


def stepped_pct(pct: float, by: int) -> float:
    """Return a share one step up or down, in per cent."""
    return max(LEAST_STEPPED_PCT, min(MOST_STEPPED_PCT, pct + PCT_STEP * by))
