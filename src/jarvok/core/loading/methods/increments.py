"""The step that linear loading and 2-for-2 add: by region and by how trained the athlete is."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from jarvok.core.loading.state import LiftState
from jarvok.core.loading.tables import increments
from jarvok.core.quantities.plates import build_within
from jarvok.core.working import Source


@dataclass(frozen=True)
class Step:
    """A rise in kg, the words for it, its source, and a caution where the plates allow only a larger one."""

    kg: float
    words: str
    source: Source
    caution: str = ""


def step_up(load_kg: float, state: LiftState, wanted_kg: float | None = None, times: int = 1) -> Step:
    """Return the rise from `load_kg`: `wanted_kg` where the coach wrote one, else within the table's row.

    It is never more than that after rounding either. Where the plates on hand go up by more, their smallest step is taken
    once it is earned `times` over, in as many steps as it is worth; until then there is none, and that is said.
    """
    table = increments()
    if wanted_kg is None:
        trained = (state.training_age_years or 0) >= state.rules["load.trained_years"]
        group = "larger" if trained else "smaller"
        region = "upper" if state.is_upper else "lower"
        least, most = table.steps_kg[group, region]
        step, source = most, table.source
        words = f"{least:g} to {most:g} kg for {'trained' if trained else 'less trained'} athletes, {region} body"
    else:
        step, source, words = wanted_kg, Source("fact", "as written"), f"{wanted_kg:g} kg as written"
    if state.implement is None:
        return Step(step, words, source)
    built = build_within(round(load_kg + step, 2), state.implement, load_kg, load_kg + step, load_kg)
    if built.load_kg > load_kg:
        return Step(built.load_kg - load_kg, words, source)
    rise = (built.above_kg or load_kg) - load_kg
    if rise <= 0:
        return Step(0.0, words, source, "This is the heaviest load here.")
    steps = ceil(round(rise / step, 6))
    goes_up = f"The plates here go up by {rise:g} kg, worth {steps} steps"
    if times >= steps:
        return Step(rise, words, source, f"{goes_up}; it was earned {times} times.")
    return Step(0.0, words, source, f"{goes_up}: earned {times} of {steps} times. Micro-plates would do.")
