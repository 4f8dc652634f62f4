"""Missed and moved work: what a coach may do with a missed session, and how to come back after a break."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from itertools import pairwise

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Source

REPEAT_FROM_DAYS = 8  # more than 7-10 days away: the week is repeated, common practice
RAMP_FROM_DAYS = 22  # more than three weeks away: ramp from a reduced max, common practice
RAMP_BACK_DAYS = 21  # [J] so long the max takes from reduced to whole once training has begun again


class Choice(StrEnum):
    """What may be done with a missed session."""

    MOVE = "move"
    MERGE = "merge"
    SKIP = "skip"
    CONTINUE = "continue"


@dataclass(frozen=True)
class MissedOption:
    """One way on: what it does in words, the day it lands on if any, and whether it is the proposal."""

    choice: Choice
    words: str
    day: date | None
    is_proposed: bool


def options_for(
    missed: date,
    today: date,
    coming: Sequence[date],
    week_end: date,
    *,
    is_sequence: bool,
    is_light_week: bool = False,
    competition_day: date | None = None,
) -> tuple[MissedOption, ...]:
    """Return the ways on after a session of a day was missed, the proposal first marked.

    Plans done in order simply continue. Weekday plans offer a free day of the week with a day between hard sessions, the
    main lift merged into the next session, or to skip. Nothing is crammed: not in light weeks, not in the last week.
    """
    if is_sequence:
        nearest = next((d for d in sorted(coming) if d >= today), None)
        words = "It is done next; the rest shifts by one." if nearest else "It is done next time."
        return (MissedOption(Choice.CONTINUE, words, nearest, True),)
    near = competition_day is not None and (competition_day - today) <= timedelta(days=7)
    free = None if is_light_week or near else _free_day(today, coming, week_end)
    following = next((d for d in sorted(coming) if d >= today), None)
    found: list[MissedOption] = []
    if free is not None:
        found.append(MissedOption(Choice.MOVE, f"Move it to {free:%A}: a day lies between it and the others.", free, True))
    if following is not None and not is_light_week and not near:
        words = f"Add its main lift to {following:%A}, nothing else of it."
        found.append(MissedOption(Choice.MERGE, words, following, not found))
    reason = "it is a deload week" if is_light_week else "the competition is near" if near else "never cram"
    found.append(MissedOption(Choice.SKIP, f"Skip it: {reason}.", None, not found))
    return tuple(found)


def _free_day(today: date, coming: Sequence[date], week_end: date) -> date | None:
    for i in range((week_end - today).days + 1):
        day = today + timedelta(days=i)
        if all(abs((day - other).days) >= 2 for other in coming):
            return day
    return None


@dataclass(frozen=True)
class Return:
    """How to come back after a break: what to do in words, weeks to repeat, share of the max to start from in %."""

    days_away: int
    repeat_weeks: int
    max_pct: float
    words: str
    source: Source = COMMON_PRACTICE


def return_pct(session_days: Sequence[date], today: date, rules: Rules = DEFAULT_RULES) -> float:
    """Return the share of the max to plan from in %: reduced after more than three weeks away, whole again three weeks on.

    `session_days` are days with training, in any order; without any nothing is known and the max is whole.
    """
    days = sorted({d for d in session_days if d <= today})
    if not days:
        return 100.0
    reduced = rules["max.return_pct"]
    if (today - days[-1]).days >= RAMP_FROM_DAYS:
        return reduced
    back = next((b for a, b in reversed(list(pairwise(days))) if (b - a).days >= RAMP_FROM_DAYS), None)
    if back is None:
        return 100.0
    return min(100.0, reduced + (100 - reduced) * (today - back).days / RAMP_BACK_DAYS)


def after_break(last_session: date, today: date, rules: Rules = DEFAULT_RULES) -> Return | None:
    """Return what a break asks for, or None when it was too short to matter.

    More than 7 to 10 days: the week before is repeated. More than three weeks: ramp again from a reduced max.
    """
    away, pct = (today - last_session).days, rules["max.return_pct"]
    if away >= RAMP_FROM_DAYS:
        return Return(
            away,
            1,
            pct,
            f"{away} days away: ramp again from {pct:g} % of the max, and repeat the last week.",
        )
    if away >= REPEAT_FROM_DAYS:
        return Return(away, 1, 100.0, f"{away} days away: repeat the last week before going on.")
    return None
