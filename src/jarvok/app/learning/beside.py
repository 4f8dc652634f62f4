"""Two athletes of a squad on one day, and what two phases of an athlete brought."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import groupby

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.lift_facts import EVIDENCE_DAYS
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.reached import sets_of
from jarvok.app.learning.progress import MEASURED_KINDS
from jarvok.app.learning.weeks import weeks_of
from jarvok.core.learning.beside import Brought, Known, athletes_beside, phases_beside
from jarvok.core.learning.measured import WINDOW_DAYS, MeasuredProgress, best_of_days, between_athletes
from jarvok.core.learning.new_bests import BestKind
from jarvok.core.learning.noise import LEAST_ATHLETES, Change, smallest_worthwhile
from jarvok.core.library.exercises import exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.marks.working_max import TrendPoint
from jarvok.core.quantities.plates import unit_of
from jarvok.core.rules import Rules
from jarvok.core.season.model import PHASE_NAMES, PhaseKey

LEAST_DAYS = 7  # [J] shorter, and both ends of a phase are the same sessions
MOST_BREAK_DAYS = 14  # [J] after a longer one a phase is counted from its own first day: what the break cost is not its own


@dataclass(frozen=True)
class Phase:
    """A phase that was trained, from its first day to its last, and the day whose numbers it began with.

    That is the last day of the phase before it, or its own first day where nothing came before.
    """

    name: str
    since: date
    began: date
    until: date

    @property
    def key(self) -> str:
        """What it is chosen by: no two end on one day."""
        return self.until.isoformat()


@dataclass(frozen=True)
class LiftBeside:
    """The maxes of a lift that are compared, in kg: of two athletes, or what two phases brought; in which unit they are said."""

    exercise_id: str
    first: Known | Brought
    second: Known | Brought
    change: Change
    unit: str


@dataclass(frozen=True)
class MeasureBeside:
    """A jump, run, hold or throw of two athletes: `found.then` of the one, `found.now` of the other."""

    exercise_id: str
    kind: BestKind
    at: float
    found: MeasuredProgress


@dataclass(frozen=True)
class PhaseWork:
    """What was done in a phase, a week."""

    weeks: float
    sessions: float
    main_sets: float
    load_au: float


def phases_trained(athlete: Athlete, since: date, until: date) -> list[Phase]:
    """Return the phases trained between two days, oldest first, but for those shorter than a week."""
    rows = TrainingSession.objects.filter(athlete=athlete, day__range=(since, until), phase__in=list(PhaseKey))
    done = rows.order_by("day", "pk").values_list("day", "phase")
    found: list[Phase] = []
    before: date | None = None
    for phase, some in groupby(done, key=lambda row: row[1]):
        days = [day for day, _ in some]
        joins = before is not None and (days[0] - before).days <= MOST_BREAK_DAYS
        begins = before if joins and before is not None else days[0]
        if (days[-1] - begins).days >= LEAST_DAYS:
            found.append(Phase(PHASE_NAMES[PhaseKey(phase)], begins, days[0], days[-1]))
        before = days[-1]
    return found


def phases_of(athlete: Athlete, first: Phase, second: Phase, rules: Rules) -> list[LiftBeside]:
    """Return what both phases brought in each lift whose max is known at their ends, in the library's order."""
    days = sorted({first.since, first.until, second.since, second.until})
    book = LiftBook([athlete], days[-1], rules=rules, history_days=EVIDENCE_DAYS + (days[-1] - days[0]).days)
    kit, found = kit_of(athlete.kit), []
    for lift in book.lifts_of(athlete.pk):
        points = {p.day: _known(p) for p in book.trend(athlete.pk, lift.id, days)} if lift.is_loaded else {}
        if len(points) == len(days):
            one, other = (Brought(points[p.since], points[p.until]) for p in (first, second))
            found.append(LiftBeside(lift.id, one, other, phases_beside(one, other), unit_of(implement_for(lift, kit))))
    return found


def work_of(athlete: Athlete, phase: Phase, rules: Rules) -> PhaseWork:
    """Return what was done from the first to the last day trained in a phase, a week; practice is in the load."""
    found = weeks_of([athlete], phase.began, phase.until, rules, planned_from=phase.until + timedelta(weeks=1))[athlete.pk]
    days = {phase.began + timedelta(days=i) for i in range((phase.until - phase.began).days + 1)}
    started = [s for w in found for s in w.sessions if s.session_id is not None and s.day in days]
    load_au = sum(s.done_au for s in started) + sum(au for w in found for day, au in w.practice_au.items() if day in days)
    weeks = len(days) / 7
    return PhaseWork(weeks, len(started) / weeks, sum(s.done.main_sets for s in started) / weeks, load_au / weeks)


def athletes_of(people: Sequence[Athlete], one: Athlete, other: Athlete, day: date, rules: Rules) -> list[LiftBeside]:
    """Return the lifts whose max is known of both on a day, in the library's order.

    The smallest difference that matters is known of a lift that three or more of `people` have a max of.
    """
    book = LiftBook(people, day, rules=rules)
    kit, found = kit_of(one.kit), []
    for lift in book.lifts_of(one.pk):
        if not lift.is_loaded or lift not in book.lifts_of(other.pk):
            continue
        points = {a.pk: p for a in people for p in book.trend(a.pk, lift.id, [day])}
        if one.pk in points and other.pk in points:
            values = [p.value_kg for p in points.values()]
            least = smallest_worthwhile(values) if len(values) >= LEAST_ATHLETES else None
            first, second = _known(points[one.pk]), _known(points[other.pk])
            change = athletes_beside(first, second, least)
            found.append(LiftBeside(lift.id, first, second, change, unit_of(implement_for(lift, kit))))
    return found


def measures_of(one: Athlete, other: Athlete, day: date) -> list[MeasureBeside]:
    """Return jumps, runs, holds and throws that are known of both around a day, in the library's order."""
    wanted = [e.id for e in exercises().values() if not e.is_loaded or e.kind in MEASURED_KINDS]
    sets = sets_of([one.pk, other.pk], day - timedelta(days=WINDOW_DAYS - 1), day, wanted)
    found: list[MeasureBeside] = []
    for lift in wanted:
        days = [best_of_days(sets.get((a.pk, lift), ())) for a in (one, other)]
        for key, mine in days[0].items():
            compared = between_athletes(mine, days[1].get(key, {}), day)
            if compared is not None:
                found.append(MeasureBeside(lift, *key, compared))
    return found


def _known(point: TrendPoint) -> Known:
    return Known(point.day, point.value_kg, point.error_kg)
