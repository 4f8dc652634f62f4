"""What the athlete's sessions have cost: RPE × minutes, and that over main sets."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from datetime import date

from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetKind, SetRecord, TrainingSession
from jarvok.core.plan.planned_load import au_a_main_set
from jarvok.core.plan.season_spending import SeasonSpending
from jarvok.core.season.model import SeasonPlan, monday_of
from jarvok.core.session.roles import BlockRole
from jarvok.core.working import Working

MOST_SESSIONS = 30  # [T] enough to find the last eight with main sets among them


def cost_of_a_set(athlete: Athlete, until: date) -> Working:
    """The load of one main set, from the athlete's sessions with RPE and minutes."""
    return costs_of_a_set([athlete.pk], until)[athlete.pk]


def costs_of_a_set(athlete_ids: Sequence[int], until: date) -> dict[int, Working]:
    """The same for some athletes at once."""
    rows = TrainingSession.objects.filter(athlete_id__in=athlete_ids, day__lte=until, srpe__isnull=False, minutes__isnull=False)
    newest: dict[int, list[tuple[int, float]]] = {pk: [] for pk in athlete_ids}
    for session in rows.order_by("day", "id").only("id", "athlete_id", "srpe", "minutes"):
        load = recorded_au(session)
        if load is not None:
            newest[session.athlete_id].append((session.pk, load))
    last = {who: known[-MOST_SESSIONS:] for who, known in newest.items()}
    sets = _main_sets_of([pk for known in last.values() for pk, _ in known])
    return {who: au_a_main_set([(sets[pk], load) for pk, load in known]) for who, known in last.items()}


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


def _begun_and_done(athlete: Athlete, start: date) -> tuple[frozenset[date], Counter[date]]:
    """The days with a session since a day, and the main sets done of each week."""
    rows = TrainingSession.objects.filter(athlete=athlete, day__gte=start).order_by()
    sessions, done = dict(rows.values_list("pk", "day")), Counter[date]()
    for pk, count in _main_sets_of(list(sessions)).items():
        done[monday_of(sessions[pk])] += count
    return frozenset(sessions.values()), done


def planned_loads(plan: SeasonPlan, spending: SeasonSpending, au_a_set: float) -> list[float]:
    """Planned load of strength work on each day of a season in AU."""
    days = [0.0] * (7 * len(plan.weeks))
    for week in spending.weeks:
        for day, sets in week.by_day.items():
            at = (day - plan.start).days
            if 0 <= at < len(days):
                days[at] += sets * au_a_set
    return days


def done_by_week(athlete: Athlete, plan: SeasonPlan, spending: SeasonSpending, today: date) -> dict[int, float]:
    """Return, per week of a season, the share of the main sets planned for days gone by or begun that was done (0 and up).

    A missed session lowers it. Weeks before the first day that had anything are left out.
    """
    begun, done = while_kept(athlete, lambda: _begun_and_done(athlete, plan.start), "done", plan.start)
    found: dict[int, float] = {}
    for week, spent in zip(plan.weeks, spending.weeks, strict=True):
        due = sum(n for day, n in spent.by_day.items() if day < today or day in begun)
        if due and done and week.start >= min(done):
            found[week.index] = round(done[week.start] / due, 2)
    return found
