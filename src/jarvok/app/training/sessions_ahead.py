"""The sessions of the coming weeks as a calendar has them: the day, the hour where one is said, what it is, how long."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.core.interchange.calendar import OWN_SESSION, Written
from jarvok.core.rules import Rules
from jarvok.core.week.hour import MINUTES_THERE

AHEAD_WEEKS = 4  # [J] further on a plan still moves


def sessions_ahead(athlete: Athlete, today: date, book: SeasonBook, rules: Rules) -> list[Written]:
    """The planned sessions from today on, four weeks, in order; without a plan none."""
    plan = book.plan(athlete.pk)
    if plan is None:
        return []
    until = today + timedelta(weeks=AHEAD_WEEKS)
    found: list[Written] = []
    for week in plan.weeks:
        if week.end < today or week.start >= until:
            continue
        for s in planned_week(athlete, plan, week, rules):
            if not today <= s.day < until:
                continue
            found.append(
                Written(
                    uid=f"{OWN_SESSION}-{athlete.pk}-{week.start}-{s.key}@jarvok",
                    name=s.theme,
                    kind=OWN_SESSION,
                    start=s.day,
                    end=s.day,
                    hour=s.begins_h,
                    minutes=athlete.minutes_a_session or round(MINUTES_THERE),
                    note=week.phase_name,
                )
            )
    return found
