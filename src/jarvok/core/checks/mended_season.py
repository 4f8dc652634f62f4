"""A season as it would be with a fix done, so that no fix is offered that another check refuses or that cannot be planned."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable
from dataclasses import replace
from datetime import date, timedelta

from jarvok.core.checks.flag import Fix, Flag
from jarvok.core.checks.season import SeasonView, season_flags
from jarvok.core.errors import CoachError
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import Rank, SeasonPlan, monday_of

Planned = Callable[[SeasonFacts], SeasonPlan | None]


def mended_season(view: SeasonView, facts: SeasonFacts, fix: Fix, planned: Planned) -> SeasonView | None:
    """Return the season with a fix done, planned anew from its facts; None where no season can be planned so."""
    values = fix.values
    match fix.kind:
        case "remove_added":
            monday = date.fromisoformat(str(values["monday"]))
            return replace(view, added={m: words for m, words in view.added.items() if m != monday})
        case "easy_week":
            facts = replace(facts, easy={**facts.easy, date.fromisoformat(str(values["monday"])): True})
        case "taper":
            facts = replace(facts, taper=None)
            view = replace(view, taper=None)
        case "rank":
            rank = Rank(str(values["rank"]))
            of = str(values["name"]), str(values["day"])
            facts = replace(
                facts, targets=tuple(replace(t, rank=rank) if (t.name, str(t.day)) == of else t for t in facts.targets)
            )
        case "unpin":
            off = str(values["toward"]), values["phase"]
            facts = replace(
                facts,
                targets=tuple(
                    replace(t, pins=tuple(p for p in t.pins if p[0] != off[1])) if t.name == off[0] else t for t in facts.targets
                ),
            )
        case "away":
            first, last = (date.fromisoformat(str(values[name])) for name in ("start", "end"))
            span = Span(SpanKind.AWAY, first, last, "Away")
            facts = replace(facts, spans=(*facts.spans, span))
            view = replace(view, spans=facts.spans)
        case _:
            raise ValueError(f"unknown fix of a season: {fix.kind}")
    try:
        plan = planned(facts)
    except CoachError:
        return None
    return None if plan is None else replace(view, plan=plan)


def offered_in_season(view: SeasonView, facts: SeasonFacts, planned: Planned) -> tuple[Flag, ...]:
    """Return every flag of a season, cautions first, without the fixes that cannot be planned or that would bring another check
    to speak; what a check says of weeks gone by is no reason against one.
    """
    found = season_flags(view)
    before = _spoken(view, found)
    kept: list[Flag] = []
    for flag in found:
        if flag.fix is not None:
            after = mended_season(view, facts, flag.fix, planned)
            if after is None or set(_spoken(after, season_flags(after)) - before) - {flag.check_id}:
                flag = replace(flag, fix=None)
        kept.append(flag)
    return tuple(kept)


def _spoken(view: SeasonView, flags: Iterable[Flag]) -> Counter[str]:
    gone = monday_of(view.today) - timedelta(days=1)
    weeks = {w.index: w for w in view.plan.weeks}
    return Counter(f.check_id for f in flags if f.week is None or f.week not in weeks or weeks[f.week].end > gone)
