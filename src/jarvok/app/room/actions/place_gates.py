"""Where timing gates stand is said."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Sensor
from jarvok.app.room.paired import Sort
from jarvok.core.errors import CoachError
from jarvok.core.sensors.gate_places import read_places_m


def run(who: Who, sensor: Sensor, gates: str) -> None:
    """Keep the distances of the gates from now on; what was measured before stays as it was measured."""
    if sensor.sort != Sort.GATES:
        raise CoachError(f"{sensor.name} has no gates.", where="gates", accepted="Timing gates stand at distances.")
    places_m = read_places_m(gates)
    words = ", ".join(f"{m:g}" for m in places_m)
    with acting(
        who, "place_gates", f"gates of {sensor.name} at {words} m" if words else f"gates of {sensor.name} at no distance"
    ):
        sensor.gates_m = list(places_m)
        sensor.save(update_fields=["gates_m"])
