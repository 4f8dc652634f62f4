"""A season planned backwards from its competitions, by any arrangement.

For each main competition: taper first, then the phases before it, as long as they need; the base gets what is left but
never less than its minimum without saying so, because the base decides how tall the rest can be.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.season.arrangement import Arrangement
from jarvok.core.season.arrangements.force_velocity import ARRANGEMENT as FORCE_VELOCITY
from jarvok.core.season.calendar import League, leagues_in
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.lengths import Stretch, block_stretch, season_stretch, stretch_to
from jarvok.core.season.model import (
    BlockWay,
    Phase,
    PhaseKey,
    Rank,
    SeasonNote,
    SeasonPlan,
    SeasonWeek,
    Target,
    TrainingBlock,
    monday_of,
    weeks_words,
)
from jarvok.core.season.residuals import residuals_for
from jarvok.core.season.weeks import weeks_of
from jarvok.core.working import Input, Working

LONGEST_WEEKS = 52  # [T]


def plan_season(
    today: date, competition_day: date, pinned_weeks: Mapping[str, int] | None = None, arrangement: Arrangement = FORCE_VELOCITY
) -> SeasonPlan:
    """Return the season from the current week to one competition. See `plan_year` for the errors."""
    target = Target("the competition", competition_day, pins=tuple((pinned_weeks or {}).items()))
    return plan_year(SeasonFacts(today, (target,), arrangement))


def plan_year(facts: SeasonFacts) -> SeasonPlan:
    """Return the whole season through its last main competition or last match.

    Raises `CoachError` without anything to plan for, for a first competition that is not ahead of `facts.start`, one more
    than 52 weeks after it or after the one before, or phase lengths that do not fit.
    """
    _check(facts)
    phases: list[Phase] = []
    weeks: list[SeasonWeek] = []
    notes: list[SeasonNote] = []
    for stretch in _stretches(facts):
        made = weeks_of(replace(stretch, follows=bool(weeks) and weeks[-1].has_competition), facts, len(weeks))
        first = len(weeks)
        notes += [_beside(note, first, len(made)) for note in stretch.notes]
        phases += stretch.phases
        weeks += made
    notes += _other_competitions(facts, weeks)
    anchor = facts.mains[0].day if facts.mains else facts.matches[0] if facts.matches else facts.blocks[0].day
    return SeasonPlan(
        start=weeks[0].start,
        competition_day=anchor,
        phases=tuple(phases),
        weeks=tuple(weeks),
        notes=tuple(notes),
        residuals=residuals_for(tuple(weeks), anchor, facts.arrangement, facts.rules),
        working=_working(facts, phases, weeks, notes),
        targets=tuple(sorted(facts.targets, key=lambda t: t.day)),
        arrangement=facts.arrangement.key,
        spans=facts.spans,
        planned_on=facts.start,
    )


def _check(facts: SeasonFacts) -> None:
    leagues = leagues_in([m for m in facts.matches if m > facts.start])
    ahead = [t.day for t in facts.mains] or [x.day for x in leagues] or [t.day for t in facts.blocks]
    if not ahead:
        raise CoachError(
            "There is no competition to plan for.",
            where="day",
            accepted="A main competition, three matches of a league, or a block of weeks.",
        )
    if ahead[0] <= facts.start:
        raise CoachError(
            f"{said_day(ahead[0], year=True, is_long=True)} is not ahead of {said_day(facts.start, year=True, is_long=True)}.",
            where="day",
            accepted="A competition from tomorrow on can be planned for.",
        )
    for before, day in pairwise([facts.start, *ahead]):
        total = (monday_of(day) - monday_of(before)).days // 7 + 1
        if total > LONGEST_WEEKS:
            raise CoachError(
                f"{said_day(day, year=True, is_long=True)} is {weeks_words(total)} away.",
                where="day",
                accepted=f"Up to {LONGEST_WEEKS} weeks to the next can be built backwards; add nearer competitions first.",
            )


def _stretches(facts: SeasonFacts) -> list[Stretch]:
    """Divide the time among the main competitions and the leagues, in order."""
    found: list[Stretch] = []
    at = monday_of(facts.start)
    anchors: list[Target | League] = [*facts.mains, *facts.blocks, *leagues_in([m for m in facts.matches if m > facts.start])]
    for anchor in sorted(anchors, key=lambda a: a.day):
        if isinstance(anchor, League):
            first_monday = monday_of(anchor.day)
            if first_monday > at:
                opening = Target("First match", anchor.day)
                to_the_first = stretch_to(opening, at, facts, is_first=not found)
                found.append(replace(to_the_first, matches=anchor.matches))  # more of them may lie in its week
                at = _after(opening)
            if monday_of(anchor.end) >= at:
                found += season_stretch(anchor, at, facts)
                at = monday_of(anchor.end) + timedelta(days=7)
        elif monday_of(anchor.day) >= at and anchor.block is not None:
            if anchor.block.starts is not None and anchor.block.starts > at:
                found.append(block_stretch(_weeks_before(anchor, anchor.block.starts, facts), at, facts))
                at = anchor.block.starts
            found.append(block_stretch(anchor, at, facts))
            at = _after(anchor)
        elif monday_of(anchor.day) >= at:
            found.append(stretch_to(anchor, at, facts, is_first=not found))
            at = _after(anchor)
    return found


def _weeks_before(block: Target, starts: date, facts: SeasonFacts) -> Target:
    """The weeks up to a block: of the season that runs to a competition, else with nothing planned in them."""
    way = BlockWay.MODEL if any(t.day > block.day for t in facts.mains) else BlockWay.OPEN
    return Target(f"Before {block.name}", starts - timedelta(days=1), Rank.BLOCK, block=TrainingBlock(way))


def _after(target: Target) -> date:
    """The Monday after a competition's last day."""
    return monday_of(target.end) + timedelta(days=7)


def _beside(note: SeasonNote, first_week: int, count: int) -> SeasonNote:
    if note.week is None:
        return note
    return SeasonNote(note.id, note.title, note.text, note.source, note.decision, first_week + min(note.week, count - 1))


def _other_competitions(facts: SeasonFacts, weeks: Sequence[SeasonWeek]) -> list[SeasonNote]:
    said: list[SeasonNote] = []
    starts = {w.start: w for w in weeks}
    ids = [t.name for t in facts.mains]
    for target in facts.targets:
        week = starts.get(monday_of(target.day))
        if week is None or target.block is not None:
            continue
        if target.rank is Rank.MAYBE:
            text = "Nothing is planned for it until it is sure: make it main, secondary or train through then."
            said.append(
                SeasonNote(f"maybe-{target.name}", f"{target.name} is a maybe.", text, "common practice", week=week.index)
            )
        elif target.rank is Rank.SECONDARY:
            text = (
                "It lies in the taper: no extra rest is placed."
                if week.phase is PhaseKey.TAPER
                else f"That week's volume is {facts.rules['season.secondary_volume_pct']:g} %; loads stay."
            )
            title = f"{target.name} is secondary."
            said.append(SeasonNote(f"secondary-{target.name}", title, text, "Jarvok's default", week=week.index))
        elif target.rank is Rank.THROUGH:
            text = "Nothing is changed for it; it counts as a hard day."
            title = f"{target.name} is trained through."
            said.append(SeasonNote(f"through-{target.name}", title, text, "common practice", week=week.index))
        elif ids.index(target.name) and week.competition != target.name:
            said.append(
                SeasonNote(
                    f"together-{target.name}",
                    f"{target.name} shares a peak.",
                    f"It falls in the week of {week.competition}: one taper serves both.",
                    "common practice",
                    decision=True,
                    week=week.index,
                )
            )
    return said


def _working(facts: SeasonFacts, phases: Sequence[Phase], weeks: Sequence[SeasonWeek], notes: Sequence[SeasonNote]) -> Working:
    style = facts.arrangement
    last = max(phases[-1].end, facts.mains[-1].end) if facts.mains else phases[-1].end
    several = len(facts.mains) > 1
    return Working(
        result=f"{weeks_words(len(weeks))} to {said_day(last, year=True, is_long=True)}",
        rule=style.how,
        source=style.source,
        inputs=tuple(
            Input(
                f"{p.name} → {p.toward}" if several else p.name,
                f"{weeks_words(p.weeks)}{', set by you' if p.pinned else ''}",
            )
            for p in phases
        ),
        rounding="whole weeks from Monday to Sunday; the taper ends on the day",
        missing=tuple(note.title for note in notes if note.id.startswith(("given-up", "short-base"))),
        caution=f"Good for: {style.good_for} Weak: {style.weakness}",
    )
