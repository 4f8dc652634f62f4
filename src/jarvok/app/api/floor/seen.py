"""What a mat, gates or a device with results only saw of a set, over HTTP."""

from __future__ import annotations

from collections.abc import Iterable

from jarvok.app.facts.room.models import Reading
from jarvok.app.floor.seen import words_of_reading
from jarvok.app.schema import Schema


class JumpOut(Schema):
    height_cm: float
    contact_s: float | None
    rsi: float | None


class GateSplitOut(Schema):
    gate: int
    at: str  # the distance, or which gate
    seconds: float


class SeenOut(Schema):
    """One measurement in words; `sort` is what it is called: jump, split or velocity."""

    id: int
    words: str
    sort: str


def seen_out(readings: Iterable[Reading]) -> list[SeenOut]:
    """The measurements behind a set, oldest first."""
    return [SeenOut(id=r.pk, words=words_of_reading(r.values), sort=_sort(r)) for r in readings]


def _sort(reading: Reading) -> str:
    if "gate" in reading.values:
        return "split"
    return "velocity" if "mps" in reading.values else "jump"
