"""A session begins that no plan holds: from a document, or with nothing in it yet."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.starting import DayPlan, write_lines
from jarvok.app.problems import Conflict
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.line_views import line_view
from jarvok.app.training.planned_weeks import limits_of, why_no_max, why_no_max_on
from jarvok.app.training.sheets import Sheet, sheets_for
from jarvok.app.training.written import OWN_KEYS
from jarvok.core.checks.effort import is_limit_work, short_of_the_limit
from jarvok.core.floor.swapped import own_load
from jarvok.core.library.exercises import exercise
from jarvok.core.season.model import SeasonWeek
from jarvok.core.session.document import Document, session_of
from jarvok.core.session.planned import PlannedSession

FREE = "Free session"


def run(who: Who, athlete: Athlete, day: date, document: Document | None, word: DayPlan) -> TrainingSession:
    """Begin a session on a day outside the plan; what a document holds is told with the athlete's own loads. Without: empty.

    It was written for somebody else: what a restriction takes out is left out, limit work that is not open is done short of it.
    """
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
            own = tuple(replace(x, prescription=own_load(x.prescription, exercise(x.exercise_id))) for x in planned.lines)
            sheet = _sheet_of(athlete, replace(planned, lines=own), week, book)
            off = limits_of(athlete, day).restricted
            write_lines(session, sheet, book, replace(word, restricted=off))
        return session


def _sheet_of(athlete: Athlete, planned: PlannedSession, week: SeasonWeek | None, book: LiftBook) -> Sheet:
    """The sheet of a session that was written for somebody else: limit work is done short of it where it is not open."""
    (sheet,) = sheets_for([athlete], {athlete.pk: [planned]}, {athlete.pk: week}, book)[athlete.pk]
    why = why_no_max(athlete, week) if week is not None else why_no_max_on(athlete, planned.day)
    views = {x.planned.line_id: line_view(x, is_own=True) for x in sheet.lines} if why else {}
    closed = {k: short_of_the_limit(v) for k, v in views.items() if is_limit_work(v)}
    if not closed:
        return sheet
    lines = tuple(
        replace(x, prescription=closed[x.line_id], note=", ".join(w for w in (x.note, why.lower()) if w))
        if x.line_id in closed
        else x
        for x in planned.lines
    )
    (found,) = sheets_for([athlete], {athlete.pk: [replace(planned, lines=lines)]}, {athlete.pk: week}, book)[athlete.pk]
    return found
