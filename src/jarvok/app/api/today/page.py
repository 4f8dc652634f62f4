"""Today: who trains when and with whom, what waits for the coach, what lies ahead."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from datetime import date
from itertools import groupby

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import athletes_seen, may, person_of
from jarvok.app.api.athletes.overview import everyone
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.today.decisions import waiting
from jarvok.app.api.today.sessions import Started, outside, session_out
from jarvok.app.api.today.shapes import (
    ArrivalsOut,
    GoalOut,
    GoalPhase,
    LaterDay,
    Progress,
    SharedSession,
    State,
    TodayOut,
    TodayPerson,
    TodaySession,
)
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Attendance, DayWord, Gathering
from jarvok.app.seasons.season_book import Goal, SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.told_weeks import read_told
from jarvok.core.interchange.day_notes import clock_words
from jarvok.core.season.model import SeasonPlan, monday_of

router = Router(tags=["today"])
SOON_MIN = 180  # [T] a session nearer than this is said to come
Day = list[tuple[Athlete, TodaySession, float | None]]


class _Here:
    """Who has arrived today, with what word of the coach; and which rooms are open."""

    def __init__(self, today: date, athletes: Iterable[int]) -> None:
        rows = list(Attendance.objects.filter(gathering__day=today, athlete__in=athletes).order_by("pk"))
        self.rooms = dict(Gathering.objects.filter(day=today).order_by("pk").values_list("squad_id", "pk"))
        self.attended = {r.athlete_id: r for r in rows}
        words = DayWord.objects.filter(attendance__in=[r.pk for r in rows]).order_by("pk")
        self.words = {w.attendance_id: w.plan for w in words}

    def plan(self, athlete_id: int) -> str:
        """The plan the coach has said, where it is not as written."""
        attendance = self.attended.get(athlete_id)
        plan = self.words.get(attendance.pk, "A") if attendance is not None else "A"
        return "" if plan == "A" else plan

    def state(self, athlete_id: int, session: Progress) -> State:
        """How far somebody is: the session once it has begun, else whether they are here."""
        attendance = self.attended.get(athlete_id)
        return "here" if session == "planned" and attendance is not None and attendance.is_here else session

    def person(self, s: TodaySession) -> TodayPerson:
        """One athlete of a shared session."""
        return TodayPerson(
            athlete_id=s.athlete_id, athlete_name=s.athlete_name, key=s.key, state=self.state(s.athlete_id, s.state),
            plan=self.plan(s.athlete_id), session_id=s.session_id, is_planned=s.is_planned,
        )  # fmt: skip


def _shared(today: Day, here: _Here) -> list[SharedSession]:
    """What is done together: one row for a squad, an hour and a theme, in the order of the day."""
    rows: dict[tuple[int, float | None, str], Day] = defaultdict(list)
    for athlete, session, hour in today:
        rows[athlete.squad_id, hour, session.theme].append((athlete, session, hour))
    several = Counter(squad for squad, _, _ in rows)
    found = [_row(mine, here, alone=several[squad] == 1) for (squad, _, _), mine in rows.items()]
    return sorted(found, key=lambda r: (r.starts == "", r.starts.zfill(5), r.name, r.theme))


def _row(mine: Day, here: _Here, *, alone: bool) -> SharedSession:
    (athlete, session, hour), groups = mine[0], list(dict.fromkeys(a.group for a, _, _ in mine if a.group))
    room = here.rooms.get(athlete.squad_id)
    people = [here.person(s) for _, s, _ in mine]
    reason = Counter(s.day_reason for _, s, _ in mine if s.day_reason).most_common(1)
    phases = list(dict.fromkeys(s.phase_name for _, s, _ in mine if s.phase_name))
    group = f", {' and '.join(groups)}" if not alone and len(groups) in (1, 2) and all(a.group for a, _, _ in mine) else ""
    return SharedSession(
        squad_id=athlete.squad_id,
        name=athlete.squad.name + group,
        starts="" if hour is None else clock_words(hour),
        theme=session.theme,
        words=" · ".join([*(phases if len(phases) == 1 else ()), *(r for r, _ in reason)]),
        people=people,
        room_id=room,
    )


def _later(sessions: Iterable[TodaySession]) -> list[LaterDay]:
    found = []
    for day, mine in groupby(sorted(sessions, key=lambda s: (s.day, s.squad)), key=lambda s: s.day):
        counts = Counter(s.squad for s in mine)
        found.append(LaterDay(day=day, words=", ".join(f"{n} of {squad}" for squad, n in counts.items())))
    return found


def _phases(plan: SeasonPlan, until: date) -> list[GoalPhase]:
    weeks = [w for w in plan.weeks if w.start <= until]
    found = []
    for (key, name), some in groupby(weeks, key=lambda w: (w.phase.value, w.phase_name)):
        these = list(some)
        found.append(GoalPhase(key=key, name=name, start=these[0].start, end=min(these[-1].end, until)))
    return found


def _goals(ahead: Sequence[tuple[Athlete, Goal, SeasonPlan]], today: date) -> list[GoalOut]:
    """The competitions ahead, each with the way to it as most of those who go have it."""
    goals: dict[tuple[str, date], list[tuple[Athlete, SeasonPlan]]] = defaultdict(list)
    for athlete, goal, plan in ahead:
        goals[goal.name, goal.day].append((athlete, plan))
    found = []
    for (name, day), those in goals.items():
        ways = Counter(tuple((p.key, p.name, p.start, p.end) for p in _phases(plan, day)) for _, plan in those)
        way = [GoalPhase(key=k, name=n, start=s, end=e) for k, n, s, e in ways.most_common(1)[0][0]]
        now = next((p.name for p in way if p.start <= today <= p.end), "")
        found.append(
            GoalOut(
                athlete_ids=[a.pk for a, _ in those], names=[a.name for a, _ in those], competition=name, day=day,
                days_to_go=(day - today).days, phase_name=now, squad=those[0][0].squad.name, phases=way,
            )
        )  # fmt: skip
    return sorted(found, key=lambda g: g.day)


def _next_words(hours: Iterable[float | None]) -> str:
    """When the next session of today begins, where it is near."""
    now = clock.now().astimezone(clock.zone())
    if now.date() != clock.today():
        return ""
    left = sorted(round(60 * h) - 60 * now.hour - now.minute for h in hours if h is not None)
    soon = next((m for m in left if 0 < m <= SOON_MIN), None)
    return "" if soon is None else f"next in {soon} min"


@router.get("/today", response={200: TodayOut, **ERRORS})
def today_view(request: HttpRequest) -> TodayOut:
    today, people = clock.today(), everyone(request)
    book = LiftBook(people, today)
    share_book(book)
    seasons = SeasonBook(people, today, book.rules)
    started: Started = {(t.athlete_id, t.day, t.key): t for t in TrainingSession.objects.filter(day__gte=today)}
    read_told(people, [monday_of(today)])
    here_now: Day = []
    later: list[TodaySession] = []
    without_goal: list[Athlete] = []
    ahead: list[tuple[Athlete, Goal, SeasonPlan]] = []
    for athlete in people:
        plan, goal = seasons.plan(athlete.pk), seasons.goal(athlete.pk)
        if plan is None or goal is None:
            without_goal.append(athlete)
            continue
        ahead.append((athlete, goal, plan))
        week = plan.week_of(today)
        for planned in planned_week(athlete, plan, week, book.rules) if week is not None else ():
            if planned.day == today and week is not None:
                here_now.append((athlete, session_out(athlete, week, planned, started), planned.begins_h))
            elif planned.day > today and week is not None:
                later.append(session_out(athlete, week, planned, started))
    known = {(s.athlete_id, s.day, s.key) for s in (*(s for _, s, _ in here_now), *later)}
    by_id = {a.pk: a for a in people}
    for key, record in started.items():
        if key not in known and record.athlete_id in by_id:
            athlete = by_id[record.athlete_id]
            if record.day == today:
                here_now.append((athlete, outside(athlete, record), None))
            else:
                later.append(outside(athlete, record))
    shared = _shared(here_now, _Here(today, by_id))
    sees_health = may(person_of(request), Need.HEALTH)
    return TodayOut(
        day=today,
        shared=shared,
        later=_later(later),
        decisions=waiting(people, book, without_goal, sees_health=sees_health),
        goals=_goals(ahead, today),
        athletes=len(people),
        training=len({p.athlete_id for s in shared for p in s.people}),
        changed=sum(1 for s in shared for p in s.people if p.plan),
        next_words=_next_words(h for _, _, h in here_now),
    )


@router.get("/today/arrivals", response={200: ArrivalsOut, **ERRORS})
def read_arrivals(request: HttpRequest) -> ArrivalsOut:
    """How far everybody is who has a place in a room of today, or whose session runs; asked every few seconds."""
    today, seen = clock.today(), athletes_seen(person_of(request))
    people = {a.pk: a for a in seen.only("pk", "name", "squad_id")}
    here = _Here(today, people)
    rows = {t.athlete_id: t for t in TrainingSession.objects.filter(day=today, athlete__in=people).order_by("pk")}
    found = []
    for pk in {*here.attended, *rows}:
        record = rows.get(pk)
        state: Progress = "planned" if record is None else "finished" if record.finished_at else "started"
        found.append(
            TodayPerson(
                athlete_id=pk, athlete_name=people[pk].name, key=record.key if record else "", plan=here.plan(pk),
                state=here.state(pk, state), session_id=record.pk if record else None,
                is_planned=True,
            )
        )  # fmt: skip
    squads = {a.squad_id for a in people.values()}
    return ArrivalsOut(people=found, rooms={s: r for s, r in here.rooms.items() if s in squads})
