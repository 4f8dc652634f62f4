"""Rests between sets by the goal of the work. Haff & Triplett 2016, quoted from memory."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.working import Source

SOURCE = Source("P", "Haff & Triplett 2016")


@dataclass(frozen=True)
class RestRow:
    """The rest of one goal in s: least and most."""

    goal: str
    least_s: int
    most_s: int

    @property
    def words(self) -> str:
        """The row as a coach says it."""
        if self.least_s >= 60:
            return f"{self.goal}: {self.least_s // 60}–{self.most_s // 60} min"
        return f"{self.goal}: {self.least_s}–{self.most_s} s" if self.least_s else f"{self.goal}: up to {self.most_s} s"


RESTS = {
    row.goal: row
    for row in (RestRow("power", 120, 300), RestRow("strength", 120, 300), RestRow("size", 30, 90), RestRow("endurance", 0, 30))
}
BETWEEN_JUMP_SETS = RestRow("sets of jumps", 120, 180)
