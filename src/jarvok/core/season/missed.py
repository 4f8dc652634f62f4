"""Missed and moved work: what a coach may do with a missed session, and how to come back after a break."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from jarvok.core.working import COMMON_PRACTICE, Source

REPEAT_FROM_DAYS = 8  # more than 7-10 days away: the week is repeated, common practice
RAMP_FROM_DAYS = 22  # more than three weeks away: ramp from a reduced max, common practice
REDUCED_MAX_PCT = 90.0  # common practice [C/J]


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
    near = competition_day is not None and (competition_day - today).days <= 7
    free = None if is_light_week or near else _free_day(today, coming, week_end)
    following = next((d for d in sorted(coming) if d >= today), None)
    found: list[MissedOption] = []
    if free is not None:
        found.append(MissedOption(Choice.MOVE, f"Move it to {free:%A}: a day lies between it and the others.", free, True))
    if following is not None and not is_light_week and not near:
        words = f"Add its main lift to {following:%A}, nothing else of it."
        found.append(MissedOption(Choice.MERGE, words, following, not found))
    reason = "it is an easy week" if is_light_week else "the competition is near" if near else "never cram"
    found.append(MissedOption(Choice.SKIP, f"Leave it out: {reason}.", None, not found))
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


def after_break(last_session: date, today: date) -> Return | None:
    """Return what a break asks for, or None when it was too short to matter.

    More than 7 to 10 days: the week before is repeated. More than three weeks: ramp again from a reduced max.
    """
    away = (today - last_session).days
    if away >= RAMP_FROM_DAYS:
        return Return(
            away,
            1,
            REDUCED_MAX_PCT,
            f"{away} days away: ramp again from {REDUCED_MAX_PCT:g} % of the max, and repeat the last week.",
        )
    if away >= REPEAT_FROM_DAYS:
        return Return(away, 1, 100.0, f"{away} days away: repeat the last week before going on.")
    return None
