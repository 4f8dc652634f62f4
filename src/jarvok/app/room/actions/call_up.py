"""An athlete is called to the bar out of turn."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import attendance_in, tell_room
from jarvok.core.errors import CoachError


def run(who: Who, gathering: Gathering, athlete_id: int) -> None:
    """Call an athlete to the bar out of turn; it holds until somebody at the rack has done a set."""
    with acting(who, "call_up", "called up", squad=gathering.squad):
        row = attendance_in(gathering, athlete_id)
        if row.rack is None:
            raise CoachError("This athlete is at no rack.", where="athlete_id", accepted="Put them at one first.")
        row.called_at = clock.now()
        row.save(update_fields=["called_at"])
        tell_room(gathering)
