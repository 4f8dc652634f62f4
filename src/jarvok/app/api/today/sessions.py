"""The sessions of one athlete from today on."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.api.today.shapes import TodaySession
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.told_weeks import read_told
from jarvok.core.season.model import PHASE_NAMES, PhaseKey, SeasonWeek, monday_of
from jarvok.core.session.planned import PlannedSession

Started = dict[tuple[int, date, str], TrainingSession]


def session_out(athlete: Athlete, week: SeasonWeek, planned: PlannedSession, started: Started) -> TodaySession:
    """A planned session, and how far it is."""
    as_planned = TodaySession(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad=athlete.squad.name,
        key=planned.key,
        day=planned.day,
        theme=planned.theme,
        phase_name=week.phase_name,
        days_to_go=(week.competition_day - planned.day).days,
        competition=week.competition,
        state="planned",
        session_id=None,
        day_reason=planned.day_reason,
    )
    return as_far_as_it_is(as_planned, started.get((athlete.pk, planned.day, planned.key)))


def as_far_as_it_is(planned: TodaySession, record: TrainingSession | None) -> TodaySession:
    """A planned session with what has become of it."""
    if record is None:
        return planned
    return planned.model_copy(update={"state": "finished" if record.finished_at else "started", "session_id": record.pk})


def outside(athlete: Athlete, record: TrainingSession) -> TodaySession:
    """A session that no plan holds: begun at the rack."""
    return TodaySession(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad=athlete.squad.name,
        key=record.key,
        day=record.day,
        theme=record.theme,
        phase_name=PHASE_NAMES[PhaseKey(record.phase)] if record.phase else "",
        days_to_go=record.days_to_go,
        competition="",
        state="finished" if record.finished_at else "started",
        session_id=record.pk,
        day_reason="outside the plan",
        is_planned=False,
    )


def days_of(athlete: Athlete) -> list[TodaySession]:
    """The sessions of one athlete from today to the end of this week and the next."""
    today = clock.today()
    book = LiftBook([athlete], today)
    share_book(book)
    rows = TrainingSession.objects.filter(athlete=athlete, day__gte=today)
    started: Started = {(t.athlete_id, t.day, t.key): t for t in rows}
    plan, found = SeasonBook([athlete], today, book.rules).plan(athlete.pk), list[TodaySession]()
    read_told([athlete], [monday_of(today)])
    for day in (today, today + timedelta(days=7)):
        week = plan.week_of(day) if plan is not None else None
        if week is not None and plan is not None:
            ahead = (p for p in planned_week(athlete, plan, week, book.rules) if p.day >= today)
            found += [session_out(athlete, week, p, started) for p in ahead]
    known = {(s.athlete_id, s.day, s.key) for s in found}
    found += [outside(athlete, t) for k, t in started.items() if k not in known]
    return sorted(found, key=lambda s: s.day)
