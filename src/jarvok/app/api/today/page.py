"""Today: who trains when and with whom, what waits for the coach, what lies ahead."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from itertools import groupby

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import athletes_seen, may, person_of
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.today.decisions import waiting
from jarvok.app.api.today.of_day import OfDay, of_day
from jarvok.app.api.today.sessions import Started, as_far_as_it_is, outside
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
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.room.models import Attendance, DayWord, Gathering
from jarvok.core.interchange.day_notes import clock_words

router = Router(tags=["today"])
SHOWN = ("athlete_id", "day", "key", "theme", "phase", "days_to_go", "finished_at")  # of a session that has begun
SOON_MIN = 180  # [T] a session nearer than this is said to come
Day = list[tuple[Athlete, TodaySession, float | None]]


_ATTENDED = Objects(lambda ids, day: Attendance.objects.filter(gathering__day=day, athlete_id__in=ids).order_by("pk"))
_ROOMS = Objects(lambda _, day: Gathering.objects.filter(day=day).order_by("pk"))
_WORDS = Objects(lambda ids: DayWord.objects.filter(attendance_id__in=ids).order_by("pk"))
_BEGUN = Objects(lambda ids, day: TrainingSession.objects.filter(athlete_id__in=ids, day__gte=day).order_by("pk").only(*SHOWN))


class _Here:
    """Who has arrived today, with what word of the coach; and which rooms are open."""

    def __init__(self, today: date, athletes: Iterable[int]) -> None:
        ids = list(athletes)
        rows = _ATTENDED.of(ids, today)
        self.rooms = {g.squad_id: g.pk for g in _ROOMS.all(today)}
        self.attended = {r.athlete_id: r for r in rows}
        self.words = {w.attendance_id: w.plan for w in _WORDS.of([r.pk for r in rows])}

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


def _goals(people: Sequence[Athlete], days: Mapping[int, OfDay], today: date) -> list[GoalOut]:
    """The competitions ahead, each with the way to it as most of those who go have it."""
    goals: dict[tuple[str, date], list[Athlete]] = defaultdict(list)
    for athlete in people:
        goal = days[athlete.pk].goal
        if goal is not None:
            goals[goal.name, goal.day].append(athlete)
    found = []
    for (name, day), those in goals.items():
        ways = Counter(tuple((p.key, p.name, p.start, p.end) for p in days[a.pk].phases) for a in those)
        way = [GoalPhase(key=k, name=n, start=s, end=e) for k, n, s, e in ways.most_common(1)[0][0]]
        now = next((p.name for p in way if p.start <= today <= p.end), "")
        found.append(
            GoalOut(
                athlete_ids=[a.pk for a in those], names=[a.name for a in those], competition=name, day=day,
                days_to_go=(day - today).days, phase_name=now, squad=those[0].squad.name, phases=way,
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
    today = clock.today()
    people = list(athletes_seen(person_of(request)).select_related("squad", "kit"))
    by_id, days = {a.pk: a for a in people}, of_day(people)
    started: Started = {(t.athlete_id, t.day, t.key): t for t in _BEGUN.of(list(by_id), today)}
    here_now: Day = []
    later: list[TodaySession] = []
    for athlete in people:
        for planned, hour in days[athlete.pk].sessions:
            session = as_far_as_it_is(planned, started.get((athlete.pk, planned.day, planned.key)))
            if planned.day == today:
                here_now.append((athlete, session, hour))
            else:
                later.append(session)
    known = {(s.athlete_id, s.day, s.key) for s in (*(s for _, s, _ in here_now), *later)}
    for key, record in started.items():
        if key not in known:
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
        decisions=waiting(people, days, sees_health=sees_health),
        goals=_goals(people, days, today),
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
