"""What the checks of sessions and weeks look at: lines, sessions and a week with what lies beside it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property

from jarvok.core.exercises import Exercise
from jarvok.core.floor.pain import OpenPain
from jarvok.core.library.exercises import exercise
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.session.blocks import STRAIGHT, BlockStyle
from jarvok.core.session.duration import is_maximal_jump
from jarvok.core.session.planned import PlannedSession
from jarvok.core.session.roles import FAST_KINDS, BlockRole, role_of
from jarvok.core.week.contest_work import DueLine, EventLimit
from jarvok.core.week.placement import Practice
from jarvok.core.week.plan import ANYTHING, Level

STRENGTH_KINDS = frozenset({"strength", "classic", "ballistic"})
FAR_OFF_DAYS = 99  # [T] no competition near
USUAL_MINUTES = 90  # [J] there for a session, where nobody said
MOST_OF_A_LIMIT = 5  # [C] repetitions of a set that is built to the limit of the day
SPEED_SHARE = 0.75  # [J] a main line lighter than this is done for speed


@dataclass(frozen=True)
class LineView:
    """One line as a check sees it. `sets` are resolved where an athlete's state is known, else empty; `is_typed` says that a
    person has written it.
    """

    slot: str
    block: str
    exercise: Exercise
    prescription: Prescription
    is_main: bool
    style: BlockStyle = STRAIGHT
    sets: tuple[ResolvedSet, ...] = ()
    added_sets: int = 0
    is_chosen_method: bool = False
    line_id: str = ""
    is_typed: bool = False

    @property
    def name(self) -> str:
        """What the line is known by."""
        return self.line_id or self.slot

    @cached_property
    def role(self) -> BlockRole:
        """What it is in its session for."""
        return role_of(self.block, self.exercise, is_main=self.is_main)

    @property
    def prepares(self) -> bool:
        """Whether it belongs to the warm-up of the session."""
        return self.role is BlockRole.PREPARE

    @property
    def total_sets(self) -> int:
        """Number of sets."""
        return self.prescription.total_sets

    @property
    def reps(self) -> int:
        """Repetitions of all sets, both sides of a one-sided exercise."""
        return self.prescription.all_reps

    @cached_property
    def share(self) -> float | None:
        """The heaviest share of the max (0-1.3), as resolved or as written, or None."""
        shares = [s.share_of_max for s in self.sets if s.share_of_max]
        if not shares:
            shares = [share for g in self.prescription.groups if g.load and (share := g.load.share_of_bar) is not None]
        return max(shares, default=None)

    @cached_property
    def is_max_effort(self) -> bool:
        """Whether it is built to the heaviest set of the day."""
        return any(
            g.load and g.load.builds_to_limit and (g.reps or MOST_OF_A_LIMIT + 1) <= MOST_OF_A_LIMIT
            for g in self.prescription.groups
        )

    @property
    def is_to_failure(self) -> bool:
        """Whether a set is meant to end where no more repetition can be done."""
        return self.prescription.until_miss or any(
            g.or_more or (g.load is not None and g.load.is_to_failure) for g in self.prescription.groups
        )

    @cached_property
    def is_heavy(self) -> bool:
        """Whether it is a main strength line that is not done for speed."""
        if not self.is_main or self.exercise.kind != "strength" or self.exercise.place == "heavy_fast":
            return False
        share = self.share
        return self.is_max_effort or share is None or share >= SPEED_SHARE

    @property
    def is_fast(self) -> bool:
        """Whether it needs speed or coordination: jumps, throws, sprints, weightlifting lifts; rhythmic hops do not."""
        return self.exercise.kind in FAST_KINDS and self.exercise.cost != "low"

    @property
    def is_maximal_jump(self) -> bool:
        """Whether it is jumped as high or as far as one can: said by the line, or else usual for the exercise."""
        return is_maximal_jump(self.prescription, self.exercise)

    @property
    def metres(self) -> int:
        """Metres of all sets."""
        return self.prescription.all_metres

    @property
    def contacts(self) -> int:
        """Ground contacts of high-stimulus jumps."""
        if self.exercise.kind != "jump" or self.exercise.cost == "low":
            return 0
        return self.reps


@dataclass(frozen=True)
class Guard:
    """What a session is held against: why its week is protected (empty: it is not), the work sets the plan has for it, and
    the week's top in % of the max.
    """

    why: str = ""
    planned_sets: int | None = None
    top_pct: float = 100.0


NO_GUARD = Guard()


@dataclass(frozen=True)
class SessionView:
    """A session with what a check needs of the athlete and the room. `minutes` and `minutes_there` in min; `days_to_go`
    to the competition; `landing_practised` whether landings are on record in the last weeks; `may_max` whether max-effort
    and failure sets are open to the athlete, else `why_not_max` says why; `jumps_a_set` what own tests have found, by exercise;
    `guard` is what a light session is held against, `begins_h` the hour of the day it begins at,
    `event_limits` what holds after last heavy sessions, `due` the lines of those that lie on its day, `pains` what was told on
    the floor and nobody has answered yet.
    """

    key: str
    day: date
    lines: tuple[LineView, ...]
    limits: Limits = ANYTHING
    level: Level = Level.INTERMEDIATE
    load: str = "middle"
    body_mass_kg: float | None = None
    landing_practised: bool = False
    may_max: bool = True
    why_not_max: str = ""
    in_season: bool = False
    is_light: bool = False
    days_to_go: int = FAR_OFF_DAYS
    minutes: float = 0.0
    minutes_there: int = USUAL_MINUTES
    rules: Rules = DEFAULT_RULES
    guard: Guard = NO_GUARD
    event_limits: tuple[EventLimit, ...] = ()
    due: tuple[DueLine, ...] = ()
    jumps_a_set: Mapping[str, int] = field(default_factory=dict)
    begins_h: float | None = None
    pains: tuple[OpenPain, ...] = ()

    @property
    def where(self) -> str:
        """The place of the session in words a flag keeps."""
        return f"{self.day}:{self.key}"

    def at(self, line: LineView) -> str:
        """The place of a line."""
        return f"{self.day}:{self.key}:{line.name}"

    @property
    def heavy_sets(self) -> int:
        """Sets of main lines of high cost that are not done for speed."""
        return sum(x.total_sets for x in self.lines if x.exercise.cost == "high" and (x.is_heavy or _is_lift(x)))

    @property
    def top_speed_sets(self) -> int:
        """Sets of sprints at top speed."""
        return sum(x.total_sets for x in self.lines if "max_velocity" in x.exercise.roles and x.exercise.cost == "high")


def _is_lift(line: LineView) -> bool:
    return line.is_main and line.exercise.kind in ("classic", "ballistic") and (line.share or 1.0) >= SPEED_SHARE


@dataclass(frozen=True)
class WeekView:
    """A week of one athlete. `before` is last week; `busy` names camps, travel or exams in it; `load` and `load_before` are
    planned loads; `faults` the recorded ones. The arrangement says what it does on purpose.
    """

    monday: date
    sessions: tuple[SessionView, ...]
    practices: Sequence[Practice] = ()
    before: tuple[SessionView, ...] = ()
    is_light: bool = False
    in_season: bool = False
    days_to_go: int = FAR_OFF_DAYS
    allows_daily_lifts: bool = False
    uses_failure: bool = False
    is_weightlifting: bool = False
    faults: frozenset[str] = frozenset()
    busy: str = ""
    load: float = 0.0
    load_before: float = 0.0
    overhead_twice: bool = False
    rules: Rules = DEFAULT_RULES


def session_view(
    planned: PlannedSession, limits: Limits, level: Level, days_to_go: int = FAR_OFF_DAYS, *, is_light: bool = False
) -> SessionView:
    """Return a fresh session as checks see it, before any athlete's loads are set."""
    lines = tuple(
        LineView(x.slot, x.block, exercise(x.exercise_id), x.prescription, x.is_main, x.style, line_id=x.line_id)
        for x in planned.lines
    )
    return SessionView(
        planned.key,
        planned.day,
        lines,
        limits,
        level,
        planned.load,
        days_to_go=days_to_go,
        is_light=is_light,
        begins_h=planned.begins_h,
    )
