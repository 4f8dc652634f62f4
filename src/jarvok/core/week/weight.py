"""How heavy a day is: practice and strength work on one scale, so that the shape of a week can be seen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

# [J] what one set of each same-day band adds, on the scale of practice (hardness 1-10 times hours)
SET_WEIGHT: dict[str, float] = {"high": 0.55, "middle": 0.35, "low": 0.18}
HIGH_FROM = 11.0  # [J] a hard practice of an hour and a half
MIDDLE_FROM = 6.0  # [J]
HARD_SETS_OF_A_HIGH_DAY = 4  # [J] sets of high-cost main lifts that make a day high by themselves
HARD_KINDS = ("strength", "classic", "ballistic")


@dataclass(frozen=True)
class WeighedLine:
    """One line for the day's weight: the exercise's band and kind, sets, whether it is a main line, kilograms moved."""

    cost: str
    kind: str
    sets: int
    is_main: bool
    volume_kg: float


@dataclass(frozen=True)
class DayWeight:
    """A day's weight by practice and by session, its band in a word, hard sets and volume load in kg."""

    practice: float
    session: float
    band: str
    hard_sets: int
    volume_kg: float


def weigh_day(practice: float, lines: Sequence[WeighedLine]) -> DayWeight:
    """Return how heavy a day is from practice (hardness times hours) and the session's lines.

    The band is high, middle, low or off. A day with four or more sets of high-cost main lifts is high whatever else.
    """
    session = sum(SET_WEIGHT[line.cost] * line.sets for line in lines)
    hard = sum(line.sets for line in lines if line.is_main and line.kind in HARD_KINDS)
    heavy = sum(line.sets for line in lines if line.is_main and line.cost == "high" and line.kind in HARD_KINDS)
    total = practice + session
    if total >= HIGH_FROM or heavy >= HARD_SETS_OF_A_HIGH_DAY:
        band = "high"
    elif total >= MIDDLE_FROM:
        band = "middle"
    else:
        band = "low" if total > 0 else "off"
    return DayWeight(practice, round(session, 2), band, hard, sum(line.volume_kg for line in lines))
