"""What a planned season consists of."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from jarvok.core.working import Working


class PhaseKey(StrEnum):
    """Phases of the force-velocity progression, in order of time."""

    GENERAL = "general"
    BASE = "base"
    STRENGTH_SPEED = "strength_speed"
    SPEED_STRENGTH = "speed_strength"
    TAPER = "taper"


PHASE_NAMES: dict[PhaseKey, str] = {
    PhaseKey.GENERAL: "General preparation",
    PhaseKey.BASE: "Base strength",
    PhaseKey.STRENGTH_SPEED: "Strength-speed",
    PhaseKey.SPEED_STRENGTH: "Speed-strength",
    PhaseKey.TAPER: "Taper",
}


@dataclass(frozen=True)
class Phase:
    """One phase: whole weeks from a Monday to a Sunday; the last one ends on the competition day."""

    key: PhaseKey
    start: date
    end: date
    weeks: int
    pinned: bool

    @property
    def name(self) -> str:
        """The phase's name on screen."""
        return PHASE_NAMES[self.key]


@dataclass(frozen=True)
class SeasonWeek:
    """One week: planned volume relative to a full base week (1.0), top intensity in % of max, and its place."""

    index: int
    start: date
    phase: PhaseKey
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    volume: float
    intensity_pct: float
    progress: float

    @property
    def end(self) -> date:
        """The week's Sunday."""
        return self.start + timedelta(days=6)

    @property
    def load(self) -> float:
        """Planned weekly load, relative: volume times intensity."""
        return self.volume * self.intensity_pct / 100


@dataclass(frozen=True)
class SeasonNote:
    """A remark for the margin: `decision` notes ask for one, others only tell. `week` is the week it stands beside."""

    id: str
    title: str
    text: str
    source: str
    decision: bool = False
    week: int | None = None


@dataclass(frozen=True)
class Residual:
    """When a quality was last trained well before the day and until when it is expected to hold."""

    quality: str
    spans: tuple[tuple[date, date], ...]
    last_exposure: date
    holds_days: tuple[int, int]
    expires: date
    covers_competition: bool
    text: str


@dataclass(frozen=True)
class SeasonPlan:
    """A whole season worked out backwards from one competition."""

    start: date
    competition_day: date
    phases: tuple[Phase, ...]
    weeks: tuple[SeasonWeek, ...]
    notes: tuple[SeasonNote, ...]
    residuals: tuple[Residual, ...]
    working: Working

    def week_of(self, day: date) -> SeasonWeek | None:
        """Return the week a day lies in, or None outside the season."""
        return next((w for w in self.weeks if w.start <= day <= w.end), None)


def monday_of(day: date) -> date:
    """Return the Monday of the day's week."""
    return day - timedelta(days=day.weekday())
