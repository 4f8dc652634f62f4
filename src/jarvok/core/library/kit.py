"""What a room holds: bars, plates, dumbbells, and which exercises it allows."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.exercises import Exercise
from jarvok.core.quantities.mass import kg_from_lb
from jarvok.core.quantities.plates import STANDARD_BAR_KG, Barbell, FixedSteps, Implement

# a furnished room, common practice: the bar, dumbbells and the stack from, to and by
DUMBBELLS = FixedSteps(4.0, 50.0, 2.0)
STACK = FixedSteps(2.5, 100.0, 2.5)  # common practice
STANDARD_PAIRS = Barbell().pairs
ALWAYS = frozenset({"none"})
IMPLEMENTS = frozenset({"barbell", "dumbbell", "kettlebell", "cable", "belt"})
GEAR_NAMES = {
    "rack": "rack",
    "bench": "bench",
    "box": "box",
    "trap_bar": "trap bar",
    "safety_bar": "safety bar",
    "blocks": "lifting blocks",
    "boards": "boards",
    "bands": "bands",
    "chains": "chains",
    "pull_up_bar": "pull-up bar",
    "dip_bars": "dip bars",
    "rings": "rings",
    "landmine": "landmine",
    "machine": "machine",
    "back_bench": "back-extension bench",
    "ball": "gymnastics ball",
    "wheel": "roller wheel",
    "plates": "loose plates",
    "medicine_ball": "medicine ball",
    "hurdles": "hurdles",
    "sled": "sled",
    "sandbag": "sandbag",
    "space": "room to run",
    "bike": "bike",
    "rower": "rowing machine",
    "ropes": "ropes",
    "bag": "heavy bag",
    "pool": "pool",
}
GEAR = frozenset(GEAR_NAMES)


@dataclass(frozen=True)
class Kit:
    """The equipment at hand. Masses in kg; `pairs` is (plate mass, how many pairs); `has` names the implements;
    `unit` is what is printed on the plates, kg or lb.
    """

    name: str = "Fully equipped room"
    unit: str = "kg"
    bar_kg: float = STANDARD_BAR_KG
    pairs: tuple[tuple[float, int], ...] = STANDARD_PAIRS
    collar_kg: float = 0.0
    dumbbells: FixedSteps = DUMBBELLS
    stack: FixedSteps = STACK
    has: frozenset[str] = IMPLEMENTS
    gear: frozenset[str] = GEAR

    def allows(self, exercise: Exercise) -> bool:
        """Whether everything the exercise takes is here."""
        return not self.missing_for(exercise)

    def missing_for(self, exercise: Exercise) -> tuple[str, ...]:
        """Return what an exercise takes that is not here, in words."""
        implement = () if exercise.implement in ALWAYS | self.has else (exercise.implement,)
        return (*implement, *(GEAR_NAMES.get(g, g) for g in sorted(exercise.needs - self.gear)))


FURNISHED = Kit()
# common practice of a room in pounds: a bar of 45, plates from 45 to 2.5 (35s are not everywhere), dumbbells and a stack by fives
_POUNDS = tuple((kg_from_lb(mass_lb), pairs) for mass_lb, pairs in ((45, 8), (25, 2), (10, 2), (5, 2), (2.5, 2)))
FURNISHED_IN_POUNDS = Kit(
    unit="lb",
    bar_kg=kg_from_lb(45),  # common practice
    pairs=_POUNDS,
    dumbbells=FixedSteps(kg_from_lb(10), kg_from_lb(110), kg_from_lb(5), "lb"),  # common practice
    stack=FixedSteps(kg_from_lb(5), kg_from_lb(220), kg_from_lb(5), "lb"),  # common practice
)


def furnished(unit: str) -> Kit:
    """Return what is taken to be there where nobody has said what is: a furnished room, its plates in `kg` or `lb`."""
    return FURNISHED_IN_POUNDS if unit == "lb" else FURNISHED


HOME = Kit(
    name="At home",
    dumbbells=FixedSteps(4.0, 24.0, 2.0),  # [J] an example
    has=frozenset({"dumbbell", "kettlebell"}),
    gear=frozenset({"bands", "box", "pull_up_bar", "bench"}),
)
HOTEL = Kit(
    name="Hotel room",
    dumbbells=FixedSteps(2.0, 20.0, 2.0),  # [J] an example
    has=frozenset({"dumbbell", "cable"}),
    gear=frozenset({"bench", "box", "bike"}),
)


def implement_for(exercise: Exercise, kit: Kit = FURNISHED) -> Implement | None:
    """Return what the exercise is loaded with in this room; None for unloaded exercises.

    An exercise with a bar of its own (a trap bar, say) keeps that bar's mass; the others take the room's bar.
    """
    match exercise.implement:
        case "barbell":
            bar_kg = kit.bar_kg if exercise.bar_kg == STANDARD_BAR_KG else exercise.bar_kg
            return Barbell(bar_kg, kit.pairs, kit.collar_kg, kit.unit)
        case "dumbbell" | "kettlebell":
            return kit.dumbbells
        case "cable" | "belt":
            return kit.stack
        case _:
            return None
