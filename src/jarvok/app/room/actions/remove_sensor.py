"""A sensor is taken out of the room."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Sensor
from jarvok.app.room.paired import forget


def run(who: Who, sensor: Sensor) -> None:
    """Take a sensor out of the room; what it measured stays."""
    with acting(who, "remove_sensor", f"sensor {sensor.name} removed"):
        sensor.removed_at, sensor.rack = clock.now(), None
        sensor.save(update_fields=["removed_at", "rack"])
        forget(sensor.token)
