"""What a planned season consists of."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from typing import Any

from jarvok.core.season.calendar import Span
from jarvok.core.season.taper import TaperStyle
from jarvok.core.working import Working


class PhaseKey(StrEnum):
    """What a phase mostly trains; several arrangements share these under names of their own."""

    GENERAL = "general"
    BASE = "base"
    STRENGTH_SPEED = "strength_speed"
    SPEED_STRENGTH = "speed_strength"
    TAPER = "taper"
    VOLUME = "volume"
    PEAK = "peak"
    MIXED = "mixed"
    DOSES = "doses"
    IN_SEASON = "in_season"


PHASE_NAMES: dict[PhaseKey, str] = {
    PhaseKey.GENERAL: "General preparation",
    PhaseKey.BASE: "Base strength",
    PhaseKey.STRENGTH_SPEED: "Strength-speed",
    PhaseKey.SPEED_STRENGTH: "Speed-strength",
    PhaseKey.TAPER: "Taper",
    PhaseKey.VOLUME: "Volume",
    PhaseKey.PEAK: "Heavy",
    PhaseKey.MIXED: "Concurrent",
    PhaseKey.DOSES: "Small doses",
    PhaseKey.IN_SEASON: "In season",
}


class Rank(StrEnum):
    """How much a competition counts: prepared for, freshened up for, trained through; or only perhaps entered."""

    MAIN = "main"
    SECONDARY = "secondary"
    THROUGH = "train_through"
    MAYBE = "maybe"
    BLOCK = "block"  # no competition: the end of a block of weeks


RANK_NAMES: dict[Rank, str] = {
    Rank.MAIN: "main",
    Rank.SECONDARY: "secondary",
    Rank.THROUGH: "train through",
    Rank.MAYBE: "maybe",
    Rank.BLOCK: "block",
}
RANKS = tuple(r for r in Rank if r is not Rank.BLOCK)  # what a competition can be


NO_COMPETITION_DAYS = 999  # [T]


class BlockWay(StrEnum):
    """How the weeks of a block without a competition are laid out."""

    RISING = "rising"
    MODEL = "model"
    OPEN = "open"  # weeks before a block for which nothing is planned


@dataclass(frozen=True)
class TrainingBlock:
    """How a block without a competition is laid out, whether its last week is one of tests, and the Monday it begins on
    (None: where the season before it ends).
    """

    way: BlockWay = BlockWay.RISING
    has_test_week: bool = False
    starts: date | None = None

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> TrainingBlock:
        """Return a kept block."""
        starts = raw.get("starts")
        return cls(BlockWay(raw["way"]), bool(raw["has_test_week"]), date.fromisoformat(starts) if starts else None)

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        starts = self.starts.isoformat() if self.starts is not None else None
        return {"version": 1, "way": self.way.value, "has_test_week": self.has_test_week, "starts": starts}


@dataclass(frozen=True)
class Target:
    """A competition of one or several days. `pins` are phase lengths in weeks the coach has set on the way to it;
    `last_session_days_out` is how many days before it the last session of any size lies, where its events say so.
    """

    name: str
    day: date
    rank: Rank = Rank.MAIN
    last_day: date | None = None
    pins: tuple[tuple[str, int], ...] = ()
    last_session_days_out: int | None = None
    block: TrainingBlock | None = None

    @property
    def end(self) -> date:
        """Its last day."""
        return self.last_day or self.day


@dataclass(frozen=True)
class Phase:
    """One phase of whole weeks from a Monday to a Sunday; the taper ends on the competition's last day.

    `id` is its name within the stretch to one competition (`toward`); `key` what it mostly trains. A taper is counted in
    days: `first_day` may lie inside a week, of the phase before it too.
    """

    key: PhaseKey
    start: date
    end: date
    weeks: int
    pinned: bool
    id: str
    name: str
    toward: str
    least_weeks: int = 1
    most_weeks: int = 26  # [J]
    taper_day: date | None = None

    @property
    def first_day(self) -> date:
        """The day it begins: its Monday, or the first day of the taper."""
        return self.taper_day or self.start


@dataclass(frozen=True)
class TaperWindow:
    """The days of one taper, from `first` to the day before the competition, under a style as long as they are.

    `volume_before` is that of the last full weeks before it, relative to a full base week: what the taper takes off from.
    """

    first: date
    day: date
    style: TaperStyle
    volume_before: float = 1.0

    def share_on(self, day: date) -> float | None:
        """Volume of a day relative to before (0-1), or None outside the window."""
        at = (day - self.first).days
        return self.style.volume_share(at) if 0 <= at < self.style.days else None

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> TaperWindow:
        """Return a window as it was kept."""
        first, day = (date.fromisoformat(raw[k]) for k in ("first", "day"))
        return cls(first, day, TaperStyle.from_raw(raw["style"]), float(raw["volume_before"]))

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {
            "first": self.first.isoformat(),
            "day": self.day.isoformat(),
            "style": self.style.to_raw(),
            "volume_before": self.volume_before,
        }


@dataclass(frozen=True)
class SeasonWeek:
    """One week: planned volume relative to a full base week (1.0), top intensity in % of max, and its place.

    `competition` and `competition_day` are what it leads to; `matches` how many are played in it, `match_days` the days of
    those and of the weeks beside it; `closed` the days on which nothing is trained; `taper` the window some of its days lie
    in; `calendar_share` what the calendar leaves of its volume; `volume_before_taper` that of its days before the window;
    `keeps_strength` whether strength lifts stay to the end of its season model; `is_back` whether it ramps after days off or
    a competition.
    """

    index: int
    start: date
    phase: PhaseKey
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    volume: float
    intensity_pct: float
    progress: float
    phase_id: str
    phase_name: str
    competition: str
    competition_day: date
    matches: int = 0
    note: str = ""
    match_days: tuple[date, ...] = ()
    closed: tuple[date, ...] = ()
    taper: TaperWindow | None = None
    calendar_share: float = 1.0
    last_session_days_out: int = 2  # [C]
    volume_before_taper: float = 0.0
    keeps_strength: bool = True
    has_competition: bool = True
    is_back: bool = False

    def days_out(self, day: date) -> int:
        """Days from a day to the competition it leads to; far off where there is none."""
        return (self.competition_day - day).days if self.has_competition else NO_COMPETITION_DAYS

    @property
    def end(self) -> date:
        """The week's Sunday."""
        return self.start + timedelta(days=6)

    @property
    def load(self) -> float:
        """Planned weekly load, relative: volume times intensity."""
        return self.volume * self.intensity_pct / 100

    @property
    def is_full(self) -> bool:
        """Whether it is a whole loading week: what a taper is measured against."""
        return not self.is_light and self.taper is None and self.calendar_share >= 1

    @property
    def is_light(self) -> bool:
        """Whether nothing may be added to it: an easy week or a taper."""
        return self.is_easy or self.phase is PhaseKey.TAPER


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
    """A whole season worked out backwards from its competitions. `competition_day` is the first main one ahead;
    `planned_on` the day it was planned: days of its first week before that hold nothing to be missed.
    """

    start: date
    competition_day: date
    phases: tuple[Phase, ...]
    weeks: tuple[SeasonWeek, ...]
    notes: tuple[SeasonNote, ...]
    residuals: tuple[Residual, ...]
    working: Working
    targets: tuple[Target, ...] = ()
    arrangement: str = "force_velocity"
    spans: tuple[Span, ...] = ()
    planned_on: date = date.min

    def week_of(self, day: date) -> SeasonWeek | None:
        """Return the week a day lies in, or None outside the season."""
        at = (day - self.start).days // 7
        return self.weeks[at] if 0 <= at < len(self.weeks) else None


@dataclass(frozen=True)
class HandWeek:
    """What the coach has set of one week by hand: its volume and its top, in % of a full base week and of the max."""

    volume_pct: float | None = None
    top_pct: float | None = None


def weeks_words(count: int) -> str:
    """Return a number of weeks in words: 1 week, 3 weeks."""
    return "1 week" if count == 1 else f"{count} weeks"


def monday_of(day: date) -> date:
    """Return the Monday of the day's week."""
    return day - timedelta(days=day.weekday())
