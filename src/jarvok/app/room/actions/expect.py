"""An athlete is put on the list of a room."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Attendance, Gathering
from jarvok.app.room.telling import attendance_in, tell_room


def run(who: Who, gathering: Gathering, athlete_id: int) -> Attendance:
    """Return the attendance of an athlete of the squad, new where they have come to it since the room was opened."""
    with acting(who, "expect", "expected in the room", athlete=Athlete.objects.get(pk=athlete_id)):
        found = attendance_in(gathering, athlete_id)
        tell_room(gathering)
        return found
