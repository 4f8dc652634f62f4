"""Drop sets: all sets of a line in one go, load off in between. Common practice."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.loading.prescription import Drops
from jarvok.core.loading.resolve import ResolvedSet, dropped_kg
from jarvok.core.quantities.plates import Barbell, Implement, build

USUAL_DROP_PCT = 20.0  # [J] less each time, where the line gives one load for all its sets


def as_drop(sets: Sequence[ResolvedSet], implement: Implement | None) -> tuple[ResolvedSet, ...]:
    """Return the sets of a line in a block of drop sets: as written where their loads differ, else each lighter than the last.

    Sets without a load are left as they are.
    """
    first = sets[0] if sets else None
    if first is None or first.load_kg is None or len({s.load_kg for s in sets}) > 1:
        return tuple(sets)
    lighter = dropped_kg(first.load_kg, Drops(len(sets) - 1, USUAL_DROP_PCT), implement)
    return (first, *(_lighter(s, kg, implement) for s, kg in zip(sets[1:], lighter, strict=True)))


def _lighter(item: ResolvedSet, load_kg: float, implement: Implement | None) -> ResolvedSet:
    sides = build(load_kg, implement).per_side_kg if isinstance(implement, Barbell) else item.per_side_kg
    share = item.share_of_max * load_kg / item.load_kg if item.share_of_max and item.load_kg else None
    return item._replace(load_kg=load_kg, wanted_kg=load_kg, per_side_kg=sides, share_of_max=share)
