"""What a room holds: bars, plates, dumbbells, and which exercises it allows."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.library.exercises import Exercise
from jarvok.core.quantities.plates import Barbell, FixedSteps, Implement

STANDARD_BAR_KG = 20.0
DUMBBELLS = FixedSteps(4.0, 50.0, 2.0)
STACK = FixedSteps(2.5, 100.0, 2.5)
STANDARD_PAIRS = Barbell().pairs
ALWAYS = frozenset({"none"})


@dataclass(frozen=True)
class Kit:
    """The equipment at hand. Masses in kg; `pairs` is (plate mass, how many pairs); `has` names the implements;
    `unit` is what is printed on the plates, kg or lb.
    """

    name: str = "Furnished room"
    unit: str = "kg"
    bar_kg: float = STANDARD_BAR_KG
    pairs: tuple[tuple[float, int], ...] = STANDARD_PAIRS
    collar_kg: float = 0.0
    dumbbells: FixedSteps = DUMBBELLS
    stack: FixedSteps = STACK
    has: frozenset[str] = frozenset({"barbell", "dumbbell", "kettlebell", "cable", "belt"})

    def allows(self, exercise: Exercise) -> bool:
        """Whether the exercise's implement is here."""
        return exercise.implement in ALWAYS or exercise.implement in self.has


FURNISHED = Kit()


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
