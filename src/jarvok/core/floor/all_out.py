"""Which sets are done to as many repetitions as possible, so that nothing is left in reserve without anybody saying so."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.floor.told import ToldSet
from jarvok.core.loading.reader import ShorthandError
from jarvok.core.loading.shorthand import parse


def is_all_out(planned: Sequence[ToldSet], text: str, number: int) -> bool:
    """Return whether the set of that number (from 1) goes as far as it goes: the first open set of its line, or the last
    of an RM zone.

    A set to failure behind another is done tired: it says only that the max is no less.
    """
    first_open = next((n for n, item in enumerate(planned, start=1) if item.or_more), None)
    if first_open is not None:
        return number == first_open
    return number == len(planned) and _is_zone(text)


def _is_zone(text: str) -> bool:
    try:
        groups = parse(text).groups
    except ShorthandError:
        return False
    return any(g.load is not None and g.load.is_to_failure for g in groups)
