"""A week from its arrangement: which sessions, on which days, with which lines, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date

from jarvok.core.library.substitutes import Limits
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.model import PhaseKey, SeasonPlan, SeasonWeek
from jarvok.core.session.planned import PlannedSession
from jarvok.core.week.arrangements import week_arrangement
from jarvok.core.week.placement import PlacedDay, Practice, place_by_matches, place_loads, place_sessions
from jarvok.core.week.plan import DayDraft, Level, WeekArrangement, WeekFacts, settled

LIGHTER = {"high": "middle", "middle": "low", "low": "low"}  # how hard a day is meant in an easier week or a taper
FREE_PLACEMENT = ("two_days",)  # laid around practice alone, both days hard
MOVED_HERE = "moved here by you"


def arranged_week(key: str, facts: WeekFacts) -> tuple[PlannedSession, ...]:
    """Return the week's sessions in order of days.

    The arrangement takes the number of days it knows that is nearest to `facts.days`. In a week of matches the days are
    counted from them, and there are two sessions at most. `facts.moved` gives a session another day of the week.
    Raises `CoachError` for an unknown arrangement.
    """
    arrangement = week_arrangement(key)
    facts = replace(facts, days=nearest_days(arrangement, facts.days))
    if arrangement.skill > facts.limits.skill:
        facts = replace(facts, limits=replace(facts.limits, skill=arrangement.skill))
    in_matches = facts.week.phase is PhaseKey.IN_SEASON and bool(facts.week.match_days)
    if in_matches and facts.days > 2:
        smaller = [d for d in arrangement.days if d <= 2]
        if not smaller:
            arrangement = week_arrangement("in_season")
        facts = replace(facts, days=max(smaller, default=2))
    drafts = list(arrangement.drafts(facts))
    placed = _placed(arrangement, facts, drafts, in_matches)
    days = {d.key: facts.moved.get(d.key, p.day) for p, d in zip(placed, drafts, strict=False)}
    drafts = list(arrangement.drafts(replace(facts, placed=days)))
    found: list[PlannedSession] = []
    for place, draft in zip(placed, drafts, strict=False):
        day = days[draft.key]
        reason = place.reason if draft.key not in facts.moved else MOVED_HERE
        lines, left_out = settled(draft, facts, day)
        load = LIGHTER[draft.load] if facts.week.is_light else draft.load
        found.append(PlannedSession(draft.key, day, draft.theme, reason, lines, load, left_out=left_out))
    return tuple(sorted(found, key=lambda s: (s.day, s.key)))


def nearest_days(arrangement: WeekArrangement, wanted: int) -> int:
    """Return the number of sessions an arrangement knows that is nearest to the wanted, the fewer of two."""
    return min(arrangement.days, key=lambda d: (abs(d - wanted), d))


def _placed(
    arrangement: WeekArrangement, facts: WeekFacts, drafts: Sequence[DayDraft], in_matches: bool
) -> tuple[PlacedDay, ...]:
    week, out = facts.week, arrangement.last_session_days_out
    if in_matches:
        return place_by_matches(week.start, week.match_days, week.competition_day, facts.played_share)
    if arrangement.key in FREE_PLACEMENT:
        return place_sessions(week.start, facts.practices, len(drafts), week.competition_day, out, facts.rules)
    return place_loads(week.start, [d.load for d in drafts], facts.practices, week.competition_day, out, facts.rules)


def plan_week(
    season: SeasonPlan,
    week: SeasonWeek,
    practices: Sequence[Practice],
    restricted: frozenset[str] = frozenset(),
    moved: Mapping[str, date] | None = None,
    rules: Rules = DEFAULT_RULES,
    played_share: float = 1.0,
) -> tuple[PlannedSession, ...]:
    """Return a week of two days around practice in a furnished room; `restricted` names tags that are off."""
    limits = Limits(restricted)
    facts = WeekFacts(
        season,
        week,
        practices,
        limits,
        2,
        Level.ADVANCED,
        moved=moved or {},
        played_share=played_share,
        rules=rules,
    )
    return arranged_week("two_days", facts)
