"""The arrangements over time, one module each."""

from __future__ import annotations

from jarvok.core.errors import CoachError
from jarvok.core.season.arrangement import Arrangement
from jarvok.core.season.arrangements import (
    block,
    concurrent,
    daily_doses,
    force_velocity,
    high_low,
    linear,
    strength_event,
)

ARRANGEMENTS: tuple[Arrangement, ...] = (
    force_velocity.ARRANGEMENT,
    linear.ARRANGEMENT,
    block.ARRANGEMENT,
    concurrent.ARRANGEMENT,
    high_low.ARRANGEMENT,
    daily_doses.ARRANGEMENT,
    strength_event.ARRANGEMENT,
)
BY_KEY = {a.key: a for a in ARRANGEMENTS}


def arrangement(key: str) -> Arrangement:
    """Return the arrangement of that key; raise `CoachError` when there is none."""
    found = BY_KEY.get(key)
    if found is None:
        raise CoachError("There is no such season model.", where="arrangement", accepted=", ".join(a.name for a in ARRANGEMENTS))
    return found
