"""What sensors other than the bar's saw of a set: jumps on a mat, splits of gates, velocities of a device with results only."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from typing import Any

from jarvok.app.facts.floor.models import SessionLine, SetKind, TrainingSession
from jarvok.app.facts.room.models import Reading
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise


@dataclass
class Seen:
    """What was seen of a set, oldest first; `kept` are the readings behind it, `out` those that were taken out."""

    jumps: list[dict[str, Any]] = field(default_factory=list)
    splits: dict[int, dict[str, Any]] = field(default_factory=dict)
    device_mps: list[float] = field(default_factory=list)  # the number that counts for the lift
    kept: list[Reading] = field(default_factory=list)
    out: list[Reading] = field(default_factory=list)


def seen_of(line: SessionLine) -> defaultdict[tuple[str, int], Seen]:
    """What was seen of each set of a line. Jumps and splits are of work sets alone."""
    found: defaultdict[tuple[str, int], Seen] = defaultdict(Seen)
    wants_peak = exercise(line.exercise_id).velocity == "peak"
    for reading in line.readings.all():
        values = reading.values
        is_velocity = "mps" in values
        if "bpm" in values or (is_velocity and values["peak"] != wants_peak):
            continue
        seen = found[place_of(reading)]
        if reading.taken_out_at is not None:
            seen.out.append(reading)
            continue
        seen.kept.append(reading)
        if is_velocity:
            seen.device_mps.append(values["mps"])
        elif "gate" in values:
            seen.splits[values["gate"]] = values
        elif "height_cm" in values:
            seen.jumps.append(values)
    return found


def place_of(reading: Reading) -> tuple[str, int]:
    """Kind and number of the set that a reading is of."""
    return str(reading.values["kind"] if "mps" in reading.values else SetKind.WORK), reading.set_number


def gate_words(values: dict[str, Any]) -> str:
    """A gate by its distance where that is known, else by its number."""
    return f"{values['metres']:g} m" if values.get("metres") else f"gate {values['gate']}"


def words_of_reading(values: dict[str, Any]) -> str:
    """A reading as it is said beside its set."""
    if "gate" in values:
        return f"{gate_words(values)}: {values['seconds']:.2f} s"
    if "mps" in values:
        return f"{values['mps']:.2f} m/s"
    contact = values.get("contact_s")
    return f"{values['height_cm']:.1f} cm" + (f", contact {contact:.2f} s" if contact else "")


def reading_of(session: TrainingSession, reading_id: int) -> Reading:
    """A reading that belongs to a set of the session; raises `CoachError` for another."""
    found = Reading.objects.select_related("line").filter(line__session=session, pk=reading_id).first()
    if found is None or "bpm" in found.values:
        raise CoachError("This measurement is not of this session.", where="reading")
    return found
