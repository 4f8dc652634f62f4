"""How many racks there are, and for what."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import tell_room
from jarvok.core.errors import CoachError
from jarvok.core.floor.racks import MOST_RACKS, REST_S
from jarvok.core.quantities.sentence import counted


def run(who: Who, gathering: Gathering, racks: int, goal: str) -> None:
    """Set how many racks there are and what the rests there are for."""
    with acting(who, "set_racks", counted(racks, "rack"), squad=gathering.squad):
        if not 1 <= racks <= MOST_RACKS:
            raise CoachError(f"{racks} racks cannot be shown.", where="racks", accepted=f"1 to {MOST_RACKS} are accepted.")
        if goal not in REST_S:
            raise CoachError(f"“{goal}” is no goal of a rack.", where="goal", accepted=", ".join(REST_S) + ".")
        gathering.racks, gathering.goal = racks, goal
        gathering.save(update_fields=["racks", "goal"])
        gathering.attendances.filter(rack__gt=racks).update(rack=None)
        tell_room(gathering)
