"""A session begins that no plan holds: from a document, or with nothing in it yet."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.starting import DayPlan, write_lines
from jarvok.app.problems import Conflict
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.sheets import sheets_for
from jarvok.app.training.written import OWN_KEYS
from jarvok.core.session.document import Document, session_of

FREE = "Free session"


def run(who: Who, athlete: Athlete, day: date, document: Document | None, word: DayPlan) -> TrainingSession:
    """Begin a session on a day outside the plan; what a document holds is told with the athlete's own loads. Without: empty."""
    with acting(who, "start_unplanned", "session begun outside the plan", athlete=athlete) as act:
        taken = set(athlete.sessions.filter(day=day).values_list("key", flat=True))
        key = next((k for k in OWN_KEYS if k not in taken), None)
        if key is None:
            raise Conflict(f"{athlete.name} has begun {len(taken)} sessions that day already.")
        book = LiftBook([athlete], day)
        plan = SeasonBook([athlete], day, book.rules).plan(athlete.pk)
        week = plan.week_of(day) if plan is not None else None
        theme = document.theme if document is not None else FREE
        act.words = f"{theme} begun outside the plan"
        session = TrainingSession.objects.create(
            athlete=athlete, day=day, key=key, theme=theme, phase=week.phase if week is not None else "",
            days_to_go=(week.competition_day - day).days if week is not None else None, started_at=clock.now(),
            plan=word.plan, plan_reason=word.reason[:200],
        )  # fmt: skip
        if document is not None:
            planned = session_of(document, key, day)
            (sheet,) = sheets_for([athlete], {athlete.pk: [planned]}, {athlete.pk: week}, book)[athlete.pk]
            write_lines(session, sheet, book, word)
        return session
