"""A sensor is paired with a rack, or with none."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Sensor
from jarvok.app.room.paired import checked_rack, forget


def run(who: Who, sensor: Sensor, rack: int | None) -> None:
    """Pair a sensor with a rack, or with none."""
    with acting(who, "pair_sensor", f"sensor {sensor.name} at {rack or 'no rack'}"):
        sensor.rack = checked_rack(rack)
        sensor.save(update_fields=["rack"])
        forget(sensor.token)
