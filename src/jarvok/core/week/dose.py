"""How much a line holds in full work and how heavy it is, from the week's place in the season; the dose takes sets off."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.methods.reserve import HIGHEST_RELIABLE_REPS
from jarvok.core.season.model import PhaseKey
from jarvok.core.week.plan import Level, WeekFacts, cap_pct
from jarvok.core.working import Source

PRILEPIN_SOURCE = Source("P", "Prilepin's chart, as commonly reprinted")


@dataclass(frozen=True)
class DoseZone:
    """Lifts per exercise and session in an intensity zone: shares of the max in %, repetitions a set, total and best."""

    from_pct: float
    below_pct: float
    reps: tuple[int, int]
    total: tuple[int, int]
    best: int


# Prilepin's chart, as commonly reprinted; quoted from memory
DOSE_ZONES = (
    DoseZone(0, 70, (3, 6), (18, 30), 24),
    DoseZone(70, 80, (3, 6), (12, 24), 18),
    DoseZone(80, 90, (2, 4), (10, 20), 15),
    DoseZone(90, 200, (1, 2), (4, 10), 7),
)


def dose_zone(pct: float) -> DoseZone:
    """Return the zone of an intensity in % of the max."""
    return next(z for z in DOSE_ZONES if z.from_pct <= pct < z.below_pct)


# repetitions of a heavy set by its intensity; common practice
REPS_BELOW_PCT = ((72.0, 8), (78.5, 5), (83.5, 4), (89.0, 3), (93.0, 2), (101.0, 1))
HEAVY_PCT = 90.0  # [C]
# a full week of a main line, a small line and a jump line; common practice
MAIN_SETS, SMALL_SETS, SMALL_REPS, JUMP_REPS, LEAST_SMALL_REPS, LIGHT_RIR = 4, 3, 8, 4, 5, 3
LEAST_PCT = 50.0  # [J] nothing lighter is written as strength work
LIFTS_REST = "2:00"  # [C] few repetitions far from failure: no more is needed
MOST_LIGHT_REPS = 3  # [C] a light week keeps intensity and does few repetitions


def heavy_text(facts: WeekFacts, full: int = MAIN_SETS, less_pct: float = 0.0, is_front_squat: bool = False) -> str:
    """Return a main strength line at the week's intensity, less `less_pct`, repetitions by the load."""
    pct = facts.week.intensity_pct - less_pct
    if facts.level is Level.NOVICE:
        return f"{min(3, full)} × {5 if pct >= 78 else 8}, 2 in reserve"
    pct = min(pct, cap_pct(facts.days_out, is_front_squat))
    pct = max(LEAST_PCT, round(pct * 2) / 2)
    reps = next(reps for below, reps in REPS_BELOW_PCT if pct < below)
    if facts.week.is_light:
        reps = min(reps, MOST_LIGHT_REPS)
    return f"{full} × {reps} @ {pct:g} %"


def lifts_text(facts: WeekFacts, less_pct: float = 0.0, share: float = 1.0) -> str:
    """Return a line of a weightlifting lift: the chart's best number of lifts for its zone, in full work."""
    pct = min(facts.week.intensity_pct - less_pct, cap_pct(facts.days_out))
    pct = max(LEAST_PCT, round(pct * 2) / 2)
    zone = dose_zone(pct)
    reps = {0: 3, 70: 3, 80: 2, 90: 1}[int(zone.from_pct)]
    wanted = round(zone.best * share / reps)
    return f"{max(2, min(zone.total[1] // reps, wanted))} × {reps} @ {pct:g} %, rest {LIFTS_REST}"


def accessory_text(facts: WeekFacts, reps: int = SMALL_REPS, full: int = SMALL_SETS, rest: str = "1:00") -> str:
    """Return an accessory line: its own line over the season, light and many, then fewer, out in the taper."""
    if facts.week.phase in (PhaseKey.SPEED_STRENGTH, PhaseKey.PEAK):
        reps, full = max(LEAST_SMALL_REPS, reps - 2), max(2, full - 1)
    if reps > HIGHEST_RELIABLE_REPS:
        return f"{full} × {reps}, rest {rest}"
    reserve = LIGHT_RIR if facts.week.is_light else 2
    return f"{full} × {reps}, {reserve} in reserve, rest {rest}"


def jump_text(facts: WeekFacts, reps: int = JUMP_REPS, full: int = SMALL_SETS, rest: str = "2:00") -> str:
    """Return a jump line: few contacts a set, full rest, fewer for the new."""
    sets = max(1, full - (1 if facts.level is Level.NOVICE else 0))
    return f"{sets} × {reps}, rest {rest}"


def with_accessories(facts: WeekFacts) -> bool:
    """Whether small work belongs in the week: it goes out in the taper."""
    return facts.week.phase is not PhaseKey.TAPER
