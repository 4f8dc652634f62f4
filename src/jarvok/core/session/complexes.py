"""A complex: several lifts without putting the bar down, so that the weakest of them sets the load. Common practice."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.loading.resolve import ResolvedSet


def weakest_of(lines: Sequence[tuple[ResolvedSet, ...]]) -> int | None:
    """Return which line of a complex has the lightest first load, or None where fewer than two have one."""
    loads = [(sets[0].load_kg, i) for i, sets in enumerate(lines) if sets and sets[0].load_kg is not None]
    return min(loads)[1] if len(loads) > 1 else None


def leading(lines: Sequence[tuple[ResolvedSet, ...]]) -> int | None:
    """Return which line of a complex that has its loads already leads it: the one at the highest share of its own max."""
    shares = [(sets[0].share_of_max, -i) for i, sets in enumerate(lines) if sets and sets[0].share_of_max]
    return -max(shares)[1] if len(shares) > 1 else None


def as_complex(lines: Sequence[tuple[ResolvedSet, ...]]) -> list[tuple[ResolvedSet, ...]]:
    """Return the lines with the load of the weakest on every set; its working stands for all.

    Shares of the max keep to each lift's own: they shrink with the load. Lines without a load are left as they are.
    """
    at = weakest_of(lines)
    if at is None:
        return list(lines)
    weakest = lines[at]
    return [
        sets if i == at else tuple(_lowered(s, weakest[min(n, len(weakest) - 1)]) for n, s in enumerate(sets))
        for i, sets in enumerate(lines)
    ]


def _lowered(own: ResolvedSet, weakest: ResolvedSet) -> ResolvedSet:
    if own.load_kg is None or weakest.load_kg is None:
        return own
    share = own.share_of_max * weakest.load_kg / own.load_kg if own.share_of_max and own.load_kg else None
    return own._replace(
        load_kg=weakest.load_kg,
        wanted_kg=weakest.wanted_kg,
        per_side_kg=weakest.per_side_kg,
        share_of_max=share,
        method=weakest.method,
        working=weakest.working,
    )
