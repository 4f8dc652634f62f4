"""The order at a rack is set by hand."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.telling import tell_room
from jarvok.core.errors import CoachError


def run(who: Who, gathering: Gathering, rack: int, athlete_ids: Sequence[int]) -> None:
    """Set who lifts after whom at a rack, the first of them next; it goes round in that order until somebody is called up."""
    with acting(who, "order_rack", f"order at rack {rack}", squad=gathering.squad):
        rows = {a.athlete_id: a for a in gathering.attendances.filter(rack=rack)}
        if set(athlete_ids) - set(rows) or len(set(athlete_ids)) != len(athlete_ids) or not athlete_ids:
            raise CoachError("Somebody in this order is not at the rack any more.", where="athlete_ids")
        now = clock.now()
        for place, athlete_id in enumerate(athlete_ids):
            row = rows[athlete_id]
            row.place, row.placed_at = place, now
            row.save(update_fields=["place", "placed_at"])
        gathering.attendances.filter(rack=rack, called_at__isnull=False).update(called_at=None)
        tell_room(gathering)
