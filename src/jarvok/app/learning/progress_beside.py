"""What stands beside the maxes of two days: ratios between lifts, the velocity of a load, and the days worth comparing."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from itertools import groupby
from math import sqrt

from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.lift_facts import EVIDENCE_DAYS
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.learning.progress import LiftProgress
from jarvok.core.learning.line_moved import LineMoved, line_between
from jarvok.core.learning.noise import Change
from jarvok.core.library.kit import implement_for
from jarvok.core.marks.ratios import RatioRule, ratio_rules, share_pct
from jarvok.core.quantities.plates import unit_of
from jarvok.core.rules import Rules
from jarvok.core.season.model import PHASE_NAMES, PhaseKey

KEY = "lines moved"
SPANS_KEPT = 3  # [T] of each athlete


@dataclass(frozen=True)
class RatioProgress:
    """A ratio of an athlete on two days with its errors, in per cent, and what lies between."""

    athlete_id: int
    rule: RatioRule
    then_pct: float
    then_error_pct: float
    now_pct: float
    now_error_pct: float
    change: Change


def ratios_between(found: Iterable[LiftProgress], rules: Rules) -> list[RatioProgress]:
    """Return the ratios of lifts whose max is known on both days, rule by rule."""
    known: dict[int, dict[str, LiftProgress]] = {}
    for p in found:
        known.setdefault(p.athlete_id, {})[p.exercise_id] = p
    rows = []
    for rule in ratio_rules():
        for athlete_id, lifts in known.items():
            if rule.upper in lifts and rule.lower in lifts:
                upper, lower = lifts[rule.upper], lifts[rule.lower]
                then, then_error = share_pct(rule, upper.then, lower.then, rules.equation)
                now, now_error = share_pct(rule, upper.now, lower.now, rules.equation)
                change = Change(now - then, sqrt((then_error**2 + now_error**2) / 2))
                rows.append(RatioProgress(athlete_id, rule, then, then_error, now, now_error, change))
    return rows


@dataclass(frozen=True)
class LiftLine:
    """A lift whose velocities make a line on both days, and the unit its loads are said in."""

    exercise_id: str
    unit: str
    moved: LineMoved


def lines_moved(athlete: Athlete, first: date, last: date, rules: Rules) -> list[LiftLine]:
    """Return the lifts of an athlete that have a sound load–velocity line of both days, in the library's order."""
    kept: dict[tuple[date, date, Rules], list[LiftLine]] = kept_of([athlete.pk])[athlete.pk].setdefault(KEY, {})
    found = kept.get((first, last, rules))
    if found is None:
        found = kept[first, last, rules] = _lines_moved(athlete, first, last, rules)
        if len(kept) > SPANS_KEPT:
            kept.pop(next(iter(kept)), None)
    return found


def _lines_moved(athlete: Athlete, first: date, last: date, rules: Rules) -> list[LiftLine]:
    book = LiftBook([athlete], last, rules=rules, history_days=EVIDENCE_DAYS + (last - first).days)
    kit, found = kit_of(athlete.kit), []
    for lift in book.lifts_of(athlete.pk):
        points = book.all_points_of(athlete.pk, lift.id)
        if points:
            maxes = {p.day: p.value_kg for p in book.trend(athlete.pk, lift.id, [first, last])}
            moved = line_between(
                points, first, last, then_max_kg=maxes.get(first), now_max_kg=maxes.get(last), rules=rules
            )  # fmt: skip
            if moved is not None:
                found.append(LiftLine(lift.id, unit_of(implement_for(lift, kit)), moved))
    return found


def ends_of_phases(athlete: Athlete, since: date, until: date) -> list[tuple[date, str]]:
    """Return the last day trained in each phase between two days, oldest first, with the phase's name."""
    rows = TrainingSession.objects.filter(athlete=athlete, day__range=(since, until), phase__in=list(PhaseKey))
    done = rows.order_by("day", "pk").values_list("day", "phase")
    return [(list(days)[-1][0], PHASE_NAMES[PhaseKey(phase)]) for phase, days in groupby(done, key=lambda row: row[1])]
