"""The season of an athlete, derived from its competition and the lengths the coach has set."""

from __future__ import annotations

from datetime import date

from jarvok.app.seasons.models import Competition
from jarvok.core.season.force_velocity import plan_season
from jarvok.core.season.model import PhaseKey, SeasonPlan


def current_competition(athlete_id: int, today: date) -> Competition | None:
    """Return the next competition ahead, or None."""
    return Competition.objects.filter(athlete_id=athlete_id, withdrawn_at__isnull=True, day__gte=today).order_by("day").first()


def plan_of(competition: Competition) -> SeasonPlan:
    pins = {PhaseKey(key): int(weeks) for key, weeks in competition.pinned_weeks.items()}
    return plan_season(competition.planned_from, competition.day, pins)
