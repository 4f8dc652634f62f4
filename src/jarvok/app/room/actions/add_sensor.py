"""A sensor is added to the room."""

from __future__ import annotations

import secrets

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Sensor
from jarvok.app.room.paired import Sort, checked_rack
from jarvok.core.errors import CoachError
from jarvok.core.sensors.gate_places import read_places_m


def run(who: Who, name: str, sort: str, rack: int | None, rate_hz: float, gates: str = "") -> Sensor:
    """Add a sensor to the room; `gates` says where timing gates stand, in m."""
    with acting(who, "add_sensor", f"sensor {name} added"):
        if not 1 <= len(name.strip()) <= 40:
            raise CoachError("A sensor needs a name.", where="name", accepted="1 to 40 characters are accepted.")
        if sort not in set(Sort):
            raise CoachError(f"“{sort}” is no kind of sensor.", where="sort", accepted=", ".join(Sort) + ".")
        if not 20 <= rate_hz <= 1000:
            raise CoachError(
                f"{rate_hz:g} samples a second cannot be used.", where="rate_hz", accepted="20 to 1000 are accepted."
            )
        return Sensor.objects.create(
            name=name.strip(),
            sort=sort,
            rack=checked_rack(rack),
            token=secrets.token_urlsafe(18),
            rate_hz=rate_hz,
            gates_m=list(read_places_m(gates)) if sort == Sort.GATES else [],
            added_at=clock.now(),
        )
