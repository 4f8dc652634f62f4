"""An athlete is put at a rack, or at none."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import attendance_in, check_rack, tell_room


def run(who: Who, gathering: Gathering, athlete_id: int, rack: int | None) -> None:
    """Put an athlete at a rack, or at none."""
    with acting(who, "put_at_rack", "put at a rack", squad=gathering.squad):
        if rack is not None:
            check_rack(gathering, rack, ", or none")
        row = attendance_in(gathering, athlete_id)
        row.rack = rack
        row.place = row.placed_at = None
        row.save(update_fields=["rack", "place", "placed_at"])
        tell_room(gathering)


def leave(who: Who, gathering: Gathering, athlete_id: int, rack: int) -> None:
    """Take an athlete from a rack; one who is not there any more has left already."""
    with acting(who, "leave_rack", f"left rack {rack}", squad=gathering.squad):
        if attendance_in(gathering, athlete_id).rack == rack:
            run(who, gathering, athlete_id, None)
