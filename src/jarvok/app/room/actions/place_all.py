"""Lifters are placed on the racks as suggested."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import tell_room
from jarvok.core.floor.racks import Lifter, place


def run(who: Who, gathering: Gathering, lifters: Sequence[Lifter]) -> None:
    """Place lifters on the racks as suggested: alike in load and height."""
    with acting(who, "place_all", "placed by load and height", squad=gathering.squad):
        gathering.attendances.update(rack=None)
        for number, group in enumerate(place(lifters, gathering.racks), start=1):
            ids = [x.athlete_id for x in group]
            gathering.attendances.filter(athlete_id__in=ids).update(rack=number)
        tell_room(gathering)
