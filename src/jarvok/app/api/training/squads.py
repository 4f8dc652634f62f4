"""A squad on one page: its week, and one session as a table of everybody's loads."""

from __future__ import annotations

from datetime import date, timedelta

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.kept_page import kept_squad_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import practices_of, read_for_a_week
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.schema import Schema
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.lookup import near
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.sheets import Sheet, SheetLine, sheets_for, week_days
from jarvok.app.training.told_weeks import read_told
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import format_kg
from jarvok.core.running.lines import lines_for
from jarvok.core.season.model import monday_of
from jarvok.core.week.placement import day_weights

router = Router(tags=["squad"])
KEY = "squad weeks"
WEEKS_KEPT = 3  # [T] of each athlete: last week, this one, the next


class SquadLineOut(Schema):
    slot: str
    exercise: str
    text: str
    loads: str


class SquadCellOut(Schema):
    day: date
    key: str
    theme: str
    load: str
    minutes: int
    is_own: bool
    lines: list[SquadLineOut]
    more: int


class SquadRowOut(Schema):
    athlete_id: int
    name: str
    group: str
    phase: str
    phase_name: str
    days_to_go: int
    cells: list[SquadCellOut]


class SquadWeekOut(Schema):
    squad_id: int
    squad: str
    start: date
    previous: date
    following: date
    days: list[date]
    today: date
    practice_weights: list[float]
    groups: list[str]
    rows: list[SquadRowOut]
    without_season: list[str]


def loads_words(line: SheetLine) -> str:
    """The loads of a line's sets in a few characters."""
    kilos = list(dict.fromkeys(s.load_kg for s in line.sets if s.load_kg is not None))
    return "–".join(format_kg(k) for k in (kilos if len(kilos) < 3 else (kilos[0], kilos[-1])))


def _cell(sheet: Sheet) -> SquadCellOut:
    main = [x for x in sheet.lines if x.planned.is_main][:3]
    return SquadCellOut(
        day=sheet.planned.day,
        key=sheet.planned.key,
        theme=sheet.planned.theme,
        load=sheet.planned.load,
        minutes=round(sheet.minutes),
        is_own=sheet.planned.is_own,
        lines=[
            SquadLineOut(slot=x.planned.slot, exercise=exercise(x.planned.exercise_id).name, text=x.text, loads=loads_words(x))
            for x in main
        ],
        more=len(sheet.lines) - len(main),
    )


def rows_of(people: list[Athlete], monday: date) -> dict[int, SquadRowOut | None]:
    """The row of each athlete in a week: what is kept, and of those who changed worked out together; None without a season."""
    kept = kept_of([a.pk for a in people])
    weeks = {pk: rows.setdefault(KEY, {}) for pk, rows in kept.items()}
    found: dict[int, SquadRowOut | None] = {pk: rows[monday] for pk, rows in weeks.items() if monday in rows}
    for pk, row in _worked_out([a for a in people if a.pk not in found], monday).items():
        found[pk] = weeks[pk][monday] = row
        if len(weeks[pk]) > WEEKS_KEPT:
            weeks[pk].pop(next(iter(weeks[pk])), None)
    return found


def _worked_out(people: list[Athlete], monday: date) -> dict[int, SquadRowOut | None]:
    if not people:
        return {}
    today, rules = clock.today(), rules_in_force()
    read_for_a_week(people)
    seasons, book = SeasonBook(people, today, rules), LiftBook(people, today, rules=rules)
    share_book(book)
    read_told(people, [monday])
    planned = {}
    weeks = {}
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(monday) if plan is not None else None
        if plan is not None and week is not None:
            weeks[person.pk] = week
            planned[person.pk] = planned_week(person, plan, week, rules)
    sheets = sheets_for([p for p in people if p.pk in planned], planned, weeks, book, detail="main")
    found: dict[int, SquadRowOut | None] = {p.pk: None for p in people}
    for p in people:
        if p.pk in planned:
            found[p.pk] = SquadRowOut(
                athlete_id=p.pk,
                name=p.name,
                group=p.group,
                phase=weeks[p.pk].phase,
                phase_name=weeks[p.pk].phase_name,
                days_to_go=(weeks[p.pk].competition_day - max(monday, today)).days,
                cells=[_cell(s) for s in sheets[p.pk]],
            )
    return found


@router.get("/squads/{int:squad_id}/week", response={200: SquadWeekOut, **ERRORS})
def read_squad_week(request: HttpRequest, squad_id: int, start: date | None = None) -> HttpResponse:
    """The week of everybody in a squad, main lines with loads."""
    return kept_squad_page(request, squad_id, ("week", start), lambda: _week(squad_id, start))


def _week(squad_id: int, start: date | None) -> SquadWeekOut:
    squad = get_object_or_404(Squad, pk=squad_id)
    today = clock.today()
    monday = monday_of(near(start or today, "start"))
    people = list(Athlete.here.select_related("squad", "kit").filter(squad=squad))
    rows = rows_of(people, monday)
    return SquadWeekOut(
        squad_id=squad.pk,
        squad=squad.name,
        start=monday,
        previous=monday - timedelta(days=7),
        following=monday + timedelta(days=7),
        days=week_days(monday),
        today=today,
        practice_weights=list(day_weights(practices_of(people[0], monday))) if people else [0.0] * 7,
        groups=sorted({p.group for p in people if p.group}),
        rows=[row for p in people if (row := rows[p.pk]) is not None],
        without_season=[p.name for p in people if rows[p.pk] is None],
    )


class LinesOut(Schema):
    lines: int
    depth: int
    rest_s: float
    words: str


@router.get("/running/lines", response={200: LinesOut, **ERRORS})
def read_lines(request: HttpRequest, athletes: int, work_s: float, gap_s: float = 2, ratio: float = 10) -> LinesOut:
    """How many lines a squad makes for sprints or jumps, so that waiting is the rest."""
    found = lines_for(athletes, work_s, gap_s, ratio)
    return LinesOut(lines=found.lines, depth=found.depth, rest_s=found.rest_s, words=found.words)
