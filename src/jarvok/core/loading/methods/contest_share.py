"""A share of the load of a competition: how implements and timed events are dosed, never by a 1RM."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from jarvok.core.loading.reader import NUMBER, Reader, number, share_pct
from jarvok.core.loading.rule import Example, LoadRule, by_effort, stepped_pct
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.mass import format_kg
from jarvok.core.working import COMMON_PRACTICE, Input

NO_CONTEST = "no competition ahead names a load for this: write it beside the event"


@dataclass(frozen=True)
class ContestShare(LoadRule):
    """`pct` per cent of the load the next competition asks for."""

    pct: float

    examples = (Example("3x20 m @ 80 % of competition", "a share of the load that the next competition asks for"),)

    @classmethod
    def begins(cls, reader: Reader) -> ContestShare | None:
        """Read 80 % of competition, of the contest load."""
        m = reader.take(rf"{NUMBER}\s*%\s*of\s+(?:the\s+)?(?:contest|competition)(?:\s+(?:load|weight))?\b")
        return ContestShare(share_pct(reader, number(m.group(1)), m.start(1))) if m else None

    def written(self) -> str:
        """Return the share."""
        return f" @ {self.pct:g} % of competition"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the share of the competition's load, else effort."""
        if state.contest is None:
            return by_effort(NO_CONTEST)
        name, load_kg = state.contest
        words = f"{self.pct:g} % of {format_kg(load_kg)} kg"
        return Offer(self.pct / 100 * load_kg, "share of competition", words, COMMON_PRACTICE, (Input("competition", name),))

    def capped(self, most_pct: float) -> Self:
        """Return the share, no higher than `most_pct`."""
        return type(self)(min(self.pct, most_pct))

    def step(self, by: int) -> ContestShare:
        """Return the share a step on."""
        return ContestShare(stepped_pct(self.pct, by))


RULES = (ContestShare,)
