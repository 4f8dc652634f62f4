"""Which set of a session comes next, from its steps and what is done. The page knows the rule too: it may have no network."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from typing import NamedTuple


class StepSet(NamedTuple):
    """A set in a step: its line by its place from 0, whether it warms up, which set of that kind from 1."""

    line: int
    warms_up: bool
    number: int


def next_set(steps: Iterable[Iterable[StepSet]], done: Collection[StepSet], ended: Collection[int] = ()) -> StepSet | None:
    """Return the set that comes next, or None when nothing is left.

    The first in the order of the steps that is neither done nor of a line that was ended; a warm-up set is left out once a work
    set of its line is done.
    """
    worked = {s.line for s in done if not s.warms_up}
    for step in steps:
        for item in step:
            if item.line in ended or item in done or (item.warms_up and item.line in worked):
                continue
            return item
    return None
