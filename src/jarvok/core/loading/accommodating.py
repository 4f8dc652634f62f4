"""Bands and chains: the load at the bottom and at the top of the movement."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from jarvok.core.errors import CoachError


class Attachment(StrEnum):
    """What hangs on the bar. Reverse bands hold it from above and help at the bottom."""

    BANDS = "bands"
    CHAINS = "chains"
    REVERSE = "reverse bands"


CAUTION = {
    Attachment.BANDS: "Check every attachment, step back inside the bands' line, no one in front of them.",
    Attachment.CHAINS: "Both chains alike, a few links on the floor at the bottom.",
    Attachment.REVERSE: "Check every attachment. More than the full lift is meant here: it keeps its own best.",
}


HANGING_WORDS = ("band", "chain")  # of a line as written; nothing else in one has them
ADDED = ("bands added", "chains added")  # how a variation of a lift says it in the note of its line
_HANGS = re.compile(r"\b(?:(reverse\s+bands?)|(bands?)|(chains?))\b", re.IGNORECASE)


@lru_cache(maxsize=4096)
def hung_on(text: str, note: str = "") -> Attachment | None:
    """Return what hangs on the bar of a line, from the line as written or the variation its note names; None for a free bar.

    A load with something on it, and its velocity, are no load and no velocity of the free lift.
    """
    found = _HANGS.search(text)
    if found is None:
        said = next((words for words in ADDED if words in note), "")
        return Attachment(said.split()[0]) if said else None
    return Attachment.REVERSE if found.group(1) else Attachment.BANDS if found.group(2) else Attachment.CHAINS


@dataclass(frozen=True)
class MeasuredPull:
    """A pair of bands or chains as measured at one rack height: kg at the bottom and at the top of the movement.

    For reverse bands `bottom_kg` is what they take off at the bottom, `top_kg` at the top.
    """

    name: str
    kind: Attachment
    at: str
    bottom_kg: float
    top_kg: float

    @property
    def words(self) -> str:
        """Its name and where it was measured."""
        return f"{self.name}, {self.at}" if self.at else self.name

    @property
    def meant_kg(self) -> float:
        """The number a line is written with: the pull at the top, or the help of reverse bands at the bottom."""
        return self.bottom_kg if self.kind is Attachment.REVERSE else self.top_kg


def nearest_pull(pulls: Sequence[MeasuredPull], kind: Attachment, wanted_kg: float) -> MeasuredPull | None:
    """Return the measured pair of a kind nearest to what a line asks for, the lighter of two; None without any."""
    alike = [p for p in pulls if p.kind is kind]
    return min(alike, key=lambda p: (abs(p.meant_kg - wanted_kg), p.meant_kg), default=None)


def with_pull(bar_kg: float, pull: MeasuredPull) -> TwoLoads:
    """Return bottom and top for a bar of `bar_kg` with a measured pair on. Raises `CoachError` as `two_loads` does."""
    if pull.kind is Attachment.REVERSE:
        held = two_loads(bar_kg, pull.bottom_kg, pull.kind)
        return TwoLoads(held.bottom_kg, bar_kg - pull.top_kg)
    return TwoLoads(bar_kg + pull.bottom_kg, bar_kg + pull.top_kg)


@dataclass(frozen=True)
class TwoLoads:
    """Load in kg at the bottom and at the top of the movement."""

    bottom_kg: float
    top_kg: float


def two_loads(bar_kg: float, extra_kg: float, attachment: Attachment) -> TwoLoads:
    """Return bottom and top for a loaded bar of `bar_kg` and `extra_kg` of band pull or lifted chain.

    Bands and chains add at the top what they do not weigh at the bottom; reverse bands take off at the bottom. Raises
    `CoachError` when reverse bands would carry the whole bar.
    """
    if attachment is Attachment.REVERSE:
        if extra_kg >= bar_kg:
            raise CoachError(
                f"Reverse bands of {extra_kg:g} kg would carry the whole bar of {bar_kg:g} kg.",
                where="load",
                accepted="Lighter bands or a heavier bar.",
            )
        return TwoLoads(bar_kg - extra_kg, bar_kg)
    return TwoLoads(bar_kg, bar_kg + extra_kg)


def chain_kg(kg_per_metre: float, lifted_m: float, hanging_at_bottom_m: float = 0.0) -> TwoLoads:
    """Return what a pair of chains adds at bottom and top: mass per metre of both times the metres off the floor."""
    return TwoLoads(kg_per_metre * hanging_at_bottom_m, kg_per_metre * (hanging_at_bottom_m + lifted_m))
