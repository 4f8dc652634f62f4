"""Which set of a session comes next, from what is done. The page knows the rule too, for while it has no network."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple


class SetMark(NamedTuple):
    """A set of a line: whether it warms up, and whether it is done."""

    warms_up: bool
    is_done: bool


@dataclass(frozen=True)
class LineMark:
    """A line of a session: its sets in order, and whether it was ended before they were all done."""

    sets: tuple[SetMark, ...]
    is_ended: bool = False


def next_set(lines: Sequence[LineMark]) -> tuple[int, int] | None:
    """Return the places (from 0) of the line and the set that come next, or None when nothing is left.

    The first in order that is neither done nor left out: a warm-up set is, once a work set of its line is done.
    """
    for at, line in enumerate(lines):
        if line.is_ended:
            continue
        worked = any(s.is_done for s in line.sets if not s.warms_up)
        for number, item in enumerate(line.sets):
            if not item.is_done and not (item.warms_up and worked):
                return at, number
    return None
