"""The body's own weight, with or without something added."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.loading.methods.as_written import KG_STEP
from jarvok.core.loading.reader import NUMBER, Reader, is_pounds, mass_kg
from jarvok.core.loading.rule import Example, LoadRule, no_step
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.mass import check_load_kg, format_kg, lb_from_kg
from jarvok.core.working import COMMON_PRACTICE


@dataclass(frozen=True)
class Bodyweight(LoadRule):
    """Bodyweight, or bodyweight and `plus_kg` more; `in_lb` remembers that it was written in pounds."""

    plus_kg: float = 0.0
    in_lb: bool = False

    examples = (Example("3x5 @ BW + 10 kg", "bodyweight and ten kilograms; BW alone is bodyweight"),)

    @classmethod
    def begins(cls, reader: Reader) -> Bodyweight | None:
        """Read BW, or BW + 10 kg."""
        m = reader.take(rf"(?:BW|bodyweight)\b(?:\s*\+\s*{NUMBER}\s*(kg|kilos?|lbs?|pounds?)?)?")
        if not m:
            return None
        if m.group(1) is None:
            return Bodyweight()
        unit = m.group(2) or "kg"
        return Bodyweight(check_load_kg(mass_kg(m.group(1), unit)), is_pounds(unit))

    def written(self) -> str:
        """Return the word, and what is added in the unit it was written in."""
        if not self.plus_kg:
            return " @ BW"
        return f" @ BW + {lb_from_kg(self.plus_kg):g} lb" if self.in_lb else f" @ BW + {format_kg(self.plus_kg)} kg"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return what is added; nothing for bodyweight alone."""
        if not self.plus_kg:
            return Offer(None, "as written", "bodyweight", COMMON_PRACTICE)
        return Offer(self.plus_kg, "as written", f"{format_kg(self.plus_kg)} kg added to bodyweight", COMMON_PRACTICE)

    def step(self, by: int) -> Bodyweight:
        """Return what is added a step on; bodyweight alone has no step down."""
        if self.plus_kg + KG_STEP * by < 0:
            no_step()
        return replace(self, plus_kg=self.plus_kg + KG_STEP * by)


RULES = (Bodyweight,)
