"""A load as written, in kilograms or pounds."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.loading.reader import MASS_UNIT, NUMBER, Reader, is_pounds, mass_kg
from jarvok.core.loading.rule import Example, LoadRule
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.mass import check_load_kg, format_kg, lb_from_kg
from jarvok.core.working import COMMON_PRACTICE

KG_STEP, LEAST_STEPPED_KG = 2.5, 0.5  # [J]


@dataclass(frozen=True)
class FixedLoad(LoadRule):
    """A load as written, in kg; `in_lb` remembers that it was written in pounds."""

    load_kg: float
    in_lb: bool = False

    examples = (Example("3x5 @ 60 kg", "a load as written; lb works too"),)

    @classmethod
    def begins(cls, reader: Reader) -> FixedLoad | None:
        """Read 60 kg, or 135 lb."""
        m = reader.take(rf"{NUMBER}\s*{MASS_UNIT}")
        return FixedLoad(check_load_kg(mass_kg(m.group(1), m.group(2))), is_pounds(m.group(2))) if m else None

    def written(self) -> str:
        """Return the load in the unit it was written in."""
        return f" @ {lb_from_kg(self.load_kg):g} lb" if self.in_lb else f" @ {format_kg(self.load_kg)} kg"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load."""
        return Offer(self.load_kg, "as written", f"{format_kg(self.load_kg)} kg as written", COMMON_PRACTICE)

    def step(self, by: int) -> FixedLoad:
        """Return the load a step on."""
        return replace(self, load_kg=max(LEAST_STEPPED_KG, self.load_kg + KG_STEP * by))


@dataclass(frozen=True)
class FixedLoads(LoadRule):
    """A load for each set as written, in kg; the last one goes on. `in_lb` remembers that they were written in pounds."""

    loads_kg: tuple[float, ...]
    in_lb: bool = False

    examples = (Example("3x5 @ 100/105/110 kg", "a load for each set"),)
    varies = True

    @classmethod
    def begins(cls, reader: Reader) -> FixedLoads | None:
        """Read 100/105/110 kg."""
        m = reader.take(rf"({NUMBER}(?:\s*/\s*\d+(?:[.,]\d+)?)+)\s*{MASS_UNIT}")
        if not m:
            return None
        values = m.group(1).replace(" ", "").split("/")
        return FixedLoads(tuple(check_load_kg(mass_kg(v, m.group(3))) for v in values), is_pounds(m.group(3)))

    def written(self) -> str:
        """Return the loads in the unit they were written in."""
        said = "/".join(f"{lb_from_kg(kg):g}" if self.in_lb else format_kg(kg) for kg in self.loads_kg)
        return f" @ {said} {'lb' if self.in_lb else 'kg'}"

    def of_set(self, position: int, sets: int) -> FixedLoad:
        """Return the load of one set."""
        return FixedLoad(self.loads_kg[min(position, len(self.loads_kg) - 1)], self.in_lb)

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the first load."""
        return self.of_set(0, ask.sets).offer(ask, state)

    def step(self, by: int) -> FixedLoads:
        """Return each load a step on."""
        return replace(
            self, loads_kg=tuple(self.of_set(i, len(self.loads_kg)).step(by).load_kg for i in range(len(self.loads_kg)))
        )


RULES = (FixedLoads, FixedLoad)
