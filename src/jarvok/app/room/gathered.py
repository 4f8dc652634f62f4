"""A gathering as it stands: who is here, what they said, what is suggested and decided, the sessions of the day."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.db.models import Prefetch, Q

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Answers, Attendance, DayWord, Gathering
from jarvok.app.floor.pains import as_told, open_reports
from jarvok.app.floor.starting import DayPlan
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.sheets import Sheet, sheets_for
from jarvok.app.training.told_weeks import read_told
from jarvok.core.floor.day_plan import Less
from jarvok.core.floor.pain import OpenPain
from jarvok.core.floor.readiness import Arrival, Plan, Suggestion, suggest
from jarvok.core.marks.mark import MarkKind
from jarvok.core.rules import Rules
from jarvok.core.season.model import SeasonWeek, monday_of
from jarvok.core.session.planned import PlannedSession

USUAL_JUMP_DAYS = 60  # [J] older jumps are not the usual of now


@dataclass(frozen=True)
class Present:
    """One athlete of a gathering: the newest answers, what they suggest, the coach's word, the session of the day."""

    attendance: Attendance
    athlete: Athlete
    answers: Answers | None
    suggestion: Suggestion
    word: DayWord | None
    session: TrainingSession | None
    planned: PlannedSession | None
    sheet: Sheet | None
    week: SeasonWeek | None
    open_pains: tuple[OpenPain, ...] = ()

    @property
    def plan(self) -> DayPlan:
        """The word that is in force: the coach's, else as written; pain takes its patterns out in any case."""
        pain = Arrival.from_raw(self.answers.data).pain if self.answers else ()
        reason = self.word.reason if self.word else ""
        plan = Plan(self.word.plan) if self.word else Plan.A
        less = Less(self.word.less) if self.word else Less.FEWER
        return DayPlan(
            plan,
            less,
            self.suggestion.removed,
            "unwell" in pain,
            self.suggestion.spared,
            reason=reason or "; ".join(self.suggestion.reasons),
        )


def usual_jumps(ids: list[int], gathering: Gathering) -> dict[int, tuple[float, ...]]:
    """The best jump of each earlier day by athlete, in cm: jump marks, and jumps on arriving."""
    best: dict[tuple[int, Any], float] = {}
    since = gathering.day - timedelta(days=USUAL_JUMP_DAYS)
    marks = MarkRecord.objects.filter(athlete_id__in=ids, kind=MarkKind.JUMP, day__gte=since, day__lt=gathering.day)
    for athlete_id, day, measures in marks.values_list("athlete_id", "day", "measures"):
        height = (measures or {}).get("height_cm")
        if height:
            best[athlete_id, day] = max(height, best.get((athlete_id, day), 0.0))
    said = Answers.objects.filter(
        attendance__athlete_id__in=ids, attendance__gathering__day__gte=since, attendance__gathering__day__lt=gathering.day
    )
    for athlete_id, day, data in said.values_list("attendance__athlete_id", "attendance__gathering__day", "data"):
        for height in data.get("jumps_cm") or ():
            best[athlete_id, day] = max(height, best.get((athlete_id, day), 0.0))
    found: dict[int, list[float]] = {}
    for (athlete_id, _), height in sorted(best.items(), key=lambda x: x[0][1]):
        found.setdefault(athlete_id, []).append(height)
    return {athlete_id: tuple(rows) for athlete_id, rows in found.items()}


def people_of(gathering: Gathering) -> list[Athlete]:
    """The squad and its guests of the day, with what a week is planned from."""
    own = Q(squad_id=gathering.squad_id, archived_on__isnull=True)
    return read_for_a_week(Athlete.objects.filter(own | Q(pk__in=gathering.attendances.values("athlete_id"))))


@dataclass(frozen=True)
class Room:
    """A gathering read at once."""

    gathering: Gathering
    people: tuple[Present, ...]
    rules: Rules
    book: LiftBook | None

    def one(self, athlete_id: int) -> Present:
        """The athlete's row; raises KeyError for a stranger."""
        return next(p for p in self.people if p.athlete.pk == athlete_id)


def read_room(gathering: Gathering, *, with_loads: bool = False) -> Room:
    """Return the gathering with everybody in it, in a bounded number of queries; loads only where they are asked for."""
    today, rules = clock.today(), rules_in_force()
    people = people_of(gathering)
    ids = [p.pk for p in people]
    rows = Attendance.objects.filter(gathering=gathering).prefetch_related(
        Prefetch("answers", Answers.objects.order_by("id")), Prefetch("words", DayWord.objects.order_by("id"))
    )
    attendances = {a.athlete_id: a for a in rows}
    started: dict[int, list[TrainingSession]] = {}
    for session in TrainingSession.objects.filter(athlete_id__in=ids, day=gathering.day).order_by("key"):
        started.setdefault(session.athlete_id, []).append(session)
    planned, weeks = _planned_of_the_day(gathering, people, rules)
    book = LiftBook(people, today, rules=rules) if with_loads else None
    sheets: dict[int, tuple[Sheet, ...]] = {}
    if book is not None:
        sheets = sheets_for([p for p in people if p.pk in planned], planned, weeks, book, detail="loads")
    usual, told = usual_jumps(ids, gathering), open_reports(ids)
    found: list[Present] = []
    for person in people:
        # who has come to the squad since the room was opened is not here yet
        attendance = attendances.get(person.pk) or Attendance(gathering=gathering, athlete=person, changed_at=clock.now())
        answers = list(attendance.answers.all()) if attendance.pk else []
        words = list(attendance.words.all()) if attendance.pk else []
        last = answers[-1] if answers else None
        mine = started.get(person.pk, [])
        running = next((s for s in mine if s.finished_at is None), mine[-1] if mine else None)
        begun = {s.key for s in mine}
        coming = sorted(planned.get(person.pk, ()), key=lambda s: s.key in begun)
        sheet = next((s for s in sheets.get(person.pk, ()) if coming and s.planned.key == coming[0].key), None)
        open_pains = tuple(as_told(p) for p in told.get(person.pk, ()) if p.session.day < gathering.day)
        # until something is said today, what was told on the floor stands
        said: Mapping[str, Any] = last.data if last else {"pain": list(dict.fromkeys(p.area for p in open_pains))}
        found.append(
            Present(
                attendance,
                person,
                last,
                suggest(Arrival.from_raw(said, usual.get(person.pk, ())), rules),
                words[-1] if words else None,
                running,
                coming[0] if coming else None,
                sheet,
                weeks.get(person.pk),
                open_pains,
            )
        )
    return Room(gathering, tuple(found), rules, book)


def _planned_of_the_day(
    gathering: Gathering, people: list[Athlete], rules: Rules
) -> tuple[dict[int, list[PlannedSession]], dict[int, SeasonWeek]]:
    seasons = SeasonBook(people, clock.today(), rules)
    planned: dict[int, list[PlannedSession]] = {}
    weeks: dict[int, SeasonWeek] = {}
    read_told(people, [monday_of(gathering.day)])
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(gathering.day) if plan is not None else None
        if plan is None or week is None:
            continue
        sessions = [s for s in planned_week(person, plan, week, rules) if s.day == gathering.day]
        if sessions:
            weeks[person.pk], planned[person.pk] = week, sessions
    return planned, weeks
