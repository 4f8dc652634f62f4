"""A session is started from its resolved sheet: what is told is kept as it stands now."""

from __future__ import annotations

from datetime import timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.starting import DayPlan, write_lines
from jarvok.app.training.actions import freeze_weeks
from jarvok.app.training.sheets import Sheet
from jarvok.core.season.model import SeasonWeek


def run(who: Who, athlete: Athlete, week: SeasonWeek, sheet: Sheet, book: LiftBook, word: DayPlan) -> TrainingSession:
    """Start a session from its resolved sheet; the plan of the days before it is kept as it stood."""
    with acting(who, "start_sheet", f"{sheet.planned.theme} started", athlete=athlete):
        planned = sheet.planned
        freeze_weeks.run(who, athlete, min(planned.day, clock.today()) - timedelta(days=1))
        session = TrainingSession.objects.create(
            athlete=athlete,
            day=planned.day,
            key=planned.key,
            theme=planned.theme,
            phase=week.phase,
            days_to_go=(week.competition_day - planned.day).days,
            started_at=clock.now(),
            plan=word.plan,
            plan_reason=word.reason[:200],
        )
        write_lines(session, sheet, book, word)
        return session
