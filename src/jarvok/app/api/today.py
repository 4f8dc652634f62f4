"""Today: who trains, what comes next, what waits for the coach."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.athletes.overview import everyone
from jarvok.app.api.athletes.rises import rise_out
from jarvok.app.api.athletes.shapes import DecisionOut, GoalOut, TodayOut, TodaySession
from jarvok.app.api.problems import ERRORS
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.seasons.season_book import Goal, SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.told_weeks import read_told
from jarvok.core.season.model import SeasonPlan, SeasonWeek, monday_of
from jarvok.core.session.planned import PlannedSession

router = Router(tags=["today"])
Started = dict[tuple[int, date, str], TrainingSession]


def _rises(book: LiftBook, athlete: Athlete) -> list[DecisionOut]:
    found: list[DecisionOut] = []
    for lift in book.lifts_of(athlete.pk):
        rise = rise_out(book, athlete.pk, lift.id) if book.asked(athlete.pk, lift.id) is not None else None
        if rise is not None:
            title = f"{lift.name}: {rise.from_kg:.0f} to {rise.to_kg:.0f} kg?"
            text = f"{rise.words} says {rise.says_kg:.0f} kg. {rise.why_asked}"
            found.append(
                DecisionOut(athlete_id=athlete.pk, athlete_name=athlete.name, kind="rise", title=title, text=text, rise=rise)
            )
    return found


def _no_season(athlete: Athlete) -> DecisionOut:
    text = "Give the competition and the season is built backwards, or plan a block of weeks."
    return DecisionOut(athlete_id=athlete.pk, athlete_name=athlete.name, kind="season", title="No competition ahead", text=text)


def _session(athlete: Athlete, week: SeasonWeek, planned: PlannedSession, started: Started) -> TodaySession:
    record = started.get((athlete.pk, planned.day, planned.key))
    return TodaySession(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad=athlete.squad.name,
        key=planned.key,
        day=planned.day,
        theme=planned.theme,
        phase_name=week.phase_name,
        days_to_go=(week.competition_day - planned.day).days,
        competition=week.competition,
        state="planned" if record is None else "finished" if record.finished_at else "started",
        session_id=record.pk if record else None,
        day_reason=planned.day_reason,
    )


def _goal_out(goal: Goal, plan: SeasonPlan, today: date) -> GoalOut:
    week = plan.week_of(today)
    return GoalOut(
        athlete_ids=[],
        names=[],
        competition=goal.name,
        day=goal.day,
        days_to_go=(goal.day - today).days,
        phase_name=week.phase_name if week else "",
    )


@router.get("/today", response={200: TodayOut, **ERRORS})
def today_view(request: HttpRequest) -> TodayOut:
    today, people = clock.today(), everyone()
    book = LiftBook(people, today)
    share_book(book)
    seasons = SeasonBook(people, today, book.rules)
    started: Started = {(t.athlete_id, t.day, t.key): t for t in TrainingSession.objects.filter(day__gte=today)}
    sessions: list[TodaySession] = []
    decisions: list[DecisionOut] = []
    goals: dict[tuple[str, date], GoalOut] = {}
    read_told(people, [monday_of(today)])
    for athlete in people:
        decisions += _rises(book, athlete)
        plan, ahead = seasons.plan(athlete.pk), seasons.goal(athlete.pk)
        if plan is None or ahead is None:
            decisions.append(_no_season(athlete))
            continue
        goal = goals.setdefault((ahead.name, ahead.day), _goal_out(ahead, plan, today))
        goal.athlete_ids.append(athlete.pk)
        goal.names.append(athlete.name)
        week = plan.week_of(today)
        if week is not None:
            for planned in planned_week(athlete, plan, week, book.rules):
                if planned.day >= today:
                    sessions.append(_session(athlete, week, planned, started))
    sessions.sort(key=lambda s: (s.day, s.squad, s.athlete_name))
    return TodayOut(
        day=today,
        sessions=[s for s in sessions if s.day == today],
        next_days=[s for s in sessions if s.day > today],
        decisions=decisions,
        goals=sorted(goals.values(), key=lambda g: g.day),
        athletes=len(people),
    )
