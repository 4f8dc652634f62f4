"""How far off an athlete's own count of repetitions in reserve usually is, from later sets taken to failure."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import fmean, stdev

from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working

SAME_LOAD_PCT = 2.5  # [J] two sets at loads this near are taken as the same load
LOOK_BACK_DAYS = 180  # [J]
SOURCE = Source("J", "Jarvok's default; that the count is checked against sets to failure is common practice")


@dataclass(frozen=True)
class ReservePair:
    """A set with a count and a later set to failure at the same load: repetitions said and repetitions there were."""

    day: date
    load_kg: float
    said_reps: float
    there_reps: int
    ref: str

    @property
    def off_by(self) -> float:
        """Repetitions there were beyond those said: above 0 the athlete had more left than counted."""
        return self.there_reps - self.said_reps


@dataclass(frozen=True)
class ReserveOffset:
    """How far off the count usually is in repetitions (mean and spread), from how many pairs, in words, with its working."""

    off_by: float
    spread: float
    pairs: tuple[ReservePair, ...]
    is_trusted: bool
    words: str
    working: Working


def reserve_pairs(history: Iterable[PastSession], day: date) -> tuple[ReservePair, ...]:
    """Return every set with a count that a later set of its line, at the same load, shows up. Oldest session first."""
    found: list[ReservePair] = []
    for session in history:
        if session.day < day - timedelta(days=LOOK_BACK_DAYS) or session.day > day:
            continue
        for i, counted in enumerate(session.sets):
            later = next((s for s in session.sets[i + 1 :] if _to_failure(s) and _same_load(s, counted)), None)
            if counted.rir and counted.load_kg and later is not None:
                said = counted.reps + counted.rir
                found.append(ReservePair(session.day, counted.load_kg, said, later.reps, session.ref))
    return tuple(found)


def _to_failure(item: PastSet) -> bool:
    """A set that ended at the limit: nothing in reserve, or fewer repetitions than planned."""
    return item.rir == 0 or (item.rir is None and item.planned_reps is not None and item.reps < item.planned_reps)


def _same_load(one: PastSet, other: PastSet) -> bool:
    if not one.load_kg or not other.load_kg:
        return False
    return abs(one.load_kg - other.load_kg) <= SAME_LOAD_PCT / 100 * other.load_kg


def reserve_offset(histories: Iterable[Iterable[PastSession]], day: date, rules: Rules = DEFAULT_RULES) -> ReserveOffset | None:
    """Return how far off an athlete's count usually is over the lifts in `histories`, or None with too few pairs.

    The later set is done tired, so the number is the least the athlete had in reserve: a count that reads low is surely
    low, one that reads a repetition high may be right.
    """
    pairs = tuple(pair for history in histories for pair in reserve_pairs(history, day))
    if len(pairs) < rules["max.reserve_pairs"]:
        return None
    off_by = fmean(p.off_by for p in pairs)
    spread = stdev([p.off_by for p in pairs])
    trusted = abs(off_by) <= rules["max.reserve_trusted"]
    if trusted:
        words = "counts well: within a repetition of what is there"
    elif off_by > 0:
        words = f"has about {off_by:.0f} more in reserve than said"
    else:
        words = f"has about {-off_by:.0f} fewer in reserve than said, later sets being done tired"
    newest = sorted(pairs, key=lambda p: p.day)[-5:]
    working = Working(
        f"{off_by:+.1f} repetitions ± {spread:.1f}",
        "repetitions in a later set to failure at the same load, less repetitions done and said in reserve; mean of the pairs",
        SOURCE,
        tuple(
            Input(f"{said_day(p.day)}, {p.load_kg:g} kg", f"said {p.said_reps:g}, there were {p.there_reps}", p.ref)
            for p in newest
        ),
        caution="The later set is done tired: what is there is at least this.",
    )
    return ReserveOffset(off_by, spread, pairs, trusted, words, working)
