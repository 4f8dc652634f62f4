"""What a place in the room is for: a bar, jumps or runs."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import check_rack, tell_room
from jarvok.core.errors import CoachError
from jarvok.core.floor.racks import PlaceFor


def run(who: Who, gathering: Gathering, rack: int, use: str) -> None:
    """Set what a place is for. Nobody is placed by load at one without a bar, and no plates are counted there."""
    with acting(who, "use_place", f"place {rack} is for {use}", squad=gathering.squad):
        check_rack(gathering, rack)
        if use not in set(PlaceFor):
            raise CoachError(f"“{use}” is no use of a place.", where="use", accepted=", ".join(PlaceFor) + ".")
        stations = {k: v for k, v in gathering.stations.items() if k != str(rack)}
        if use != PlaceFor.BAR:
            stations[str(rack)] = use
        gathering.stations = stations
        gathering.save(update_fields=["stations"])
        tell_room(gathering)
