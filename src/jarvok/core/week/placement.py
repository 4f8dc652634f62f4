"""Which days of a week take the strength sessions, around sport practice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from itertools import combinations, pairwise

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.match_days import in_season_week

MORNING_ENDS = 13  # [J] o'clock
# what a day costs, against the weight of practice, hardness times hours [J]
HARD_MORNING = 30
BEFORE_HARD = 4  # [J]
NEXT_DAY = 25  # [J]
ONE_DAY_BETWEEN = 3  # [J]
TOO_FAR_DAYS = 3  # [J]
SUNDAY = 6  # [T] as Python counts
SUNDAY_COST = 12  # [J] one day of the week stays free while others will do


@dataclass(frozen=True)
class Practice:
    """A recurring sport practice: weekday (Monday is 0), starting hour, minutes, hardness 1-10."""

    weekday: int
    hour: float
    minutes: int
    hardness: int

    @property
    def weight(self) -> float:
        """How much it takes out of the day: hardness times hours."""
        return self.hardness * self.minutes / 60


@dataclass(frozen=True)
class PlacedDay:
    """A day chosen for a session, with the reason in words; `share` is how much of a full session it holds (0-1).

    A fast day holds nothing heavy, whatever the week model.
    """

    day: date
    reason: str
    share: float = 1.0
    is_fast: bool = False


def day_weights(practices: Sequence[Practice]) -> tuple[float, ...]:
    """Return the weight of sport practice on each weekday, Monday first."""
    return tuple(sum(p.weight for p in practices if p.weekday == d) for d in range(7))


def place_sessions(
    week_start: date,
    practices: Sequence[Practice],
    count: int,
    competition_day: date,
    last_session_days_out: int = 2,
    rules: Rules = DEFAULT_RULES,
    closed: Sequence[date] = (),
) -> tuple[PlacedDay, ...]:
    """Return up to `count` days of the week that suit strength work best, in order.

    Days apart by two or more come first, then light practice days, then days not after a hard evening; hard practice
    in the morning rules a day out while others remain. Nothing is placed within `last_session_days_out` days of the
    competition, after it, or on a `closed` day.
    """
    usable = _usable(week_start, competition_day, last_session_days_out, closed)
    if not usable:
        return ()
    weights, best = day_weights(practices), _apart(usable, tuple(practices), count, rules["week.hard_practice"])
    hard_morning = _hard_mornings(practices, rules["week.hard_practice"])
    return tuple(PlacedDay(week_start + timedelta(days=d), _reason(d, practices, hard_morning, weights)) for d in best)


def _hard_mornings(practices: Sequence[Practice], hard: float) -> set[int]:
    return {p.weekday for p in practices if p.hardness >= hard and p.hour < MORNING_ENDS}


@lru_cache(maxsize=1024)
def _apart(usable: tuple[int, ...], practices: tuple[Practice, ...], count: int, hard: float) -> tuple[int, ...]:
    """Weekdays for sessions that are all hard."""
    weights = day_weights(practices)
    hard_morning, hard_day = _hard_mornings(practices, hard), {p.weekday for p in practices if p.hardness >= hard}

    def cost(days: tuple[int, ...]) -> float:
        gaps = [b - a for a, b in pairwise(days)]
        value = sum(weights[d] for d in days) + sum(HARD_MORNING for d in days if d in hard_morning)
        value += sum(BEFORE_HARD for d in days if (d + 1) % 7 in hard_day) + sum(SUNDAY_COST for d in days if d == SUNDAY)
        value += sum(NEXT_DAY for g in gaps if g < 2) + sum(ONE_DAY_BETWEEN for g in gaps if g == 2)
        return value

    return min(combinations(usable, min(count, len(usable))), key=lambda days: (cost(days), days))


def _usable(week_start: date, competition_day: date, last_session_days_out: int, closed: Sequence[date]) -> tuple[int, ...]:
    """Weekdays of a week that may hold a session."""
    days = [week_start + timedelta(days=d) for d in range(7)]
    return tuple(d for d, day in enumerate(days) if (competition_day - day).days >= last_session_days_out and day not in closed)


def place_by_matches(
    week_start: date,
    match_days: Sequence[date],
    last_day: date,
    played_share: float = 1.0,
    closed: Sequence[date] = (),
) -> tuple[PlacedDay, ...]:
    """Return the days of an in-season week that take a session, counted from its matches, up to the day before `last_day`.

    `played_share` is how much of a match the player usually plays (0-1).
    """
    return tuple(
        PlacedDay(d.day, f"{d.label or 'no match near'}: {d.holds}; {d.why}", d.session, d.is_fast)
        for d in in_season_week(week_start, match_days, played_share=played_share)
        if d.session > 0 and d.day < last_day and d.day not in closed
    )


def _reason(day: int, practices: Sequence[Practice], hard_morning: set[int], weights: tuple[float, ...]) -> str:
    here = [p for p in practices if p.weekday == day]
    if not here:
        return "no practice on this day"
    practice = max(here, key=lambda p: p.weight)
    when = "morning" if practice.hour < MORNING_ENDS else "evening"
    words = f"{when} practice, {practice.minutes} min, RPE {practice.hardness}"
    if day in hard_morning:
        return f"after hard {words}: no better day is free"
    lighter = sum(1 for w in weights if w < weights[day])
    return f"{words}" if lighter else f"the lightest practice day: {words}"


HIGH_NEXT_TO_HIGH = 25  # [J] against the weight of practice, hardness times hours


def place_loads(
    week_start: date,
    loads: Sequence[str],
    practices: Sequence[Practice],
    competition_day: date,
    last_session_days_out: int = 2,
    rules: Rules = DEFAULT_RULES,
    closed: Sequence[date] = (),
) -> tuple[PlacedDay, ...]:
    """Return a day for each of a week's sessions in their order, by how hard each is meant (high, middle, low).

    High days lie apart and away from hard mornings; low ones go where practice is hard. Where the competition leaves
    fewer days than sessions, the first sessions are placed; none on a `closed` day.
    """
    usable = _usable(week_start, competition_day, last_session_days_out, closed)
    count = min(len(loads), len(usable))
    if not count:
        return ()
    hard = rules["week.hard_practice"]
    weights, best = day_weights(practices), _by_load(usable, tuple(practices), tuple(loads[:count]), hard)
    hard_morning = _hard_mornings(practices, hard)
    return tuple(PlacedDay(week_start + timedelta(days=d), _reason(d, practices, hard_morning, weights)) for d in best)


DAY_FACTOR = {"high": 1.0, "middle": 0.6, "low": 0.2}  # [J] how much of the practice beside it a session minds


@lru_cache(maxsize=1024)
def _by_load(usable: tuple[int, ...], practices: tuple[Practice, ...], loads: tuple[str, ...], hard: float) -> tuple[int, ...]:
    """Weekdays for sessions in their order, each by how hard it is meant."""
    weights = day_weights(practices)
    hard_morning, hard_day = _hard_mornings(practices, hard), {p.weekday for p in practices if p.hardness >= hard}

    def cost(days: tuple[int, ...]) -> float:
        value: float = sum(SUNDAY_COST for d in days if d == SUNDAY)
        for d, load in zip(days, loads, strict=False):
            value += weights[d] * DAY_FACTOR[load]
            if load != "low":
                value += (HARD_MORNING if d in hard_morning else 0) + (BEFORE_HARD if (d + 1) % 7 in hard_day else 0)
        for (a, left), (b, right) in pairwise(zip(days, loads, strict=False)):
            if b - a < 2 and left == right == "high":
                value += HIGH_NEXT_TO_HIGH
            elif b - a < 2 and "high" in (left, right) and "low" not in (left, right):
                value += HIGH_NEXT_TO_HIGH / 3  # [J]
            elif b - a > TOO_FAR_DAYS:
                value += 2 * (b - a - TOO_FAR_DAYS)
        return value

    return min(combinations(usable, len(loads)), key=lambda days: (cost(days), days))
