"""What a line is in its session for: asked by checks, sums and the floor, never read off a block's name."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum
from functools import lru_cache

from jarvok.core.exercises import Exercise

PREPARE_NAME = "Prepare"  # the block that a session begins with, as it is called on the sheet
MAIN_KINDS = frozenset({"strength", "classic", "ballistic"})  # main work where a person adds one and says nothing else
FAST_KINDS = frozenset({"jump", "throw", "run", "classic", "ballistic"})  # they need speed or coordination


@lru_cache(maxsize=512)
def prepares(block: str) -> bool:
    """Return whether a block of this name prepares: `Prepare`, and its further parts, `Prepare 2` or `Prepare, bar`."""
    name, first = block.strip().lower(), PREPARE_NAME.lower()
    return name == first or name.startswith((f"{first} ", f"{first},"))


class BlockRole(StrEnum):
    """From first to last as a session is usually laid out; fast and main are the work the dose counts."""

    PREPARE = "prepare"
    FAST = "fast"
    MAIN = "main"
    SMALL = "small"

    @property
    def counts(self) -> bool:
        """Whether its sets are main sets: those a dose is made of."""
        return self in (BlockRole.FAST, BlockRole.MAIN)


def role_of(block: str, lift: Exercise | None, *, is_main: bool) -> BlockRole:
    """Return the role of a line from how it is written: the one place that knows what the first block is called.

    `lift` is None where nothing here fills the line.
    """
    if prepares(block):
        return BlockRole.PREPARE
    if not is_main:
        return BlockRole.SMALL
    return BlockRole.FAST if lift is not None and lift.kind in FAST_KINDS else BlockRole.MAIN


OPTIONAL_WORDS = "optional: stop before it, or go on"


def optional_block(lines: Sequence[tuple[BlockRole | str, str]]) -> str | None:
    """Return the block that the optional half of a session begins with, from each line's role and block.

    It is the first of the last blocks that hold small work alone. None where there is none, or no main or fast work before it.
    """
    at = len(lines)
    while at and lines[at - 1][0] == BlockRole.SMALL:
        at -= 1
    if not any(role in (BlockRole.FAST, BlockRole.MAIN) for role, _ in lines[:at]):
        return None
    begun = lines[at - 1][1]
    return next((block for _, block in lines[at:] if block != begun), None)
