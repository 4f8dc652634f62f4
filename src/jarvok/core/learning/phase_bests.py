"""The best of each phase, beside that of the same phase a season before."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import NamedTuple

from jarvok.core.equations import EPLEY, MOST_REPS
from jarvok.core.learning.new_bests import BestKind, DoneSet
from jarvok.core.quantities.mass import said_mass

NEAR_DAYS = 10  # [J] a test without a session belongs to the phase of a session this near before it
THIS, BEFORE = 0, 1  # seasons, counted backwards


class Number(NamedTuple):
    """What is compared: a kind, and the load in kg or the distance in m it was reached with (0: of a lift, its best set)."""

    kind: BestKind
    at: float = 0.0


class Span(NamedTuple):
    """A phase of a season; seasons are counted backwards from the one that runs."""

    season: int
    phase: str


@dataclass(frozen=True)
class Top:
    """The best of a span, as it is compared and as it was done; of a run less is better."""

    score: float
    done: DoneSet

    def words(self, kind: BestKind, unit: str) -> str:
        """It as it is said: `105 kg × 3`, `41.2 cm`, `4.12 s`."""
        d = self.done
        match kind:
            case BestKind.LOAD:
                return f"{said_mass(d.load_kg or 0.0, unit)} × {d.reps}"
            case BestKind.JUMP:
                return f"{self.score:.1f} cm"
            case BestKind.RUN:
                return f"{self.score:.2f} s"
            case BestKind.HOLD:
                return f"{self.score:.0f} s"
            case _:
                return f"{self.score:.2f}"


def numbers_of(item: DoneSet) -> dict[Number, float]:
    """Return what a set reached, by what it is compared with. A load counts by the 1RM that it and its repetitions stand for."""
    found: dict[Number, float] = {}
    if item.load_kg and 1 <= item.reps <= MOST_REPS:
        found[Number(BestKind.LOAD)] = EPLEY.one_rm_kg(item.load_kg, item.reps)
    if item.jump_cm is not None:
        found[Number(BestKind.JUMP, item.load_kg or 0.0)] = item.jump_cm
    if item.reactive is not None:
        found[Number(BestKind.REACTIVE, item.load_kg or 0.0)] = item.reactive
    if item.run_s is not None and item.run_m:
        found[Number(BestKind.RUN, item.run_m)] = item.run_s
    if item.hold_s is not None:
        found[Number(BestKind.HOLD, item.load_kg or 0.0)] = item.hold_s
    return found


def tops(sets: Iterable[DoneSet], spans: Mapping[date, Span]) -> dict[Number, dict[Span, Top]]:
    """Return the best of each span for the sets of one exercise; of equal ones the first. Days without a span are left out."""
    found: dict[Number, dict[Span, Top]] = {}
    for item in sets:
        span = spans.get(item.day)
        if span is None:
            continue
        for number, score in numbers_of(item).items():
            known = found.setdefault(number, {}).get(span)
            is_less = number.kind is BestKind.RUN
            if known is None or (score < known.score if is_less else score > known.score):
                found[number][span] = Top(score, item)
    return found


def spans_of(phases: Mapping[date, str], days: Iterable[date], main_days: Sequence[date]) -> dict[date, Span]:
    """Return the season and phase of each day. `phases` are those that sessions were done in; a season ends with a main
    competition, `main_days` are those that are over. Days of older seasons than the one before belong to none.
    """
    ends, known = sorted(main_days), sorted(phases)
    found: dict[date, Span] = {}
    for day in days:
        at = bisect_left(known, day)
        near = day if day in phases else known[at - 1] if at and (day - known[at - 1]).days <= NEAR_DAYS else None
        season = len(ends) - bisect_left(ends, day)
        if near is not None and phases[near] and season in (THIS, BEFORE):
            found[day] = Span(season, phases[near])
    return found
