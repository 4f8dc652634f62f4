"""A week from its arrangement: which sessions, on which days, with which lines, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date
from functools import lru_cache

from jarvok.core.chooser.wishes import NO_WISHES
from jarvok.core.library.substitutes import Limits
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.model import SeasonPlan, SeasonWeek
from jarvok.core.session.planned import PlannedSession
from jarvok.core.week.choosing import chosen, varied
from jarvok.core.week.hour import within
from jarvok.core.week.placement import Practice
from jarvok.core.week.plan import Level, WeekFacts, settled
from jarvok.core.week.same_facts import Asked
from jarvok.core.week.spending import forget_spent, spend_week

LIGHTER = {"high": "middle", "middle": "low", "low": "low"}  # how hard a day is meant in an easier week or a taper
MOVED_HERE = "moved here by you"


def arranged_week(key: str, facts: WeekFacts) -> tuple[PlannedSession, ...]:
    """Return the week's sessions in order of days, holding the dose the season gives the week.

    The model takes the number of days it knows that is nearest to `facts.days`. In a week of matches the days are
    counted from them, and there are two sessions at most. `facts.moved` gives a session another day of the week.
    What is worked out for some facts is kept for a while. Raises `CoachError` for an unknown week model.
    """
    return _arranged(Asked(key, facts))


def forget_weeks() -> None:
    """Forget what was kept: for tests that change how weeks are made."""
    _arranged.cache_clear()
    forget_spent()


@lru_cache(maxsize=1024)
def _arranged(asked: Asked) -> tuple[PlannedSession, ...]:
    key, facts = asked.model, asked.facts
    spent = spend_week(key, facts)
    facts = spent.layout.facts
    if spent.layout.arrangement.is_test:
        facts = replace(facts, wishes=NO_WISHES)  # a test week is the same for all
    found: list[PlannedSession] = []
    drafts, has_variation = varied([replace(s.laid.draft, drafts=s.drafts) for s in spent.sessions], facts)
    for session, draft in zip(spent.sessions, drafts, strict=True):
        day = facts.moved.get(draft.key, session.laid.day)
        reason = session.laid.reason if draft.key not in facts.moved else MOVED_HERE
        lines, left_out = settled(draft, facts.on(day), day)
        if session.held:
            many = "a main set" if session.held == 1 else f"{session.held} main sets"
            left_out = (*left_out, f"{many} that would stand here ({facts.minutes} min hold no more)")
        load = LIGHTER[draft.load] if facts.week.is_light else draft.load
        found.append(PlannedSession(draft.key, day, draft.theme, reason, lines, load, left_out=left_out))
    whole = chosen(sorted(found, key=lambda s: (s.day, s.key)), facts, has_variation)
    return tuple(within(s, facts.minutes, facts.rules) for s in whole)


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
