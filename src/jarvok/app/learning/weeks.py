"""Done beside planned: sessions, days and weeks of athletes, from the plan as it stood and the sets as they were logged."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from jarvok.app import clock
from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.app.facts.learning.models import MissedWord
from jarvok.app.facts.room.models import Answers
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.season_sets import Edits, edits_of, written_lines
from jarvok.app.training.session_loads import costs_of_a_set, recorded_au
from jarvok.app.training.told_weeks import read_told, sessions_of, told_of
from jarvok.core.floor.readiness import Arrival
from jarvok.core.learning.missed import REASONS
from jarvok.core.learning.work import NOTHING, Work, done_pct, summed, work_of_line, work_of_set
from jarvok.core.library.exercises import exercises
from jarvok.core.plan.planned_load import au_of
from jarvok.core.rules import Rules
from jarvok.core.season.model import PHASE_NAMES, SeasonPlan, monday_of
from jarvok.core.session.roles import BlockRole

PLAN_AS_WRITTEN = "A"
KEY = "weeks done"
SPANS_KEPT = 6  # [T] of each athlete: what the pages ask for, two phases, and one more


@dataclass(frozen=True)
class SessionDone:
    """One session: what was planned, what was done of it. `session_id` is None where it was never started."""

    athlete_id: int
    day: date
    key: str
    theme: str
    planned: Work
    done: Work
    planned_au: float
    done_au: float
    is_estimated: bool  # the load was worked out from its sets: effort or minutes are missing
    minutes: float | None
    session_id: int | None
    is_ahead: bool  # its day is not over
    plan: str = PLAN_AS_WRITTEN
    reason: str = ""  # why it was missed or made easier, in words

    @property
    def is_missed(self) -> bool:
        """Whether it was planned for a day that is over and never started."""
        return self.session_id is None and not self.is_ahead and self.planned.main_sets > 0


@dataclass(frozen=True)
class WeekDone:
    """A week of one athlete. `practice_au` is sport practice by day, where it was told on arriving."""

    monday: date
    phase: str
    sessions: tuple[SessionDone, ...]
    practice_au: Mapping[date, float] = field(default_factory=dict)

    @property
    def planned(self) -> Work:
        """Everything planned, also for days that are ahead."""
        return summed(s.planned for s in self.sessions)

    @property
    def due(self) -> Work:
        """What was planned for the days that are over, or was started."""
        return summed(s.planned for s in self.sessions if not s.is_ahead or s.session_id is not None)

    @property
    def done(self) -> Work:
        """Everything done."""
        return summed(s.done for s in self.sessions)

    def au_on(self, day: date) -> float:
        """The load of a day, sessions and practice."""
        return sum(s.done_au for s in self.sessions if s.day == day) + self.practice_au.get(day, 0.0)

    @property
    def days_au(self) -> list[float]:
        """The load of its seven days."""
        return [self.au_on(self.monday + timedelta(days=i)) for i in range(7)]


def plan_done_pct(sessions: Iterable[SessionDone]) -> float | None:
    """Return how much of what was planned for days that are over is done, in %: what was more in one makes up for none."""
    due = [s for s in sessions if not s.is_ahead or s.session_id is not None]
    kept = sum(min(s.planned.main_sets, s.done.main_sets) for s in due)
    return done_pct(sum(s.planned.main_sets for s in due), kept)


def weeks_of(
    people: Sequence[Athlete], first: date, last: date, rules: Rules, *, planned_from: date | None = None
) -> dict[int, list[WeekDone]]:
    """Return the weeks from the Monday of `first` to that of `last` for each athlete, in a bounded number of queries a person.

    Before `planned_from` only what was done is found: what is usual needs no plan. Of athletes of whom nothing has changed since
    the same was asked, nothing is read.
    """
    asked = (monday_of(first), monday_of(last), planned_from, rules)
    kept = {pk: rows.setdefault(KEY, {}) for pk, rows in kept_of([a.pk for a in people]).items()}
    found: dict[int, list[WeekDone]] = {pk: rows[asked] for pk, rows in kept.items() if asked in rows}
    missing = [a for a in people if a.pk not in found]
    for pk, weeks in (_read_weeks(missing, first, last, rules, planned_from) if missing else {}).items():
        found[pk] = kept[pk][asked] = weeks
        if len(kept[pk]) > SPANS_KEPT:
            kept[pk].pop(next(iter(kept[pk])), None)
    return {a.pk: found[a.pk] for a in people}


def _read_weeks(
    people: Sequence[Athlete], first: date, last: date, rules: Rules, planned_from: date | None
) -> dict[int, list[WeekDone]]:
    mondays = [monday_of(first) + timedelta(weeks=i) for i in range((monday_of(last) - monday_of(first)).days // 7 + 1)]
    seasons = SeasonBook(people, clock.today(), rules)
    read_told(people, [m for m in mondays if planned_from is None or m >= planned_from])
    started = _started(people, mondays[0], mondays[-1] + timedelta(days=6))
    words = _missed_words(people, mondays[0])
    practice = practice_au(people, mondays[0])
    costs = costs_of_a_set([a.pk for a in people], clock.today())
    found: dict[int, list[WeekDone]] = {}
    for athlete in people:
        plan, au = seasons.plan(athlete.pk), au_of(costs[athlete.pk])
        edits = edits_of(athlete, plan) if plan is not None else {}
        mine = started.get(athlete.pk, {})
        rows = []
        for monday in mondays:
            is_asked = planned_from is None or monday >= planned_from
            planned = _planned(athlete, plan, monday, rules, edits) if is_asked else {}
            days = {monday + timedelta(days=i) for i in range(7)}
            keys = sorted({*planned, *(k for k in mine if k[0] in days)})
            sessions = [_session(athlete.pk, k, planned.get(k), mine.get(k), words.get((athlete.pk, *k), ""), au) for k in keys]
            on_days = {d: practice.get((athlete.pk, d), 0.0) for d in days}
            rows.append(WeekDone(monday, _phase(plan, monday), tuple(sessions), on_days))
        found[athlete.pk] = rows
    return found


Key = tuple[date, str]


@dataclass(frozen=True)
class _Planned:
    theme: str
    work: Work


@dataclass(frozen=True)
class _Started:
    row: TrainingSession
    work: Work


def _planned(athlete: Athlete, plan: SeasonPlan | None, monday: date, rules: Rules, edits: Edits) -> dict[Key, _Planned]:
    week = plan.week_of(monday) if plan is not None else None
    if plan is None or week is None:
        return _told(athlete, monday)
    known, works, themes = exercises(), defaultdict[Key, list[Work]](list), dict[Key, str]()
    for line in written_lines(athlete, plan, week, rules, edits):
        key = (line.session.day, line.session.key)
        themes[key] = line.session.theme
        lift = known.get(line.exercise_id)
        if lift is not None:
            works[key].append(work_of_line(lift, line.groups, counts=line.counts))
        elif line.counts:
            works[key].append(Work(main_sets=sum(g.sets for g in line.groups)))
    return {k: _Planned(theme, summed(works[k])) for k, theme in themes.items()}


def _told(athlete: Athlete, monday: date) -> dict[Key, _Planned]:
    """A week of an earlier season, as it stood."""
    told = told_of(athlete, monday)
    known = exercises()
    return {
        (s.day, s.key): _Planned(
            s.theme, summed(work_of_line(known[x.exercise_id], x.prescription.groups, counts=x.role.counts) for x in s.lines)
        )
        for s in (sessions_of(told) if told is not None else ())
    }


def _phase(plan: SeasonPlan | None, monday: date) -> str:
    week = plan.week_of(monday) if plan is not None else None
    return PHASE_NAMES[week.phase] if week is not None else ""


def _session(who: int, key: Key, planned: _Planned | None, started: _Started | None, why: str, au: float) -> SessionDone:
    day, name = key
    row = started.row if started is not None else None
    recorded = recorded_au(row) if row is not None else None
    done = started.work if started is not None else NOTHING
    return SessionDone(
        athlete_id=who,
        day=day,
        key=name,
        theme=row.theme if row is not None else planned.theme if planned is not None else "",
        planned=planned.work if planned is not None else NOTHING,
        done=done,
        planned_au=planned.work.main_sets * au if planned is not None else 0.0,
        done_au=done.main_sets * au if recorded is None else recorded,
        is_estimated=row is not None and recorded is None,
        minutes=row.minutes if row is not None else None,
        session_id=row.pk if row is not None else None,
        is_ahead=day >= clock.today() if row is None else row.finished_at is None and day >= clock.today(),
        plan=row.plan if row is not None else PLAN_AS_WRITTEN,
        reason=(row.plan_reason if row is not None else "") or why,
    )


def _started(people: Sequence[Athlete], first: date, last: date) -> dict[int, dict[Key, _Started]]:
    rows = {s.pk: s for s in TrainingSession.objects.filter(athlete__in=people, day__range=(first, last)).order_by("day", "id")}
    works: dict[int, list[Work]] = defaultdict(list)
    known = exercises()
    lines = {
        line.pk: line
        for line in SessionLine.objects.filter(session_id__in=rows).only("session_id", "exercise_id", "role", "planned")
    }
    done = SetRecord.objects.filter(line_id__in=lines, kind=SetKind.WORK, taken_back_at__isnull=True)
    for line_id, number, reps, load_kg in done.order_by().values_list("line_id", "number", "reps", "load_kg"):
        line = lines[line_id]
        lift = known.get(line.exercise_id)
        if lift is None:
            continue
        told: Mapping[str, Any] = line.planned[min(number, len(line.planned)) - 1] if line.planned else {}
        share, planned_kg = told.get("share_of_max"), told.get("load_kg")
        as_done = share * load_kg / planned_kg if share and planned_kg and load_kg else None
        works[line.session_id].append(
            work_of_set(
                lift, counts=BlockRole(line.role).counts, reps=reps, load_kg=load_kg, share=as_done,
                metres=told.get("metres"), per_side=bool(told.get("per_side")),
            )
        )  # fmt: skip
    found: dict[int, dict[Key, _Started]] = defaultdict(dict)
    for pk, row in rows.items():
        found[row.athlete_id][row.day, row.key] = _Started(row, summed(works[pk]))
    return found


def _missed_words(people: Iterable[Athlete], first: date) -> dict[tuple[int, date, str], str]:
    found: dict[tuple[int, date, str], str] = {}
    for word in MissedWord.objects.filter(athlete__in=list(people), day__gte=first):
        found[word.athlete_id, word.day, word.key] = ", ".join(w for w in (REASONS.get(word.reason, ""), word.note) if w)
    return found


def practice_au(people: Iterable[Athlete], first: date) -> dict[tuple[int, date], float]:
    """Load of sport practice by athlete and day, where it was told on arriving: minutes times how hard it was."""
    rows = Answers.objects.filter(attendance__athlete__in=list(people), attendance__gathering__day__gte=first)
    newest = {row.attendance_id: row for row in rows.select_related("attendance")}
    found: dict[tuple[int, date], float] = defaultdict(float)
    for row in newest.values():
        for sport in Arrival.from_raw(row.data).sport:
            when = clock.day_of(row.at - timedelta(hours=sport.hours_ago))
            found[row.attendance.athlete_id, when] += sport.minutes * sport.srpe
    return dict(found)
