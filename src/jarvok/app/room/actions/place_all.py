"""Lifters are placed on the racks as suggested."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.lanes import use_of
from jarvok.app.room.telling import tell_room
from jarvok.core.errors import CoachError
from jarvok.core.floor.racks import Lifter, PlaceFor, place


def run(who: Who, gathering: Gathering, lifters: Sequence[Lifter]) -> None:
    """Place lifters on the racks as suggested: alike in load and height."""
    with acting(who, "place_all", "placed by load and height", squad=gathering.squad):
        gathering.attendances.update(rack=None, place=None, placed_at=None)
        bars = [n for n in range(1, gathering.racks + 1) if use_of(gathering, n) is PlaceFor.BAR]
        if not bars:
            raise CoachError("No place here has a bar.", where="racks", accepted="At least one rack.")
        for number, group in zip(bars, place(lifters, len(bars)), strict=True):
            ids = [x.athlete_id for x in group]
            gathering.attendances.filter(athlete_id__in=ids).update(rack=number)
        tell_room(gathering)
