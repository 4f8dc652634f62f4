"""What the athlete's sessions have cost: RPE × minutes, and that over main sets."""

from __future__ import annotations

from collections import Counter
from datetime import date

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetKind, SetRecord, TrainingSession
from jarvok.core.plan.planned_load import au_a_main_set
from jarvok.core.plan.season_spending import SeasonSpending
from jarvok.core.season.model import SeasonPlan
from jarvok.core.session.roles import BlockRole
from jarvok.core.working import Working


def cost_of_a_set(athlete: Athlete, until: date) -> Working:
    """The load of one main set, from the athlete's sessions with RPE and minutes."""
    rows = list(TrainingSession.objects.filter(athlete=athlete, day__lte=until).order_by("day", "id"))
    known = [(s.pk, load) for s in rows if (load := recorded_au(s)) is not None]
    sets = _main_sets_of([pk for pk, _ in known])
    return au_a_main_set([(sets[pk], load) for pk, load in known])


def recorded_au(session: TrainingSession) -> float | None:
    """The load of a session as recorded, RPE × minutes, or None where one of them is missing."""
    return session.srpe * session.minutes if session.srpe is not None and session.minutes is not None else None


def done_loads(athlete: Athlete, start: date, until: date, au_a_set: float) -> dict[date, float]:
    """Load of each day with a session: as recorded, else its main sets at what one costs."""
    found: dict[date, float] = {}
    sessions = list(TrainingSession.objects.filter(athlete=athlete, day__gte=start, day__lte=until))
    sets = _main_sets_of([s.pk for s in sessions])
    for session in sessions:
        load = recorded_au(session)
        found[session.day] = found.get(session.day, 0.0) + (sets[session.pk] * au_a_set if load is None else load)
    return found


def _main_sets_of(sessions: list[int]) -> Counter[int]:
    return Counter(
        SetRecord.objects.filter(
            line__session_id__in=sessions,
            line__role__in=[r.value for r in BlockRole if r.counts],
            kind=SetKind.WORK,
            taken_back_at__isnull=True,
        ).values_list("line__session_id", flat=True)
    )


def planned_loads(plan: SeasonPlan, spending: SeasonSpending, au_a_set: float) -> list[float]:
    """Planned load of strength work on each day of a season in AU."""
    days = [0.0] * (7 * len(plan.weeks))
    for week in spending.weeks:
        for day, sets in week.by_day.items():
            at = (day - plan.start).days
            if 0 <= at < len(days):
                days[at] += sets * au_a_set
    return days
