"""Athletes are here, or are not after all."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import attendance_in, tell_room
from jarvok.core.errors import CoachError


def run(who: Who, gathering: Gathering, athlete_ids: Sequence[int], is_here: bool) -> None:
    """Note that athletes are here, or are not after all."""
    with acting(who, "say_here", f"{len(athlete_ids)} {'here' if is_here else 'not here'}", squad=gathering.squad):
        if not athlete_ids:
            raise CoachError("Nobody was named.", where="athlete_ids", accepted="At least one athlete.")
        for athlete_id in set(athlete_ids) - set(gathering.attendances.values_list("athlete_id", flat=True)):
            attendance_in(gathering, athlete_id)
        rows = gathering.attendances.filter(athlete_id__in=athlete_ids)
        rows.update(is_here=is_here, changed_at=clock.now())
        if not is_here:
            rows.update(rack=None)
        tell_room(gathering)
