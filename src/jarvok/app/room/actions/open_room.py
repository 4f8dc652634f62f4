"""The room is opened for a squad and a day."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.room.models import Attendance, Gathering


def run(who: Who, squad: Squad, day: date) -> Gathering:
    """Open the room for a squad and a day, or return it as it is; everybody of the squad is on the list."""
    with acting(who, "open_room", "room opened", squad=squad) as act:
        gathering, _ = Gathering.objects.get_or_create(squad=squad, day=day, defaults={"opened_at": clock.now()})
        known = set(gathering.attendances.values_list("athlete_id", flat=True))
        now = clock.now()
        Attendance.objects.bulk_create(
            Attendance(gathering=gathering, athlete=a, changed_at=now, act=act)
            for a in Athlete.here.filter(squad=squad)
            if a.pk not in known
        )
        return gathering
