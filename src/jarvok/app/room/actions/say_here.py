"""Athletes are here, or are not after all."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import tell_room
from jarvok.core.errors import CoachError


def run(who: Who, gathering: Gathering, athlete_ids: Sequence[int], is_here: bool) -> None:
    """Note that athletes are here, or are not after all."""
    with acting(who, "say_here", f"{len(athlete_ids)} {'here' if is_here else 'not here'}", squad=gathering.squad):
        rows = gathering.attendances.filter(athlete_id__in=athlete_ids)
        if not athlete_ids or rows.count() != len(set(athlete_ids)):
            raise CoachError("This athlete is not of this squad.", where="athlete_ids")
        rows.update(is_here=is_here, changed_at=clock.now())
        if not is_here:
            rows.update(rack=None)
        tell_room(gathering)
