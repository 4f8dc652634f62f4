"""The season of an athlete, derived from its competition and the lengths the coach has set."""

from __future__ import annotations

from datetime import date
from functools import lru_cache

from jarvok.app.seasons.models import Competition
from jarvok.core.season.model import PhaseKey, SeasonPlan
from jarvok.core.season.planner import plan_season


def current_competition(athlete_id: int, today: date) -> Competition | None:
    """Return the next competition ahead, or None."""
    return Competition.objects.filter(athlete_id=athlete_id, withdrawn_at__isnull=True, day__gte=today).order_by("day").first()


def plan_of(competition: Competition) -> SeasonPlan:
    pins = tuple(sorted((PhaseKey(key), int(weeks)) for key, weeks in competition.pinned_weeks.items()))
    return _plan(competition.planned_from, competition.day, pins)


@lru_cache(maxsize=256)
def _plan(planned_from: date, day: date, pins: tuple[tuple[PhaseKey, int], ...]) -> SeasonPlan:
    """A season follows from its dates and lengths alone, and a squad shares them: it is worked out once."""
    return plan_season(planned_from, day, dict(pins))
