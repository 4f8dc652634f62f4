"""A test day of a squad: a grid of athletes and lifts, who may do what, results typed, pasted or from a file, kept together."""

from __future__ import annotations

from datetime import date
from typing import Literal

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import File, Router
from ninja.files import UploadedFile

from jarvok.app import clock
from jarvok.app.api.athletes.transfer import sheet_text
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.schema import Schema
from jarvok.app.testing.actions import keep_results as keep
from jarvok.app.testing.max_tests import Offers
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.interchange.athletes import read_text
from jarvok.core.interchange.results import MOST_LIFTS, Grid, PastedResults, read_results_table
from jarvok.core.interchange.results import read_pasted as read_rows
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import format_mass
from jarvok.core.testing.choice import NAMES, TestKind

router = Router(tags=["tests"])
USUAL = 3  # lifts a new day begins with
SHORT = {
    TestKind.TRUE_MAX: "1RM", TestKind.TECHNICAL_SINGLE: "technical", TestKind.REP_MAX: "6–10RM",
    TestKind.CONSERVATIVE: "10–15RM", TestKind.LOAD_VELOCITY: "m/s",
}  # fmt: skip


class DayCell(Schema):
    """One athlete and lift: the max that is known, which tests are open, in short and with why not a true max."""

    exercise_id: str
    known: str
    may: list[str]
    is_max_open: bool
    why_not: str


class DayRow(Schema):
    athlete_id: int
    name: str
    group: str
    cells: list[DayCell]


class DayLift(Schema):
    id: str
    name: str


class TestDayOut(Schema):
    __test__ = False
    squad_id: int
    squad: str
    today: date
    unit: str
    lifts: list[DayLift]
    rows: list[DayRow]
    caution: str


class CellIn(Schema):
    athlete_id: int
    exercise_id: str
    text: str
    confirm: bool = False


class ResultsIn(Schema):
    day: date
    unit: Literal["kg", "lb"] = "kg"
    cells: list[CellIn]


class KeptCell(Schema):
    athlete_id: int
    exercise_id: str
    text: str
    is_kept: bool
    problem: str
    asks: bool


class KeptOut(Schema):
    kept: int
    cells: list[KeptCell]
    day: TestDayOut


class PasteIn(Schema):
    """What was pasted, into which cell of the grid, and the lifts that it shows."""

    text: str
    lifts: list[str] = []
    athlete_id: int | None = None
    exercise_id: str = ""


class PastedOut(Schema):
    """A pasted table as it lies in the grid, and what was not understood."""

    lifts: list[DayLift]
    cells: list[CellIn]
    unknown: list[str]


def _squad(squad_id: int) -> Squad:
    return get_object_or_404(Squad, pk=squad_id)


def _people(squad: Squad) -> list[Athlete]:
    rows = Athlete.here.filter(squad=squad).select_related("squad", "kit").prefetch_related("restrictions", "masses")
    return list(rows.order_by("name"))


def _lifts(wanted: str, people: list[Athlete], book: LiftBook) -> list[Exercise]:
    """The lifts asked for, else those that most of the squad have a max in."""
    if wanted:
        return [exercise(e) for e in list(dict.fromkeys(wanted.split(",")))[:MOST_LIFTS]]
    counts: dict[str, int] = {}
    for person in people:
        for lift in book.lifts_of(person.pk):
            if lift.same_lift == lift.id and book.max(person.pk, lift.id) is not None:
                counts[lift.id] = counts.get(lift.id, 0) + 1
    usual = sorted(counts, key=lambda e: (-counts[e], e))[:USUAL]
    return [exercise(e) for e in usual or ["back_squat"]]


def _day_out(squad: Squad, wanted: str) -> TestDayOut:
    people = _people(squad)
    book = LiftBook(people, clock.today())
    lifts, offers = _lifts(wanted, people, book), Offers(people)
    return TestDayOut(
        squad_id=squad.pk,
        squad=squad.name,
        today=clock.today(),
        unit=_unit(people),
        lifts=[DayLift(id=lift.id, name=lift.name) for lift in lifts],
        rows=[
            DayRow(athlete_id=a.pk, name=a.name, group=a.group, cells=[_cell(a, lift, book, offers) for lift in lifts])
            for a in people
        ],
        caution="Spotters or safeties, collars, a clear platform. Stop when technique breaks. Local rules and licensed "
        "professionals come first.",
    )


def _unit(people: list[Athlete]) -> str:
    """The unit of the squad's kit where all have one in pounds."""
    return "lb" if people and all(kit_of(a.kit).unit == "lb" for a in people) else "kg"


def _cell(athlete: Athlete, lift: Exercise, book: LiftBook, offers: Offers) -> DayCell:
    current = book.max(athlete.pk, lift.id)
    unit = kit_of(athlete.kit).unit
    open_to = [o for o in offers.of(athlete, lift, False) if o.kind is not TestKind.LOAD_VELOCITY]
    true_max = next(o for o in open_to if o.kind is TestKind.TRUE_MAX)
    return DayCell(
        exercise_id=lift.id,
        known=f"{format_mass(round(current.value_kg, 1), unit)} {unit}" if current is not None else "",
        may=[SHORT[o.kind] for o in open_to if o.is_open],
        is_max_open=true_max.is_open,
        why_not="" if true_max.is_open else f"{NAMES[TestKind.TRUE_MAX]}: {'; '.join(true_max.reasons)}",
    )


@router.get("/squads/{int:squad_id}/test-day", response={200: TestDayOut, **ERRORS})
def read_test_day(request: HttpRequest, squad_id: int, lifts: str = "") -> TestDayOut:
    return _day_out(_squad(squad_id), lifts)


@router.post("/squads/{int:squad_id}/test-day", response={200: KeptOut, **ERRORS})
def keep_results(request: HttpRequest, squad_id: int, payload: ResultsIn) -> KeptOut:
    """Keep each result that can be kept; the others are said, one by one."""
    squad = _squad(squad_id)
    if payload.day > clock.today():
        raise CoachError(
            f"{said_day(payload.day, year=True, is_long=True)} is still to come.",
            where="day",
            accepted="Today or an earlier day is accepted.",
        )
    entries = [keep.Entry(c.athlete_id, c.exercise_id, c.text, c.confirm) for c in payload.cells]
    found = keep.run(who_of(request), squad, payload.day, payload.unit, entries)
    lifts = ",".join(dict.fromkeys(c.exercise_id for c in payload.cells))
    cells = [
        KeptCell(
            athlete_id=o.entry.athlete_id, exercise_id=o.entry.exercise_id, text=o.entry.text, is_kept=o.mark is not None,
            problem=o.problem, asks=o.asks,
        )
        for o in found
    ]  # fmt: skip
    return KeptOut(kept=sum(c.is_kept for c in cells), cells=cells, day=_day_out(squad, lifts))


@router.post("/squads/{int:squad_id}/test-day/paste", response={200: PastedOut, **ERRORS})
def read_pasted(request: HttpRequest, squad_id: int, payload: PasteIn) -> PastedOut:
    """A table with its own headings, rows that begin with names, or a block of cells, as it lies in the grid. Nothing is kept."""
    squad = _squad(squad_id)
    people = list(Athlete.here.filter(squad=squad).order_by("name"))
    row = next((i for i, a in enumerate(people) if a.pk == payload.athlete_id), 0)
    column = payload.lifts.index(payload.exercise_id) if payload.exercise_id in payload.lifts else 0
    grid = Grid(tuple(a.name for a in people), tuple(payload.lifts), row, column)
    return _pasted(squad, read_rows(read_text(payload.text), _loaded(), grid))


@router.post("/squads/{int:squad_id}/test-day/file", response={200: PastedOut, **ERRORS})
def read_file(request: HttpRequest, squad_id: int, file: File[UploadedFile]) -> PastedOut:
    """The same from a CSV or XLSX file."""
    return _pasted(_squad(squad_id), read_results_table(read_text(sheet_text(file)), _loaded()))


def _loaded() -> list[Exercise]:
    return [e for e in exercises().values() if e.is_loaded]


def _pasted(squad: Squad, table: PastedResults) -> PastedOut:
    people = {a.name.lower(): a for a in Athlete.here.filter(squad=squad)}
    unknown = [f"{h}: no such lift" for h in table.unknown]
    found: list[CellIn] = []
    for name, row in table.rows:
        person = people.get(name.lower())
        if person is None:
            unknown.append(f"{name}: not of this squad")
            continue
        found += [
            CellIn(athlete_id=person.pk, exercise_id=lift, text=text)
            for lift, text in zip(table.lifts, row, strict=True)
            if lift is not None and text
        ]
    lifts = [DayLift(id=e, name=exercise(e).name) for e in dict.fromkeys(e for e in table.lifts if e is not None)]
    return PastedOut(lifts=lifts, cells=found, unknown=unknown)
