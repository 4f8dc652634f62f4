"""A percentage to start from, corrected on the floor."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.methods.reserve import Reserve, Rpe
from jarvok.core.loading.methods.velocity import VelocityTarget
from jarvok.core.loading.reader import Reader
from jarvok.core.loading.rule import Example, LoadRule, Target
from jarvok.core.loading.state import Ask, LiftState, Offer


@dataclass(frozen=True)
class Corrected(LoadRule):
    """A percentage to start from, corrected on the floor by reps in reserve, RPE or velocity."""

    start: Percent
    by: Reserve | Rpe | VelocityTarget

    method = "percent"
    examples = (
        Example("3x5 @ 75 %, 2 in reserve", "start from the percentage, correct by reserve on the floor"),
        Example("3x3 @ 80 %, 0.55-0.65 m/s", "start from the percentage, correct by velocity"),
    )

    @classmethod
    def follows(cls, reader: Reader, start: LoadRule) -> Corrected | None:
        """Read what corrects a single percentage."""
        if not isinstance(start, Percent) or start.varies:
            return None
        before = reader.at
        reader.skip(",")
        reader.take(r"@|corrected\s+(?:by|to)\b")
        by = Rpe.begins(reader) or Reserve.begins(reader) or VelocityTarget.begins(reader)
        if by is None:
            reader.at = before
            return None
        return Corrected(start, by)

    def written(self) -> str:
        """Return the percentage and what corrects it."""
        return f"{self.start.written()},{self.by.written().removeprefix(',').replace(' @', '')}"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load to start from."""
        return self.start.offer(ask, state)

    def step(self, by: int) -> Corrected:
        """Return the percentage a step on."""
        return replace(self, start=self.start.step(by))

    def target(self, state: LiftState) -> Target:
        """Return what corrects it."""
        return self.by.target(state)


RULES = (Corrected,)
