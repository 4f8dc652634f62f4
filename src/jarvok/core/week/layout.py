"""A full week laid over its days: which sessions the week model holds for full work, on which days, before any dose."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property, lru_cache
from math import ceil

from jarvok.core.frozen import changed
from jarvok.core.library.exercises import exercise
from jarvok.core.season.blocks import TEST_ID
from jarvok.core.season.model import PhaseKey, SeasonPlan, SeasonWeek
from jarvok.core.session.roles import PREPARE_NAME
from jarvok.core.week.arrangements import week_arrangement
from jarvok.core.week.arrangements.in_season import fast_day
from jarvok.core.week.contest_work import (
    BLOCK,
    PULL_ROLES,
    ContestWork,
    EventLimit,
    exercises_of,
    exposure_reason,
    exposure_text,
)
from jarvok.core.week.placement import PlacedDay, place_by_matches, place_loads, place_sessions
from jarvok.core.week.plan import DayDraft, Draft, Level, WeekArrangement, WeekFacts
from jarvok.core.working import COMMON_PRACTICE, Working

MOVED_FOR_CONTEST = "moved for the last heavy session of an event"
TEST_WEEK = "test_week"
FREE_PLACEMENT = ("two_days",)  # laid around practice alone, both days hard
FULL_PCT = 80.0  # [J] the intensity of the full base week that a dose is a share of
FEW = 1e-9  # [T] below any share of a session
ANY_MONDAY = date(2001, 1, 1)  # [T]
FAR_OFF = timedelta(days=365)  # [T] no competition near


@dataclass(frozen=True)
class LaidSession:
    """A session of full work on its day: its draft, why it lies there, and how much of a full session the day holds (0-1)."""

    draft: DayDraft
    day: date
    reason: str
    share: float

    @cached_property
    def full_sets(self) -> int:
        """Its main sets in full work."""
        return sum(line.full_sets for line in self.main_lines)

    @cached_property
    def main_lines(self) -> tuple[Draft, ...]:
        """Its lines of main sets, those a dose is made of."""
        return tuple(d for d in self.draft.drafts if d.counts)

    @cached_property
    def fixed_sets(self) -> int:
        """Main sets of its lines that say their sets themselves."""
        return sum(d.full_sets for d in self.main_lines if d.is_fixed)


@dataclass(frozen=True)
class Layout:
    """A week of full work: its model with the number of days it takes, and its sessions on their proposed days.

    `full_days` are the sessions of a full week, which a dose is a share of; `facts.days` those that the days of this week leave.
    """

    arrangement: WeekArrangement
    facts: WeekFacts
    sessions: tuple[LaidSession, ...]
    full_days: int


def full_sets_of(draft: DayDraft) -> int:
    """Main sets of a day as it is drafted."""
    return sum(d.full_sets for d in draft.drafts if d.counts)


def lay_out(key: str, facts: WeekFacts) -> Layout:
    """Return the full week on its days. The model takes the number of sessions it knows that is nearest to the wanted.

    In a week of matches the days are counted from them, and there are two sessions at most. Raises `CoachError` for an
    unknown week model.
    """
    arrangement = week_arrangement(TEST_WEEK if facts.week.phase_id == TEST_ID else key)
    facts = changed(facts, days=nearest_days(arrangement, facts.days))
    in_matches = facts.week.phase is PhaseKey.IN_SEASON and bool(facts.week.match_days)
    if in_matches and facts.days > 2:
        smaller = [d for d in arrangement.days if d <= 2]
        if not smaller:
            arrangement = week_arrangement("in_season")
        facts = changed(facts, days=max(smaller, default=2))
    if arrangement.skill > facts.limits.skill:
        facts = changed(facts, limits=changed(facts.limits, skill=arrangement.skill))
    full = changed(facts, week=changed(facts.week, volume=1.0))
    drafts, reads_days = _drafts_before_days(arrangement, full)
    drafts = drafts[: _kept(facts)]
    placed = _placed(arrangement, facts, drafts, in_matches)
    full_days = facts.days
    fewer = _joined_days(arrangement, facts, len(placed)) if len(placed) < len(drafts) else 0
    if fewer:  # days join rather than that the last one is lost
        facts, full = changed(facts, days=fewer), changed(full, days=fewer)
        drafts, reads_days = _drafts_before_days(arrangement, full)
        placed = _placed(arrangement, facts, drafts, in_matches)
    moves = {key: day for (monday, key), day in facts.contest.moves.items() if monday == facts.week.start}
    days = {d.key: facts.moved.get(d.key, moves.get(d.key, p.day)) for p, d in zip(placed, drafts, strict=False)}
    if reads_days:
        drafts = list(arrangement.drafts(changed(full, placed=days)))
    drafts = _by_kind(drafts, placed, full)
    laid = [
        LaidSession(d, moves.get(d.key, p.day), MOVED_FOR_CONTEST if d.key in moves else p.reason, p.share)
        for p, d in zip(placed, drafts, strict=False)
    ]
    if fewer and laid:
        joined = f"{laid[0].reason}; {full_days} sessions are joined into {fewer}: this week has no more days for them"
        laid[0] = changed(laid[0], reason=joined)
    return Layout(arrangement, facts, tuple(_with_contest(laid, facts)), full_days)


class _NoDayYet(Mapping[str, date]):
    """The days of sessions before they are placed: none. It notes whether any was asked for."""

    def __init__(self) -> None:
        self.was_asked = False

    def __getitem__(self, key: str) -> date:
        self.was_asked = True
        raise KeyError(key)

    def __iter__(self) -> Iterator[str]:
        self.was_asked = True
        return iter(())

    def __len__(self) -> int:
        self.was_asked = True
        return 0


def _drafts_before_days(arrangement: WeekArrangement, full: WeekFacts) -> tuple[list[DayDraft], bool]:
    """The drafts before their days are known, and whether they will be others then: whether the model asked for a day."""
    unplaced = _NoDayYet()
    drafts = list(arrangement.drafts(changed(full, placed=unplaced)))
    return drafts, unplaced.was_asked


def _joined_days(arrangement: WeekArrangement, facts: WeekFacts, usable: int) -> int:
    """The sessions of the smaller week that so many usable days hold, 0 where the model has none or a taper counts its own."""
    if facts.week.taper is not None or facts.week.phase is PhaseKey.TAPER:
        return 0
    return max((d for d in arrangement.days if d <= usable), default=0)


def _by_kind(drafts: Sequence[DayDraft], placed: Sequence[PlacedDay], facts: WeekFacts) -> list[DayDraft]:
    """The drafts in order of the days that take them; a fast day before a match takes the fast one, whatever the week model."""
    if not any(p.is_fast for p in placed):
        return list(drafts)
    heavy = iter(drafts)
    found: list[DayDraft] = []
    for p, draft in zip(placed, drafts, strict=False):
        if p.is_fast:
            found.append(changed(draft, theme="Short and fast", load="low", drafts=fast_day(facts)))
        else:
            content = next(heavy)
            found.append(changed(content, key=draft.key))
    return found


def _with_contest(laid: Sequence[LaidSession], facts: WeekFacts) -> list[LaidSession]:
    """The sessions with last heavy sessions of contests in them; a day that has none gets a session of its own."""
    week, contest = facts.week, facts.contest
    days = [week.start + timedelta(days=i) for i in range(7)]
    if not any(contest.on(d) or contest.limits_on(d) for d in days):
        return list(laid)
    found = [_with_lines(s, contest) for s in laid]
    alone = [d for d in days if contest.on(d) and d not in {s.day for s in laid}]
    for i, day in enumerate(alone):
        prepare = Draft("P1", PREPARE_NAME, "", "2 × 5", "ready for the last heavy session", role="mobility_hip")
        draft = DayDraft(f"H{i + 1}", "Last heavy session", "high", [prepare])  # no key of the coach's own sessions
        found.append(_with_lines(LaidSession(draft, day, "the last heavy session has this day", 1.0), contest))
    return sorted(found, key=lambda s: s.day)


def _with_lines(session: LaidSession, contest: ContestWork) -> LaidSession:
    """Its exposures stand before the main work, in place of a line of the same pattern; what is over falls away."""
    lines: list[Draft] = []
    for e in contest.on(session.day):
        for exercise_id in exercises_of(e):
            slot = f"H{len(lines) + 1}"
            lines.append(
                Draft(slot, BLOCK, exercise_id, exposure_text(e, exercise_id), exposure_reason(e), True, is_exposure=True)
            )
    limits = contest.limits_on(session.day)
    kept = [d for d in session.draft.drafts if not any(_falls_away(d, limit) for limit in limits)]
    for pattern in {exercise(x.exercise_id).pattern for x in lines}:
        double = next((d for d in kept if d.counts and d.exercise_id and exercise(d.exercise_id).pattern == pattern), None)
        kept = [d for d in kept if d is not double]
    warm_up = [d for d in kept if d.prepares]
    drafts = [*warm_up, *lines, *(d for d in kept if not d.prepares)]
    return changed(session, draft=changed(session.draft, drafts=drafts))


def _falls_away(draft: Draft, limit: EventLimit) -> bool:
    if limit.most_pct > 0:
        return False
    if draft.exercise_id:
        return limit.covers(exercise(draft.exercise_id))
    return limit.lift == "pull" and draft.role in PULL_ROLES


def nearest_days(arrangement: WeekArrangement, wanted: int) -> int:
    """Return the number of sessions an arrangement knows that is nearest to the wanted, the fewer of two."""
    return min(arrangement.days, key=lambda d: (abs(d - wanted), d))


def _kept(facts: WeekFacts) -> int:
    """Sessions a week keeps: none of no volume, and in a taper no fewer than the chosen frequency over all its weeks."""
    week = facts.week
    if week.volume <= 0:
        return 0
    if week.phase is not PhaseKey.TAPER or week.taper is None:
        return facts.days
    share = week.taper.style.frequency_pct / 100
    before = (week.week_of_phase - 1) * facts.days
    return ceil(share * (before + facts.days) - FEW) - ceil(share * before - FEW)


def _placed(
    arrangement: WeekArrangement, facts: WeekFacts, drafts: Sequence[DayDraft], in_matches: bool
) -> tuple[PlacedDay, ...]:
    week = facts.week
    out = week.last_session_days_out if week.has_competition else 0
    if in_matches:
        return place_by_matches(week.start, week.match_days, week.competition_day, facts.played_share, week.closed)
    if arrangement.key in FREE_PLACEMENT:
        return place_sessions(week.start, facts.practices, len(drafts), week.competition_day, out, facts.rules, week.closed)
    loads = [d.load for d in drafts]
    return place_loads(week.start, loads, facts.practices, week.competition_day, out, facts.rules, week.closed)


def full_week_sets(arrangement: WeekArrangement, facts: WeekFacts) -> int:
    """Main sets of the model's full base week: what a dose of 1.0 means."""
    bands = "bands" in facts.limits.kit.gear
    return _full_week_sets(arrangement.key, facts.days, facts.level, facts.may_max, facts.weakest, bands)


@lru_cache(maxsize=1024)
def _full_week_sets(key: str, days: int, level: Level, may_max: bool, weakest: str, _bands: bool) -> int:
    week = reference_week(ANY_MONDAY)
    facts = WeekFacts(_season_of(week), week, days=days, level=level, may_max=may_max, weakest=weakest)
    return sum(full_sets_of(d) for d in week_arrangement(key).drafts(facts))


def reference_week(monday: date) -> SeasonWeek:
    """The full base week, far from any competition."""
    return SeasonWeek(
        index=1,  # the first of a wave that is not the longest ramp
        start=monday,
        phase=PhaseKey.BASE,
        week_of_phase=2,
        weeks_in_phase=2,
        is_easy=False,
        volume=1.0,
        intensity_pct=FULL_PCT,
        progress=0.5,
        phase_id="base",
        phase_name="",
        competition="",
        competition_day=monday + FAR_OFF,
    )


def _season_of(week: SeasonWeek) -> SeasonPlan:
    return SeasonPlan(week.start, week.competition_day, (), (week,), (), (), Working("", "", COMMON_PRACTICE))
