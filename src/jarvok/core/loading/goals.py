"""Share of the max and repetitions by the goal of a line, as named defaults. Haff & Triplett 2016, from memory."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.working import Source

SOURCE = Source("P", "Haff & Triplett 2016")
WITHOUT_GOAL = frozenset({"run", "carry", "hold", "conditioning", "drill"})


@dataclass(frozen=True)
class GoalRow:
    """A goal with its shares of the max in per cent, repetitions and sets, least and most, and a usual line inside them."""

    goal: str
    share_pct: tuple[float, float]
    reps: tuple[int, int]
    sets: tuple[int, int]
    usual: tuple[int, int, float]

    @property
    def words(self) -> str:
        """The row as a coach says it."""
        low, high = self.share_pct
        share = f"{low:g} % and more" if high >= 100 else f"up to {high:g} %" if low <= 0 else f"{low:g}–{high:g} %"
        reps = f"{self.reps[0]} and more" if self.reps[1] >= MANY else f"{self.reps[0]}–{self.reps[1]}"
        return f"{self.goal}: {share}, {reps} repetitions, {self.sets[0]}–{self.sets[1]} sets"


MANY = 30  # [T] no upper end
# [P] Haff & Triplett 2016, from memory; the usual line of each is Jarvok's default [J]
GOALS = {
    row.goal: row
    for row in (
        GoalRow("strength", (85, 100), (1, 6), (2, 6), (4, 5, 85)),
        GoalRow("power", (75, 90), (1, 5), (3, 5), (5, 3, 80)),
        GoalRow("size", (67, 85), (6, 12), (3, 6), (3, 10, 70)),
        GoalRow("endurance", (0, 67), (12, MANY), (2, 3), (2, 15, 60)),
    )
}


def goal_of(text: str) -> GoalRow | None:
    """Return the goal that a text names and nothing else: `strength`, `for size`."""
    return GOALS.get(text.strip().lower().removeprefix("for "))


def line_for(row: GoalRow, lift: Exercise) -> str:
    """Return the usual line of a goal for a lift, as it is typed. Raises `CoachError` for what is not done in repetitions."""
    if lift.kind in WITHOUT_GOAL:
        raise CoachError(f"{lift.name} has no goal of the kind.", where="text", accepted="Seconds, metres or minutes.")
    sets, reps, pct = row.usual
    sides = "/side" if lift.per_side else ""
    return f"{sets} × {reps}{sides}" + (f" @ {pct:g} %" if lift.is_loaded else "")
