"""Whether athletes' maxes moved between two days, beside their error and the smallest change that matters in their squad."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from math import sqrt
from typing import NamedTuple

from jarvok.app import clock
from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete, BodyMass
from jarvok.app.floor.reached import sets_of
from jarvok.core.errors import CoachError
from jarvok.core.learning.measured import MASS_SHARE, WINDOW_DAYS, MeasuredProgress, best_of_days, between_days
from jarvok.core.learning.new_bests import BestKind
from jarvok.core.learning.noise import LEAST_ATHLETES, Change, smallest_worthwhile
from jarvok.core.library.exercises import exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.marks.working_max import TrendPoint
from jarvok.core.quantities.mass import said_mass
from jarvok.core.quantities.plates import unit_of
from jarvok.core.rules import Rules

MEASURED_KINDS = ("jump", "run", "throw", "hold", "carry")
KEY = "measured days"
SPANS_KEPT = 3  # [T] of each athlete
MOST_WEEKS_BACK = 26  # [T] half a year of results stands behind the first day then


@dataclass(frozen=True)
class LiftProgress:
    """A lift's max on two days, in kg, what lies between them, and the unit it is said in."""

    athlete_id: int
    exercise_id: str
    then: TrendPoint
    now: TrendPoint
    change: Change
    unit: str


def with_error(point: TrendPoint, unit: str) -> str:
    """Return a max with one standard error, as it is said: `92 kg ± 4 kg`."""
    return f"{said_mass(point.value_kg, unit, whole=True)} ± {said_mass(point.error_kg, unit, whole=True)}"


def oldest_day() -> date:
    """Return the first day that can be compared with."""
    return clock.today() - timedelta(weeks=MOST_WEEKS_BACK)


def checked_days(first: date, last: date) -> None:
    """Raise `CoachError` for days that cannot be compared."""
    today = clock.today()
    if not first < last <= today:
        raise CoachError("The first day is before the second, and neither is ahead.", where="last", accepted=f"Up to {today}.")
    _check_not_too_old(first, "first")


def checked_day(day: date) -> None:
    """Raise `CoachError` for a day that cannot be looked at."""
    if day > (today := clock.today()):
        raise CoachError("That day is ahead.", where="day", accepted=f"Up to {today}.")
    _check_not_too_old(day, "day")


def _check_not_too_old(day: date, where: str) -> None:
    if day < (oldest := oldest_day()):
        raise CoachError("That is too long ago to be worked out.", where=where, accepted=f"{oldest} or later.")


def progress_of(athlete: Athlete, first: date, rules: Rules) -> list[LiftProgress]:
    """Return the lifts whose max is known on the first day and today, in the library's order."""
    return between([athlete], first, clock.today(), rules)


def between(people: Sequence[Athlete], first: date, last: date, rules: Rules) -> list[LiftProgress]:
    """Return the lifts whose max is known on both days, athlete by athlete, in the library's order.

    The smallest change that matters is known of a lift that three athletes or more have a max of on the first day.
    """
    book = LiftBook(people, last, rules=rules)
    found: list[LiftProgress] = []
    for athlete in people:
        kit = kit_of(athlete.kit)
        for lift in book.lifts_of(athlete.pk):
            points = {p.day: p for p in book.trend(athlete.pk, lift.id, [first, last])} if lift.is_loaded else {}
            then, now = points.get(first), points.get(last)
            if then is not None and now is not None:
                # the error of a difference is the root of the sum of both squared, as √2 typical errors are of two equal ones
                error = sqrt((then.error_kg**2 + now.error_kg**2) / 2)
                change = Change(now.value_kg - then.value_kg, error)
                found.append(LiftProgress(athlete.pk, lift.id, then, now, change, unit_of(implement_for(lift, kit))))
    return _worthwhile(found)


@dataclass(frozen=True)
class Measured:
    """A measure of an athlete around two days: of which exercise and with what, None and nothing for body mass."""

    athlete_id: int
    exercise_id: str | None
    kind: BestKind | None
    at: float
    found: MeasuredProgress
    worthwhile: float | None = None


def measured_between(people: Sequence[Athlete], first: date, last: date) -> list[Measured]:
    """Return jumps, runs, holds, throws and body mass that are known around both days, in the library's order."""
    begins = first - timedelta(days=WINDOW_DAYS - 1)
    days_of = _days_measured(people, begins, last)
    found: list[Measured] = []
    for athlete in people:
        mine = days_of[athlete.pk]
        for lift, kind, at, days in mine.best:
            moved = between_days(days, first, last)
            if moved is not None:
                found.append(Measured(athlete.pk, lift, kind, at, moved))
        daily_kg = MASS_SHARE * max(mine.masses_kg.values(), default=0.0)
        mass = between_days(mine.masses_kg, first, last, least_spread=daily_kg)
        if mass is not None:
            found.append(Measured(athlete.pk, None, None, 0.0, mass))
    return _that_matters(found)


class MeasuredDays(NamedTuple):
    """What was measured of an athlete: the best of each day by exercise, kind and what it was with; body mass by day."""

    best: list[tuple[str, BestKind, float, Mapping[date, float]]]
    masses_kg: dict[date, float]


def _days_measured(people: Sequence[Athlete], begins: date, last: date) -> dict[int, MeasuredDays]:
    """By athlete; of those of whom nothing has changed since the same was asked nothing is read."""
    kept = {pk: rows.setdefault(KEY, {}) for pk, rows in kept_of([a.pk for a in people]).items()}
    found: dict[int, MeasuredDays] = {pk: days for pk, rows in kept.items() if (days := rows.get((begins, last))) is not None}
    missing = [a.pk for a in people if a.pk not in found]
    for pk, days in (_read_days_measured(missing, begins, last) if missing else {}).items():
        found[pk] = kept[pk][begins, last] = days
        if len(kept[pk]) > SPANS_KEPT:
            kept[pk].pop(next(iter(kept[pk])), None)
    return found


def _read_days_measured(athletes: Sequence[int], begins: date, last: date) -> dict[int, MeasuredDays]:
    wanted = [e.id for e in exercises().values() if not e.is_loaded or e.kind in MEASURED_KINDS]
    sets = sets_of(athletes, begins, last, wanted)
    masses = BodyMass.objects.filter(athlete__in=athletes, day__range=(begins, last)).order_by("day", "pk")
    by_day: dict[int, dict[date, float]] = defaultdict(dict)
    for athlete_id, day, mass_kg in masses.values_list("athlete_id", "day", "mass_kg"):
        by_day[athlete_id][day] = mass_kg
    return {
        pk: MeasuredDays(
            [(lift, *of, days) for lift in wanted for of, days in best_of_days(sets.get((pk, lift), ())).items()], by_day[pk]
        )
        for pk in athletes
    }


def _that_matters(found: list[Measured]) -> list[Measured]:
    """Each measure with the smallest change of it that matters in the squad; a body mass is nobody's aim."""
    groups: dict[tuple[str | None, BestKind | None, float], list[float]] = defaultdict(list)
    for m in found:
        groups[m.exercise_id, m.kind, m.at].append(m.found.then.value)
    least = {k: smallest_worthwhile(v) for k, v in groups.items() if k[0] is not None and len(v) >= LEAST_ATHLETES}
    rows = []
    for m in found:
        matters = least.get((m.exercise_id, m.kind, m.at))
        change = replace(m.found.change, worthwhile=matters) if m.found.change is not None else None
        rows.append(replace(m, found=replace(m.found, change=change), worthwhile=matters))
    return rows


def _worthwhile(found: list[LiftProgress]) -> list[LiftProgress]:
    by_lift: dict[str, list[float]] = defaultdict(list)
    for p in found:
        by_lift[p.exercise_id].append(p.then.value_kg)
    least = {lift: smallest_worthwhile(values) for lift, values in by_lift.items() if len(values) >= LEAST_ATHLETES}
    return [replace(p, change=replace(p.change, worthwhile=least.get(p.exercise_id))) for p in found]
