"""A first load that grows from set to set."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.equations import MOST_REPS
from jarvok.core.loading.methods.as_written import FixedLoad
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.reader import MASS_UNIT, NUMBER, Reader, mass_kg
from jarvok.core.loading.rule import Example, LoadRule
from jarvok.core.loading.state import Ask, LiftState, Offer

LARGEST_STEP_KG = 50.0  # [J]


@dataclass(frozen=True)
class Rising(LoadRule):
    """A first load that grows each set by `step_kg`; without a step it reaches the max at the last set."""

    start: Percent | FixedLoad
    step_kg: float | None = None

    examples = (Example("8x1 @ 80 % + 2.5 kg", "a first load that grows each set"),)
    varies = True
    depends_on_place = True

    @classmethod
    def follows(cls, reader: Reader, start: LoadRule) -> Rising | None:
        """Read rising, or + 2.5 kg a set, behind a share or a load."""
        if not isinstance(start, Percent | FixedLoad) or start.varies:
            return None
        if reader.take(r"rising\b"):
            return Rising(start)
        hanging = r"(?!\s*(?:of\s+)?(?:reverse\s+)?(?:bands?|chains?)\b)"
        m = reader.take(rf"\+\s*{NUMBER}\s*{MASS_UNIT}{hanging}(?:\s*(?:a|each|per)\s+(?:set|round)\b)?")
        if not m:
            return None
        step = mass_kg(m.group(1), m.group(2))
        if not 0 < step <= LARGEST_STEP_KG:
            raise reader.fail(f"Steps up to {LARGEST_STEP_KG:g} kg a set are accepted.", at=m.start(1))
        return Rising(start, step)

    def written(self) -> str:
        """Return the start and the step."""
        return self.start.written() + (f" + {self.step_kg:g} kg" if self.step_kg is not None else " rising")

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load at the set's place."""
        start = self.start.offer(ask, state)
        if start.load_kg is None:
            return start
        step, how = self.step_kg, "as written"
        if step is None:
            if state.max_kg is None or ask.sets < 2:
                return start
            step = max(0.0, (state.equation.load_kg(state.max_kg, min(MOST_REPS, ask.reps)) - start.load_kg) / (ask.sets - 1))
            how = f"so that round {ask.sets} is a {ask.reps}RM"
        load = start.load_kg + step * ask.position
        return start._replace(load_kg=load, rule=f"{start.rule}, + {step:.1f} kg a round {how}; round {ask.position + 1}")

    def step(self, by: int) -> Rising:
        """Return the start a step on."""
        return replace(self, start=self.start.step(by))

    @property
    def builds_to_limit(self) -> bool:
        """Whether the last set is the limit of the day."""
        return self.step_kg is None


RULES = (Rising,)
