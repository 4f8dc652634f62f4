"""1RM from repetitions to failure, by seven published equations; each also read backwards.

All are quoted from memory of their sources. `reps` are repetitions to failure (done + in reserve). A single with
nothing in reserve is itself under every equation: none of them is valid there as written.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import exp

from jarvok.core.errors import CoachError
from jarvok.core.working import Source

MOST_REPS = 15  # [C] beyond this no equation is worth reading
ROUGH_FROM_REPS = 11  # [C] 11-15 are a rough guide only


@dataclass(frozen=True)
class Equation:
    """One equation: `factor(reps)` is 1RM divided by the load, for 2 or more repetitions."""

    key: str
    name: str
    source: Source
    factor: Callable[[float], float]

    def one_rm_kg(self, load_kg: float, reps: float) -> float:
        """Return the estimated 1RM in kg for `load_kg` lifted for `reps` (1-15) to failure."""
        return load_kg * self.ratio(reps)

    def load_kg(self, one_rm_kg: float, reps: float) -> float:
        """Return the load in kg that allows `reps` (1-15) to failure: the same relation backwards."""
        return one_rm_kg / self.ratio(reps)

    def ratio(self, reps: float) -> float:
        """Return 1RM / load for `reps`; exactly 1 for a single. Raises `CoachError` outside 1-15."""
        if not 1 <= reps <= MOST_REPS:
            raise CoachError(
                f"{reps:g} repetitions say too little about a max.",
                where="reps",
                accepted=f"1 to {MOST_REPS} repetitions to failure are accepted.",
            )
        if reps < 2:  # between a single and a double: a straight line, so that half a rep in reserve still counts
            return 1.0 + (self.factor(2.0) - 1.0) * (reps - 1.0)
        return self.factor(reps)


EPLEY = Equation("epley", "Epley", Source("P", "Epley 1985"), lambda r: 1 + r / 30)
BRZYCKI = Equation("brzycki", "Brzycki", Source("P", "Brzycki 1993"), lambda r: 36 / (37 - r))
LANDER = Equation("lander", "Lander", Source("P", "Lander 1985"), lambda r: 100 / (101.3 - 2.67123 * r))
LOMBARDI = Equation("lombardi", "Lombardi", Source("P", "Lombardi 1989"), lambda r: r**0.10)
MAYHEW = Equation("mayhew", "Mayhew", Source("P", "Mayhew et al. 1992"), lambda r: 100 / (52.2 + 41.9 * exp(-0.055 * r)))
OCONNER = Equation("oconner", "O'Conner", Source("P", "O'Conner et al. 1989"), lambda r: 1 + 0.025 * r)
WATHAN = Equation("wathan", "Wathan", Source("P", "Wathan 1994"), lambda r: 100 / (48.8 + 53.8 * exp(-0.075 * r)))

EQUATIONS: tuple[Equation, ...] = (EPLEY, BRZYCKI, LANDER, LOMBARDI, MAYHEW, OCONNER, WATHAN)
BY_KEY = {equation.key: equation for equation in EQUATIONS}
DEFAULT_EQUATION = EPLEY


def spread_kg(load_kg: float, reps: float) -> tuple[float, float]:
    """Return the lowest and highest 1RM in kg that the seven equations give for this set."""
    values = [equation.one_rm_kg(load_kg, reps) for equation in EQUATIONS]
    return min(values), max(values)
