"""What a planned week consists of, what it is planned from, and how a draft of a day becomes lines an athlete can do."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from enum import IntEnum
from functools import lru_cache
from types import MappingProxyType

from jarvok.core.chooser.wishes import NO_WISHES, Wishes
from jarvok.core.exercises import Exercise
from jarvok.core.frozen import changed
from jarvok.core.library.exercises import exercise
from jarvok.core.library.substitutes import Limits, substitutes
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.progress import CONTACT_CAPS
from jarvok.core.loading.shorthand import parse
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.model import SeasonPlan, SeasonWeek
from jarvok.core.session.blocks import GROUPINGS, STRAIGHT, BlockStyle
from jarvok.core.session.fitting import fitted
from jarvok.core.session.line_ids import line_id
from jarvok.core.session.planned import PlannedLine
from jarvok.core.session.roles import prepares, role_of
from jarvok.core.week.building import Build, built
from jarvok.core.week.contest_work import NO_CONTEST, ContestWork, EventLimit
from jarvok.core.week.pick import pick, pool, why_none
from jarvok.core.week.placement import Practice


class Level(IntEnum):
    """How long an athlete has lifted; the value is also the teaching cost that may be asked of them."""

    NOVICE = 1
    INTERMEDIATE = 2
    ADVANCED = 3  # [T]


LEVEL_NAMES = {Level.NOVICE: "novice", Level.INTERMEDIATE: "intermediate", Level.ADVANCED: "advanced"}
MONTHS = 12  # [T] of a year
NOVICE_YEARS, ADVANCED_YEARS = CONTACT_CAPS[0][0], CONTACT_CAPS[1][0]
ANYTHING = Limits()
_parse = lru_cache(maxsize=4096)(parse)  # the same few lines come again for every athlete and week


def level_of(training_age_years: float) -> Level:
    """Return the level from years of lifting."""
    if training_age_years < NOVICE_YEARS:
        return Level.NOVICE
    return Level.INTERMEDIATE if training_age_years < ADVANCED_YEARS else Level.ADVANCED


@dataclass(frozen=True)
class WeekFacts:
    """What a week is planned from.

    `days` is the number of sessions, `minutes` how long one may be; `weakest` the lift that lags, with words; `played_share`
    how much of a match the player usually plays (0-1); `placed` the days of the sessions once they are known; `may_max`
    whether max-effort sets are open to the athlete; `contest` what contests ahead ask for; `wishes` what is known of the
    athlete asks for; `minutes` is how long a session may be; `sport` and `body_mass_kg` decide its rounds and its low days;
    `shown` are the lifts whose max something has shown in the round that the week closes; `restricted_on` what is restricted
    on each day, where `limits` hold for the week as a whole.
    """

    season: SeasonPlan
    week: SeasonWeek
    practices: Sequence[Practice] = ()
    limits: Limits = ANYTHING
    days: int = 2
    level: Level = Level.INTERMEDIATE
    weakest: str = ""
    weakest_words: str = ""
    moved: Mapping[str, date] = field(default_factory=lambda: MappingProxyType({}))
    played_share: float = 1.0
    rules: Rules = DEFAULT_RULES
    may_max: bool = True
    contest: ContestWork = NO_CONTEST
    placed: Mapping[str, date] = field(default_factory=lambda: MappingProxyType({}))
    wishes: Wishes = NO_WISHES
    minutes: int | None = None
    sport: str = ""
    body_mass_kg: float | None = None
    shown: frozenset[str] = frozenset()
    restricted_on: tuple[tuple[date, frozenset[str]], ...] = ()

    @property
    def faults(self) -> frozenset[str]:
        """Ids of the faults on record."""
        return self.wishes.fault_ids

    def on(self, day: date) -> WeekFacts:
        """Return the facts with what is restricted on a day of the week."""
        own = dict(self.restricted_on).get(day, self.limits.restricted)
        return self if own == self.limits.restricted else changed(self, limits=changed(self.limits, restricted=own))

    def out(self, key: str) -> int:
        """Days from a session to the competition: from its day once it is placed, before that from the Monday."""
        return self.week.days_out(self.placed.get(key, self.week.start))

    @property
    def window_weeks(self) -> tuple[SeasonWeek, ...]:
        """The weeks that hold days of the week's taper, in order: all that a week is told of the season around it."""
        taper = self.week.taper
        return () if taper is None else tuple(w for w in self.season.weeks if w.taper is not None and w.taper == taper)

    @property
    def days_out(self) -> int:
        """Days from the week's Monday to the competition."""
        return self.week.days_out(self.week.start)


@dataclass(frozen=True)
class Draft:
    """A line before the athlete's limits: a named exercise, or a `role` to fill from the library.

    `salt` shifts the rotation of a role; `weekly` changes the exercise each week, `by_phase` with each phase, else each three
    weeks; `for_fault` takes an exercise that works on a recorded fault where there is one. The text lays out a full week; `sets`
    is what the week's dose leaves of it (None: as written, 0: nothing); `wish` names what is known of the athlete that it has
    changed for. `build` is how its sets grow, `variants` small changes of the lift in words (a grip, a height, bands) that take
    turns with each round of its pool.
    """

    slot: str
    block: str
    exercise_id: str
    text: str
    reason: str
    is_main: bool = False
    role: str = ""
    salt: int = 0
    weekly: bool = False
    by_phase: bool = False
    for_fault: bool = False
    style: BlockStyle = STRAIGHT
    sets: int | None = None
    is_exposure: bool = False
    wish: str = ""
    build: Build = Build.FLAT
    variants: tuple[str, ...] = ()

    @property
    def counts(self) -> bool:
        """Whether its sets are main sets, those a dose is made of."""
        return _counts(self.block, self.is_main)

    @property
    def prepares(self) -> bool:
        """Whether it belongs to the warm-up of the session."""
        return prepares(self.block)

    @property
    def full_sets(self) -> int:
        """Its sets as written."""
        return _sets_and_groups(self.text)[0]

    @property
    def is_fixed(self) -> bool:
        """Whether it says its sets itself: a last heavy session, or sets that differ."""
        return self.is_exposure or _sets_and_groups(self.text)[1] != 1

    @property
    def written(self) -> Prescription:
        """What it says, with the sets the dose leaves."""
        return _written(self.text, self.sets, self.build)


@lru_cache(maxsize=8192)
def _written(text: str, sets: int | None, build: Build) -> Prescription:
    return built(_with_sets(_parse(text), sets), build)


@lru_cache(maxsize=16384)
def _fitted(text: str, sets: int | None, build: Build, lift: Exercise, wanted: Exercise | None) -> Prescription:
    return fitted(_written(text, sets, build), lift, wanted)


@lru_cache(maxsize=512)
def _counts(block: str, is_main: bool) -> bool:
    return role_of(block, None, is_main=is_main).counts


@lru_cache(maxsize=4096)
def _sets_and_groups(text: str) -> tuple[int, int]:
    written = _parse(text)
    return written.total_sets, len(written.groups)


def _with_sets(written: Prescription, sets: int | None) -> Prescription:
    """One of several groups says its sets itself."""
    if not sets or len(written.groups) != 1 or written.groups[0].sets == sets:
        return written
    return replace(written, groups=(replace(written.groups[0], sets=sets),))


@dataclass(frozen=True)
class DayDraft:
    """A day before its lines are settled: how hard it is meant, and its lines."""

    key: str
    theme: str
    load: str
    drafts: Sequence[Draft]


@dataclass(frozen=True)
class WeekArrangement:
    """A way to arrange a week. `days` are the numbers of sessions it knows; `drafts` gives them in order.

    `allows_daily_lifts`, `uses_failure` and `overhead_twice` say what it does on purpose, so that a check stays silent; `skill`
    is how much teaching it may ask whatever the level; a week of tests (`is_test`) keeps its sets whatever the dose.
    `asks` are its entry conditions, `asks_months` the months of lifting among them.
    """

    key: str
    name: str
    days: tuple[int, ...]
    drafts: Callable[[WeekFacts], Sequence[DayDraft]]
    how: str
    good_for: str
    weakness: str
    sports: tuple[str, ...] = ()
    is_sequence: bool = False
    allows_daily_lifts: bool = False
    uses_failure: bool = False
    overhead_twice: bool = False
    skill: int = 0
    is_test: bool = False
    asks: str = ""
    asks_months: int = 0

    def not_met(self, training_age_years: float) -> str:
        """Return what somebody with so many years of lifting still lacks of what it asks, empty where nothing is known to."""
        months = int(MONTHS * training_age_years)
        if months >= self.asks_months:
            return ""
        return f"{months} of {self.asks_months} months of lifting"


def settled(day: DayDraft, facts: WeekFacts, on: date) -> tuple[tuple[PlannedLine, ...], tuple[str, ...]]:
    """Return the lines of a day that this athlete can do here, and in words what is left out because nothing stands in.

    `on` is the day it falls on: near the competition loads are held to what the last days allow.
    """
    days_out = facts.week.days_out(on)
    used: set[str] = set()
    ids: list[str] = []
    found: list[PlannedLine] = []
    left_out: list[str] = []
    for draft in day.drafts:
        line = _line(draft, facts, used) if draft.sets != 0 else None
        ids.append(_id_of(draft, line, ids))  # also of a line that is left out, so that the others keep theirs
        if line is not None:
            used.add(line.exercise_id)
            line = changed(line, line_id=ids[-1])
            if draft.is_exposure:
                found.append(line)
                continue
            kept, words = after_the_last(line, facts.contest.limits_on(on))
            left_out += words
            if kept is not None:
                found.append(held_back(kept, days_out))
        elif draft.sets == 0:
            name = exercise(draft.exercise_id).name if draft.exercise_id else draft.reason
            left_out.append(f"{name} (the week leaves no main set for it)")
        elif draft.exercise_id:
            wanted = exercise(draft.exercise_id)
            left_out.append(f"{wanted.name} ({facts.limits.why_not(wanted)})")
        else:
            left_out.append(f"{draft.reason}: {why_none(draft.role, facts.limits)}")
    together = Counter(line.block for line in found)
    lines = tuple(x if together[x.block] >= GROUPINGS[x.style.grouping].least else changed(x, style=STRAIGHT) for x in found)
    return lines, tuple(left_out)


def _id_of(draft: Draft, line: PlannedLine | None, taken: Sequence[str]) -> str:
    if draft.role:
        role = role_of(draft.block, None, is_main=draft.is_main) if line is None else line.role
        return line_id(role, draft.role, taken)
    wanted = exercise(draft.exercise_id)
    return line_id(role_of(draft.block, wanted, is_main=draft.is_main), wanted.pattern, taken)


def _turn(draft: Draft, facts: WeekFacts) -> int:
    """How often the exercise of a role has changed by now."""
    if draft.weekly:
        return facts.week.index
    if draft.by_phase:
        return max(0, facts.week.index - facts.week.week_of_phase + 1)
    return facts.week.index // WEEKS_BETWEEN_CHANGES


def _line(draft: Draft, facts: WeekFacts, used: set[str]) -> PlannedLine | None:
    prescription = draft.written
    reason = draft.reason
    if draft.role:
        turn = _turn(draft, facts)
        forward = facts.wishes.points if facts.wishes is not NO_WISHES and not (draft.weekly and turn % 2) else None
        chosen = pick(draft.role, facts.limits, turn + draft.salt, facts.faults, frozenset(used), draft.for_fault, forward)
        if chosen is None:
            return None
        spoken = facts.wishes.words(exercise(chosen))
        if spoken:
            reason = "; ".join((reason, *spoken))
        elif draft.weekly:
            reason += f"; {_combination(draft, facts, turn)}"
        return PlannedLine(
            draft.slot,
            draft.block,
            chosen,
            _fitted(draft.text, draft.sets, draft.build, exercise(chosen), None),
            reason,
            draft.is_main,
            "",
            draft.style,
            note=variant_of(draft, turn + draft.salt, len(pool(draft.role, facts.limits))),
            role=role_of(draft.block, exercise(chosen), is_main=draft.is_main),
            wish=facts.wishes.wish_for(exercise(chosen)) if spoken else "",
        )
    wanted = exercise(draft.exercise_id)
    why_not = facts.limits.why_not(wanted)
    if not why_not:
        role = role_of(draft.block, wanted, is_main=draft.is_main)
        return PlannedLine(
            draft.slot, draft.block, wanted.id, prescription, reason, draft.is_main, "", draft.style, role=role, wish=draft.wish
        )  # fmt: skip
    stand_in = next((s for s in substitutes(wanted.id, facts.limits, (), facts.faults) if s.exercise_id not in used), None)
    if stand_in is None:
        return None
    lift = exercise(stand_in.exercise_id)
    words = f"substitute for {wanted.name.lower()} ({why_not}): {stand_in.reason}"
    return PlannedLine(
        draft.slot,
        draft.block,
        lift.id,
        _fitted(draft.text, draft.sets, draft.build, lift, wanted),
        words,
        draft.is_main,
        wanted.name,
        draft.style,
        role=role_of(draft.block, lift, is_main=draft.is_main),
    )


def _combination(draft: Draft, facts: WeekFacts, turn: int) -> str:
    """Which of the combinations of lift and small change that the room allows it is, in words."""
    total = len(pool(draft.role, facts.limits)) * max(1, len(draft.variants))
    return f"another variation each week, {(turn + draft.salt) % total + 1} of {total} that the room allows"


def variant_of(draft: Draft, turn: int, exercises_of_role: int) -> str:
    """Return the small change of the lift this time: each round of the pool takes the next, so that combinations last longest."""
    return draft.variants[turn // max(1, exercises_of_role) % len(draft.variants)] if draft.variants else ""


def after_the_last(line: PlannedLine, limits: Sequence[EventLimit]) -> tuple[PlannedLine | None, list[str]]:
    """Return a line as it may be after the last heavy session of its event, or None with words where it falls away."""
    lift = exercise(line.exercise_id)
    for limit in limits:
        if not limit.covers(lift):
            continue
        if limit.most_pct <= 0:
            return None, [f"{lift.name} ({limit.words} after the last heavy session for {limit.event})"]
        groups = tuple(
            replace(g, load=g.load.capped(limit.most_pct)) if g.load is not None else g for g in line.prescription.groups
        )
        if groups != line.prescription.groups:
            reason = f"{line.reason}; held to {limit.most_pct:g} %: after the last heavy session for {limit.event}"
            line = replace(line, prescription=replace(line.prescription, groups=groups), reason=reason)
    return line, []


def held_back(line: PlannedLine, days_out: int) -> PlannedLine:
    """Return a main strength or weightlifting line with no share above what the last days before the day allow."""
    lift = exercise(line.exercise_id)
    if lift.kind not in ("strength", "classic") or lift.region == "upper":
        return line
    most = cap_pct(days_out, lift.id == "front_squat")
    groups = tuple(replace(g, load=g.load.capped(most)) if g.load is not None else g for g in line.prescription.groups)
    if groups == line.prescription.groups:
        return line
    reason = f"{line.reason}; held to {most:g} %: {counted(days_out, 'day')} before the competition"
    return replace(line, prescription=replace(line.prescription, groups=groups), reason=reason)


WEEKS_BETWEEN_CHANGES = 3  # [C] a variation stays so long before the next one takes its turn
# the last days before a competition, common practice: (days out, most % of the max)
LAST_DAYS = ((2, 60.0), (5, 80.0), (10, 88.0))
FRONT_SQUAT_PCT = 80.0  # [C] limit front squats end more than ten days out; singles around 80 % are fine


def cap_pct(days_out: int, is_front_squat: bool = False) -> float:
    """Return the most that may be lifted so many days before the competition, in % of the max."""
    for days, pct in LAST_DAYS:
        if days_out <= days:
            return min(pct, FRONT_SQUAT_PCT) if is_front_squat else pct
    return 100.0
