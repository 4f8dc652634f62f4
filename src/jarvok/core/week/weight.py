"""How heavy a day is: practice and strength work on one scale, so that the shape of a week can be seen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.library.exercises import exercise
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.session.planned import PlannedSession
from jarvok.core.session.roles import BlockRole

HARD_KINDS = ("strength", "classic", "ballistic", "run", "jump", "throw")  # [C] sprints and jumps make a day high too


@dataclass(frozen=True)
class WeighedLine:
    """One line for the day's weight: the exercise's band and kind, sets, its role, kilograms moved."""

    cost: str
    kind: str
    sets: int
    role: BlockRole
    volume_kg: float


@dataclass(frozen=True)
class DayWeight:
    """A day's weight by practice and by session, its band in a word, hard sets and volume load in kg."""

    practice: float
    session: float
    band: str
    hard_sets: int
    volume_kg: float


def load_of(session: PlannedSession, rules: Rules = DEFAULT_RULES) -> str:
    """Return how hard a session is by what it holds, without practice: high, middle or low."""
    lines = [
        WeighedLine((lift := exercise(x.exercise_id)).cost, lift.kind, x.prescription.total_sets, x.role, 0.0)
        for x in session.lines
        if x.role is not BlockRole.PREPARE
    ]
    band = weigh_day(0.0, lines, rules).band
    return band if band in ("high", "middle") else "low"


def weigh_day(practice: float, lines: Sequence[WeighedLine], rules: Rules = DEFAULT_RULES) -> DayWeight:
    """Return how heavy a day is from practice (hardness times hours) and the session's lines.

    The band is high, middle, low or off. Some sets of high-cost main lifts (four by default) make a day high whatever else.
    """
    session = sum(rules[f"week.set_{line.cost}"] * line.sets for line in lines)
    hard = sum(line.sets for line in lines if line.role.counts)
    heavy = sum(line.sets for line in lines if line.role.counts and line.cost == "high" and line.kind in HARD_KINDS)
    total = practice + session
    if total >= rules["week.high_from"] or heavy >= rules["week.high_day_sets"]:
        band = "high"
    elif total >= rules["week.middle_from"]:
        band = "middle"
    else:
        band = "low" if total > 0 else "off"
    return DayWeight(practice, round(session, 2), band, hard, sum(line.volume_kg for line in lines))
