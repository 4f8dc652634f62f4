"""Recorded bar positions and device tables, put where they belong: a set of a session, or the athlete's record."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from jarvok.app.facts.room.models import DeviceColumns
from jarvok.core.errors import CoachError
from jarvok.core.interchange.velocity_files import RepTable, read_reps


@dataclass(frozen=True)
class TraceTaken:
    """What a recorded trace gave: repetitions, samples a second, and what was left out."""

    reps: int
    rate_hz: float
    problems: tuple[str, ...]


def columns_of(device: str) -> DeviceColumns | None:
    """What the columns of a device meant last time."""
    return DeviceColumns.objects.filter(device=device.strip()).first()


def preview(device: str, text: str, mapping: Mapping[str, str], units: Mapping[str, str]) -> RepTable:
    """Read a device's table with the given columns, else those kept for the device, else guessed from their names."""
    kept = columns_of(device)
    if mapping:
        return read_reps(text, mapping, units)
    if kept is not None:
        try:
            return read_reps(text, kept.mapping, kept.units)
        except CoachError:
            pass  # the device writes other columns now: guess anew
    return read_reps(text, None, units)
