"""One session for everybody of a squad who has it: a table of loads, and the rack sheet."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from itertools import groupby

from django.http import HttpRequest, HttpResponse
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.kept_page import kept_squad_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.training.shapes import BlockOut
from jarvok.app.api.training.sheet import blocks_of, forms_words
from jarvok.app.athletes.findings import ON_PAPER
from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.athletes.kept_squads import squad_of
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import athlete_of, read_for_a_week
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.rack_sheet import LiftAtRacks, rack_sheet, racks_of
from jarvok.app.training.sheets import AthleteWeek, Sheet, SheetLine, sheets_for
from jarvok.app.training.told_weeks import read_told
from jarvok.core.floor.racks import MOST_RACKS
from jarvok.core.floor.step_words import loads_words as loads_of_sets
from jarvok.core.floor.step_words import rest_words, set_words
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import words_of
from jarvok.core.quantities.mass import format_mass
from jarvok.core.quantities.sentence import counted
from jarvok.core.season.model import monday_of

KEY = "sheets of a day"
DAYS_KEPT = 2  # [T] of each athlete

router = Router(tags=["squad"])


class AlikeSetsOut(Schema):
    """Sets in a row that are alike: how many, and one of them in full."""

    count: int
    words: str


class TableSetOut(Schema):
    """An athlete's own in a line: the loads in a few characters, each set in full, plates a side, what differs."""

    text: str
    words: str
    sets: list[AlikeSetsOut]
    is_loaded: bool
    sides: list[str]
    note: str
    learned: list[str]  # of this athlete alone


class TableRowOut(Schema):
    athlete_id: int
    name: str
    group: str
    lines: dict[str, TableSetOut]
    other: str


class TableLineOut(Schema):
    slot: str
    block: str
    exercise: str
    text: str
    cue: str
    note: str
    rest: str
    runs: bool
    unit: str  # of everybody's loads; nothing where rooms of both stand in the column, and each says its own


class SquadTableOut(Schema):
    """One session for everybody of the squad who has it on that day: lines across, athletes down."""

    squad: str
    day: date
    days_to_go: int
    theme: str
    blocks: list[BlockOut]
    lines: list[TableLineOut]
    rows: list[TableRowOut]
    minutes: int


@dataclass(frozen=True)
class _Together:
    """A session of an athlete, and the sheets of everybody of the squad who has one that day."""

    athlete: Athlete
    week: AthleteWeek
    own: Sheet
    people: list[tuple[Athlete, Sheet]]


def _together(athlete_id: int, day: date, key: str, group: str = "") -> _Together:
    athlete = athlete_of(athlete_id)
    own_week, own = find_sheet(athlete, day, key)
    people = list(Athlete.here.select_related("squad", "kit").filter(squad=athlete.squad))
    if group:
        people = [p for p in people if p.group == group]
    sheets = sheets_on(people, day)
    return _Together(athlete, own_week, own, [(p, _same(sheets[p.pk], own)) for p in people if sheets[p.pk]])


def sheets_on(people: list[Athlete], day: date) -> dict[int, tuple[Sheet, ...]]:
    """The sheets of each on a day, with their loads alone; worked out together for those of whom they are not kept."""
    kept = {pk: rows.setdefault(KEY, {}) for pk, rows in kept_of([p.pk for p in people]).items()}
    found: dict[int, tuple[Sheet, ...]] = {pk: rows[day] for pk, rows in kept.items() if day in rows}
    missing = [p for p in people if p.pk not in found]
    for pk, sheets in (_worked_out(missing, day) if missing else {}).items():
        found[pk] = kept[pk][day] = sheets
        if len(kept[pk]) > DAYS_KEPT:
            kept[pk].pop(next(iter(kept[pk])), None)
    return found


def _worked_out(people: list[Athlete], day: date) -> dict[int, tuple[Sheet, ...]]:
    today, rules = clock.today(), rules_in_force()
    read_for_a_week(people)
    seasons, book = SeasonBook(people, today, rules), LiftBook(people, today, rules=rules)
    share_book(book)
    read_told(people, [monday_of(day)])
    planned, weeks = {}, {}
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(day) if plan is not None else None
        if plan is not None and week is not None:
            found = [s for s in planned_week(person, plan, week, rules) if s.day == day]
            if found:
                planned[person.pk], weeks[person.pk] = tuple(found), week
    sheets = sheets_for([p for p in people if p.pk in planned], planned, weeks, book, detail="loads")
    return {p.pk: sheets[p.pk] if p.pk in planned else () for p in people}


def _same(sheets: tuple[Sheet, ...], own: Sheet) -> Sheet:
    """The session of the day that somebody has with the one looked at: by its key, else the first."""
    return next((s for s in sheets if s.planned.key == own.planned.key), sheets[0])


@router.get("/athletes/{int:athlete_id}/sessions/{day}/{key}/squad", response={200: SquadTableOut, **ERRORS})
def read_squad_table(request: HttpRequest, athlete_id: int, day: date, key: str, group: str = "") -> HttpResponse:
    page = ("session", athlete_id, day, key, group)
    return kept_squad_page(request, squad_of(athlete_id) or 0, page, lambda: squad_table(athlete_id, day, key, group))


def squad_table(athlete_id: int, day: date, key: str, group: str = "") -> SquadTableOut:
    """The session of an athlete with the loads of everybody of the squad, or of a group in it, who has one that day."""
    found = _together(athlete_id, day, key, group)
    own = found.own
    units = _units_of(found)
    return SquadTableOut(
        squad=found.athlete.squad.name,
        day=day,
        days_to_go=(found.week.week.competition_day - day).days,
        theme=own.planned.theme,
        blocks=blocks_of(own),
        lines=[
            TableLineOut(
                slot=x.planned.slot,
                block=x.planned.block,
                exercise=exercise(x.planned.exercise_id).name,
                text=x.text,
                cue=exercise(x.planned.exercise_id).cue,
                note=", ".join(
                    w for w in (x.planned.note, words_of(x.planned.conditions), forms_words(x), *on_paper(x, squads=True)) if w
                ),
                rest=_said_rest(x.text, rest_words(own.steps, at)),
                runs=exercise(x.planned.exercise_id).kind in ("run", "jump"),
                unit=units.get(x.planned.slot, ""),
            )
            for at, x in enumerate(own.lines)
        ],
        rows=[_table_row(p, sheet, own, units) for p, sheet in found.people],
        minutes=round(own.minutes),
    )


def _units_of(found: _Together) -> dict[str, str]:
    """The unit of each line's loads, where all who have it lift in the same."""
    units: dict[str, set[str]] = {}
    for _, sheet in found.people:
        for line in sheet.lines:
            units.setdefault(line.planned.slot, set()).update(s.unit for s in line.sets if s.load_kg is not None)
    return {slot: next(iter(some)) for slot, some in units.items() if len(some) == 1}


def on_paper(line: SheetLine, *, squads: bool) -> list[str]:
    """What was learned of a lift and is for athletes to read: of the whole squad, or of this one alone."""
    return [x.words for x in line.learned if x.kind in ON_PAPER and x.is_squads == squads]


def _said_rest(text: str, rest: str) -> str:
    """The rest as it is said beside a line, nothing where the line says it itself."""
    if not rest or "rest" in text or "every" in text:
        return ""
    return rest if rest.startswith("every") else f"rest {rest}"


def _table_row(person: Athlete, sheet: Sheet, own: Sheet, units: Mapping[str, str]) -> TableRowOut:
    wanted = {x.planned.slot: x for x in own.lines}
    cells: dict[str, TableSetOut] = {}
    differs = 0
    for line in sheet.lines:
        same = wanted.get(line.planned.slot)
        if same is None:
            differs += 1
            continue
        other = line.planned.exercise_id != same.planned.exercise_id
        note = exercise(line.planned.exercise_id).name if other else ""
        heaviest = max((s for s in line.sets if s.load_kg is not None), key=lambda s: s.load_kg or 0, default=None)
        sides = [format_mass(m, heaviest.unit) for m in heaviest.per_side_kg] if heaviest is not None else []
        text = line.text if line.text != same.text else ""
        unit = heaviest.unit if heaviest is not None else ""
        told = line.told
        minis = [line.station().minis(n) for n in range(1, len(told) + 1)]
        cells[line.planned.slot] = TableSetOut(
            text=text,
            words=" ".join(w for w in (loads_of_sets(told), "" if units.get(line.planned.slot) else unit) if w),
            sets=[
                AlikeSetsOut(count=len(list(alike)), words=words)
                for words, alike in groupby(set_words(s, m) for s, m in zip(told, minis, strict=True))
            ],
            is_loaded=heaviest is not None,
            sides=sides,
            note=note,
            learned=on_paper(line, squads=False),
        )
    missing = [s for s in wanted if s not in cells]
    words = f"without {', '.join(missing)}" if missing else ""
    if differs:
        words = f"{words}; {counted(differs, 'line')} of their own" if words else f"{counted(differs, 'line')} of their own"
    return TableRowOut(athlete_id=person.pk, name=person.name, group=person.group, lines=cells, other=words)


class RackTurnOut(Schema):
    name: str
    load: str
    sides: str
    change: str
    sets: int


class RackOut(Schema):
    number: int
    turns: list[RackTurnOut]


class RackLiftOut(Schema):
    slot: str
    exercise: str
    text: str
    learned: list[str]  # of the whole squad: what is one athlete's stands on no wall
    unit: str
    racks: list[RackOut]


class RackSheetOut(Schema):
    """Who lifts at which rack, in which order, and what changes on the bar from one to the next, lift by lift."""

    squad: str
    day: date
    theme: str
    racks: int
    most_racks: int
    lifts: list[RackLiftOut]


@router.get("/athletes/{int:athlete_id}/sessions/{day}/{key}/racks", response={200: RackSheetOut, **ERRORS})
def read_rack_sheet(request: HttpRequest, athlete_id: int, day: date, key: str, racks: int | None = None) -> RackSheetOut:
    found = _together(athlete_id, day, key)
    used = racks if racks is not None else racks_of(found.athlete.squad_id, day, len(found.people))
    return RackSheetOut(
        squad=found.athlete.squad.name,
        day=day,
        theme=found.own.planned.theme,
        racks=used,
        most_racks=MOST_RACKS,
        lifts=[_rack_lift(lift) for lift in rack_sheet(found.own, found.people, used)],
    )


def _rack_lift(lift: LiftAtRacks) -> RackLiftOut:
    return RackLiftOut(
        slot=lift.slot,
        exercise=exercise(lift.exercise_id).name,
        text=lift.text,
        learned=on_paper(lift.line, squads=True),
        unit=lift.unit,
        racks=[
            RackOut(
                number=number,
                turns=[
                    RackTurnOut(
                        name=t.lifter.name,
                        load=lift.loads[t.lifter.athlete_id],
                        sides=" + ".join(format_mass(kg, lift.unit) for kg in t.lifter.per_side_kg) or "empty bar",
                        change=", ".join(w for w in (t.change if len(turns) > 1 else "", t.pins) if w),
                        sets=lift.sets[t.lifter.athlete_id],
                    )
                    for t in turns
                ],
            )
            for number, turns in enumerate(lift.racks, start=1)
        ],
    )
