"""Tapers: shape, length and depth, and the volume of each day under them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from math import exp
from typing import Any

from jarvok.core.errors import CoachError

VERSION = 2  # [T] of a kept taper; the first kept the depth reached at its end
PUBLISHED_DAYS = (8, 14)  # Bosquet et al. 2007, quoted from memory
PUBLISHED_CUT_PCT = (41.0, 60.0)  # Bosquet et al. 2007, quoted from memory
STRENGTH_CUT_PCT = (30.0, 70.0)  # Pritchard et al. 2015, quoted from memory
LEAST_FREQUENCY_PCT = 80.0  # Mujika & Padilla 2003, quoted from memory
FAST_DAYS, SLOW_DAYS = 4.0, 8.0  # time constants of fast and slow decay: Mujika & Padilla 2003, quoted from memory


class Shape(StrEnum):
    """How volume falls; Mujika & Padilla 2003."""

    STEP = "step"
    LINEAR = "linear"
    FAST = "exponential, fast"
    SLOW = "exponential, slow"


@dataclass(frozen=True)
class TaperStyle:
    """A taper as the coach chose it: days, shape, depth in % of volume taken off in all, frequency in % of sessions kept."""

    days: int = 12  # [P] 8 to 14: Bosquet et al. 2007, quoted from memory
    shape: Shape = Shape.STEP
    depth_pct: float = 50.0  # [P] 41 to 60: Bosquet et al. 2007, quoted from memory
    frequency_pct: float = 100.0

    def volume_share(self, day: int) -> float:
        """Return the volume relative to before (0-1), on a day into the taper (0 is its first day, `days` the competition).

        However the volume falls, the days together take off the depth: a shape that begins gently ends lower.
        """
        return max(0.0, 1 - _steepness(self.days, self.shape, self.depth_pct) * _fall(self.shape, day, self.days))

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> TaperStyle:
        """Return a kept taper. One of the first version kept what is off at its end; its cut over all days stays."""
        days, shape, depth_pct = int(raw["days"]), Shape(raw["shape"]), float(raw["depth_pct"])
        if int(raw.get("version", 1)) == 1:
            depth_pct = round(depth_pct * sum(_fall(shape, d, days) for d in range(days)) / days, 1)
        return cls(days, shape, depth_pct, float(raw["frequency_pct"]))

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {
            "version": VERSION,
            "days": self.days,
            "shape": self.shape.value,
            "depth_pct": self.depth_pct,
            "frequency_pct": self.frequency_pct,
        }

    @property
    def at_its_end_pct(self) -> float:
        """The volume taken off on its last day in %."""
        return round(100 * (1 - self.volume_share(self.days - 1)), 1)


def _fall(shape: Shape, day: int, days: int) -> float:
    """How far along its fall a shape is on a day (0-1)."""
    match shape:
        case Shape.STEP:
            return 1.0
        case Shape.LINEAR:
            return min(1.0, (day + 1) / days)
        case Shape.FAST:
            return 1 - exp(-(day + 1) / FAST_DAYS)
        case Shape.SLOW:
            return 1 - exp(-(day + 1) / SLOW_DAYS)


HALVINGS = 40  # [T] of the search: far finer than a set


@lru_cache(maxsize=512)
def _steepness(days: int, shape: Shape, depth_pct: float) -> float:
    """How steeply a shape falls so that its days together take off the depth; no day goes below nothing."""
    falls = [_fall(shape, d, days) for d in range(days)]
    wanted = (1 - depth_pct / 100) * days
    low, high = 0.0, 1 / min(falls)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        left = sum(max(0.0, 1 - middle * f) for f in falls)
        low, high = (middle, high) if left > wanted else (low, middle)
    return high


def check_taper(style: TaperStyle) -> TaperStyle:
    """Return a taper that can be; raise `CoachError` for one that cannot."""
    for where, value, low, high, unit in (
        # [J] wider than any taper on record
        ("taper_days", style.days, 4, 28, "days"),
        ("taper_depth_pct", style.depth_pct, 0, 90, "%"),
        ("taper_frequency_pct", style.frequency_pct, 20, 100, "%"),
    ):
        if not low <= value <= high:
            raise CoachError(
                f"{value:g} {unit} cannot be a taper.", where=where, accepted=f"{low} to {high} {unit} are accepted."
            )
    return style


def remarks(style: TaperStyle) -> tuple[str, ...]:
    """Return in words where a taper lies outside what was published; empty when nowhere."""
    said: list[str] = []
    low, high = PUBLISHED_DAYS
    if not low <= style.days <= high:
        said.append(f"{style.days} days; {low} to {high} gave the largest effect on average (Bosquet et al. 2007)")
    low_pct, high_pct = PUBLISHED_CUT_PCT
    if not low_pct <= style.depth_pct <= high_pct:
        inside = STRENGTH_CUT_PCT[0] <= style.depth_pct <= STRENGTH_CUT_PCT[1]
        also = "; strength tapers of 30 to 70 % are known (Pritchard et al. 2015)" if inside else ""
        words = f"volume {style.depth_pct:.0f} % down; {low_pct:g} to {high_pct:g} % is published (Bosquet et al. 2007)"
        said.append(words + also)
    if style.frequency_pct < LEAST_FREQUENCY_PCT:
        said.append(
            f"{style.frequency_pct:g} % of the days; {LEAST_FREQUENCY_PCT:g} % and more is advised (Mujika & Padilla 2003)"
        )
    return tuple(said)
