"""The plan of days that are over is kept as it stood."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import ToldWeek
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import proposed_week
from jarvok.app.training.told_weeks import forget_told, raw_of, raw_place
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, until: date) -> int:
    """Keep every day of the athlete's season up to `until` that is not kept yet; return how many weeks were written."""
    if ToldWeek.objects.filter(athlete=athlete, through__gte=until).exists():
        return 0  # days are kept in order: with this one all before it are
    rules = rules_in_force()
    plan = SeasonBook([athlete], clock.today(), rules).plan(athlete.pk)
    if plan is None:
        return 0
    kept = dict(ToldWeek.objects.filter(athlete=athlete).values_list("monday", "through"))
    due = [w for w in plan.weeks if w.start <= until and kept.get(w.start, w.start - timedelta(days=1)) < min(until, w.end)]
    if not due:
        return 0
    with acting(who, "freeze_weeks", f"the plan up to {said_day(until)} kept as it stood", athlete=athlete):
        for week in due:
            through = min(until, week.end)
            sessions = [s for s in proposed_week(athlete, plan, week, rules) if s.day <= through]
            ToldWeek.objects.update_or_create(
                athlete=athlete,
                monday=week.start,
                defaults={"through": through, "document": raw_of(sessions)},
                create_defaults={"through": through, "document": raw_of(sessions), "dose": raw_place(week)},
            )
        forget_told(athlete)
    return len(due)
