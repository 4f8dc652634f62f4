"""What an arrangement over time consists of: its phases, its rhythm, its taper, and what it is good and bad for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from jarvok.core.season.model import PhaseKey
from jarvok.core.season.taper import PUBLISHED_DAYS, Shape, TaperStyle
from jarvok.core.working import COMMON_PRACTICE, Source


@dataclass(frozen=True)
class PhaseRule:
    """One phase of an arrangement.

    Least and most weeks; `share` of the time before the taper; `volume` relative to a full base week; lowest and highest
    intensity in % of max. `given_up` orders what goes first when time is short (0 goes first, None never goes). `builds`
    and `keeps` name qualities. `exercises` and `accessories` say in words how they change.
    """

    id: str
    name: str
    key: PhaseKey
    least_weeks: int
    most_weeks: int
    share: float
    volume: float
    intensity_pct: tuple[float, float]
    given_up: int | None
    builds: tuple[str, ...]
    keeps: tuple[str, ...]
    exercises: str
    accessories: str


# 8 to 14 days, 41 to 60 % less volume: Bosquet et al. 2007, quoted from memory
USUAL_TAPER = TaperStyle(12, Shape.FAST)
SHORT = TaperStyle(PUBLISHED_DAYS[0], Shape.STEP)


@dataclass(frozen=True)
class TaperRule:
    """The last phase: its usual taper and the one where time is short, and the top intensity in %.

    `keeps_strength` says that strength work stays to the end: sets fall, percentages do not. Where the lifts have been
    replaced along their chains, speed stays and loads fall with them. Nothing is trained in the last days before
    `last_session_days_out`.
    """

    style: TaperStyle = USUAL_TAPER
    short: TaperStyle = SHORT
    intensity_pct: float = 87.5  # kept at 85 % and more (Pritchard et al. 2015, quoted from memory)
    name: str = "Taper"
    keeps_strength: bool = True
    last_session_days_out: int = 2  # [C]


@dataclass(frozen=True)
class Arrangement:
    """A way to arrange a season.

    `phases_for` gives the phases before the taper for a number of weeks, in order of time. `loading_weeks` are followed by
    an easier one; None where fatigue is regulated reactively. `waves` are the volumes of successive loading weeks. Nothing
    of 90 % and over lies within `heavy_days_out` of the day. `base` names the phase the rest stands on.
    """

    key: str
    name: str
    phases_for: Callable[[int], tuple[PhaseRule, ...]]
    base: str
    loading_weeks: int | None
    waves: tuple[float, ...]
    taper: TaperRule
    heavy_days_out: int
    good_for: str
    for_whom: str
    weakness: str
    fatigue: str
    how: str
    source: Source = COMMON_PRACTICE


def fixed(*phases: PhaseRule) -> Callable[[int], tuple[PhaseRule, ...]]:
    """Return phases that are the same however much time there is."""

    def phases_for(_weeks: int) -> tuple[PhaseRule, ...]:
        return phases

    return phases_for


RISING = (0.9, 1.0, 1.1)  # [J] three rising weeks
GENERAL = PhaseRule(
    id="general",
    name="General preparation",
    key=PhaseKey.GENERAL,
    least_weeks=0,
    most_weeks=26,
    share=0.0,
    volume=0.8,  # [J]
    intensity_pct=(65.0, 72.5),  # [J]
    given_up=0,
    builds=("strength endurance",),
    keeps=("aerobic endurance",),
    exercises="back to moving load: the base movements, lighter and longer sets",
    accessories="light, high volume",
)
