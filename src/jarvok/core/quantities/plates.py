"""What a bar can hold: rounding a wanted load to one that can be built, and the plates on each side."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from functools import lru_cache

from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import in_kg

STANDARD_BAR_KG = 20.0  # [P] competition rules of weightlifting, men's bar


@dataclass(frozen=True)
class Barbell:
    """A bar with the pairs of plates at hand. Masses in kg; `pairs` is (plate mass, how many pairs).

    `unit` is what is printed on the plates, kg or lb.
    """

    bar_kg: float = STANDARD_BAR_KG
    # a furnished rack, common practice
    pairs: tuple[tuple[float, int], ...] = (
        (25.0, 4),
        (20.0, 2),
        (15.0, 2),
        (10.0, 2),
        (5.0, 2),
        (2.5, 2),
        (1.25, 2),
    )
    collar_kg: float = 0.0
    unit: str = "kg"


@dataclass(frozen=True)
class FixedSteps:
    """Dumbbells, kettlebells, cables: loads from `lightest_kg` to `heaviest_kg` by `step_kg`; `unit` stands on them."""

    lightest_kg: float
    heaviest_kg: float
    step_kg: float
    unit: str = "kg"


Implement = Barbell | FixedSteps


def unit_of(implement: Implement | None) -> str:
    """Return the unit that stands on what is loaded: kg or lb."""
    return implement.unit if implement is not None else "kg"


SAME_LOAD_KG = 0.06  # [T] a load typed in pounds, to a tenth, is the one that the plates make


def lifted_kg(load: float, implement: Implement | None) -> float:
    """Return a load typed in the unit of what is loaded, in kg: the one that the plates make, where it is that."""
    typed_kg = in_kg(load, unit_of(implement))
    made_kg = build(typed_kg, implement).load_kg if implement is not None else typed_kg
    return made_kg if abs(made_kg - typed_kg) <= SAME_LOAD_KG else typed_kg


@dataclass(frozen=True)
class BuiltLoad:
    """A load that can be built: `load_kg`, the plates per side from the inside out, and its two neighbours in kg."""

    load_kg: float
    per_side_kg: tuple[float, ...]
    below_kg: float | None
    above_kg: float | None


@lru_cache(maxsize=64)
def _buildable(bell: Barbell) -> tuple[tuple[int, ...], tuple[tuple[float, ...], ...]]:
    """Loads that the bar can hold in grams, rising, and for each the fewest plates per side, heaviest first."""
    fewest: dict[int, tuple[int, ...]] = {0: ()}
    for mass_kg, pairs in sorted(bell.pairs, reverse=True):
        grams = round(mass_kg * 1000)
        for total, plates in list(fewest.items()):
            for count in range(1, pairs + 1):
                heavier = total + count * grams
                candidate = plates + (grams,) * count
                known = fewest.get(heavier)
                if known is None or len(candidate) < len(known):
                    fewest[heavier] = candidate
    empty = round((bell.bar_kg + 2 * bell.collar_kg) * 1000)
    order = sorted(fewest)
    loads = tuple(empty + 2 * side for side in order)
    return loads, tuple(tuple(g / 1000 for g in fewest[side]) for side in order)


@lru_cache(maxsize=8192)
def build_within(wanted_kg: float, implement: Implement, least_kg: float, most_kg: float, else_kg: float) -> BuiltLoad:
    """Return the load nearest to `wanted_kg` that can be built and lies within both limits; none does: that of `else_kg`."""
    if lightest(implement) <= most_kg:
        built = build(wanted_kg, implement, cap_kg=most_kg)
        if built.load_kg >= least_kg:
            return built
        if built.above_kg is not None and built.above_kg <= most_kg:
            return build(built.above_kg, implement)
    return build(else_kg, implement)


def lightest(implement: Implement) -> float:
    """Return the lightest load that can be built, in kg."""
    return build(0.0, implement).load_kg


@lru_cache(maxsize=16_384)
def build(wanted_kg: float, implement: Implement, cap_kg: float | None = None) -> BuiltLoad:
    """Return the load nearest to `wanted_kg` that can be built, never above `cap_kg`; a tie goes to the lighter.

    Raises `CoachError` when even the lightest load is above the cap.
    """
    if isinstance(implement, Barbell):
        grams, sides = _buildable(implement)
    else:
        count = round((implement.heaviest_kg - implement.lightest_kg) / implement.step_kg) + 1
        grams = tuple(round(1000 * (implement.lightest_kg + i * implement.step_kg)) for i in range(count))
        sides = ((),) * count
    last = len(grams) - 1
    if cap_kg is not None:
        last = bisect_right(grams, cap_kg, key=lambda g: g / 1000) - 1
        if last < 0:
            raise CoachError(
                f"The lightest load here is {grams[0] / 1000:g} kg, above the cap of {cap_kg:g} kg.",
                where="cap",
                accepted="A lighter bar or a higher cap would do.",
            )
    wanted = wanted_kg * 1000
    at = min(bisect_left(grams, wanted), last)
    if at > 0 and wanted - grams[at - 1] <= grams[at] - wanted:
        at -= 1
    return BuiltLoad(
        load_kg=grams[at] / 1000,
        per_side_kg=sides[at],
        below_kg=grams[at - 1] / 1000 if at > 0 else None,
        above_kg=grams[at + 1] / 1000 if at < len(grams) - 1 else None,
    )
