"""A table of athletes and their results, pasted or from a file, read row by row with the problem of each row in words.

A row is an athlete with what is known of them; with a column that names the lift, a row is a result, and an athlete has many.
Limits of what a table may hold are technical [T].
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime
from typing import Any

from jarvok.core.errors import CoachError, outside
from jarvok.core.exercises import Exercise
from jarvok.core.interchange.bounds import rows_of
from jarvok.core.interchange.columns import HEADINGS, LONG, NOT_EXPORTED, Column, read_columns
from jarvok.core.interchange.lift_columns import lift_column
from jarvok.core.interchange.results import TypedResult, read_result
from jarvok.core.interchange.tables import csv_lines, plain_text
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import kg_from_lb

EXPORTED = tuple(c for c in HEADINGS if c not in NOT_EXPORTED)
MOST_ROWS = 1000
MOST_LINES = 5 * MOST_ROWS  # [T] empty ones among them
KINDS = frozenset({"1rm", "one rm", "rep max", "max", "best", "test"})  # kinds of a row that names its lift, and technical ones
LONGEST = {
    "name": 80,
    "squad": 80,
    "sport": 40,
    "group": 40,
    "position": 40,
    "sex": 10,
    "body_mass_class": 20,
    "note": 200,
    "restriction": 200,
}


@dataclass(frozen=True)
class LiftResult:
    """A result of a row: the lift of its column, and what stands in the cell."""

    exercise_id: str
    typed: TypedResult


@dataclass(frozen=True)
class Row:
    """One row: its number in the table, the values read from it, what is wrong with it (empty: nothing), and results of lifts."""

    number: int
    values: dict[str, Any]
    problems: tuple[str, ...]
    results: tuple[LiftResult, ...] = ()


@dataclass(frozen=True)
class Table:
    """Rows, what each column was taken for, and headings that were not understood."""

    rows: tuple[Row, ...]
    columns: tuple[Column, ...]

    @property
    def ignored(self) -> tuple[str, ...]:
        """The headings of columns that are left out."""
        return tuple(c.heading for c in self.columns if not c.key and c.heading)


@dataclass(frozen=True)
class HowRead:
    """How a table is read: lifts that headings and cells may name, columns mapped by hand, days with the month first, and the
    unit of masses that name none.
    """

    lifts: Sequence[Exercise] = ()
    mapping: Mapping[int, str] = field(default_factory=dict)
    month_first: bool = False
    unit: str = "kg"


def read_text(text: str) -> list[list[str]]:
    """Return the cells of pasted or CSV text, whatever separates them: tab, semicolon or comma.

    Raises `CoachError` for text that is no table or far too long.
    """
    sample = text.lstrip("\ufeff")
    first = sample.splitlines()[0] if sample.strip() else ""
    delimiter = max("\t;,", key=first.count)
    return [[cell.strip() for cell in row] for row in rows_of(sample, delimiter, MOST_LINES)]


def read_table(cells: Sequence[Sequence[Any]], today: date, how: HowRead = HowRead()) -> Table:
    """Return every row below the headings with its problems.

    A table whose names are in no known column has the same problem in every row. Raises `CoachError` for one that is too long.
    """
    rows = [(i, list(row)) for i, row in enumerate(cells, start=1) if any(str(c if c is not None else "").strip() for c in row)]
    if len(rows) < 2:
        raise CoachError(
            "There is no row below the headings.", where="text", accepted="A first row of headings, then one athlete a row."
        )
    if len(rows) - 1 > MOST_ROWS:
        raise CoachError(f"{len(rows) - 1} rows are too many at once.", where="text", accepted=f"Up to {MOST_ROWS} rows.")
    columns = read_columns(rows[0][1], rows[1][1], how.lifts, how.mapping, how.unit)
    keys = [c.key for c in columns]
    found = tuple(_row(number, row, columns, today, how) for number, row in rows[1:])
    return Table(found if "lift" in keys else _mark_repeated(found), columns)


def _row(number: int, cells: Sequence[Any], columns: Sequence[Column], today: date, how: HowRead) -> Row:
    values: dict[str, Any] = {}
    problems: list[str] = []
    results: list[LiftResult] = []
    for column in columns:
        cell = cells[column.place] if column.place < len(cells) else None
        if not column.key or cell is None or not str(cell).strip():
            continue
        try:
            if column.is_result:
                result = read_result(str(cell), column.unit)
                results += [LiftResult(column.exercise_id, result)] if result else []
                continue
            values[column.key] = _value(column.key, cell, today, how)
        except CoachError as error:
            problems.append(f"{error.message} {error.accepted}".strip())
    if "mass_lb" in values:
        values["mass_kg"] = round(kg_from_lb(values.pop("mass_lb")), 1)
    if "mass_kg" in values and not 20 <= values["mass_kg"] <= 250:
        problems.append(f"A body mass of {values['mass_kg']:g} kg cannot be. 20 to 250 kg are accepted.")
    if not values.get("name"):
        problems.append("The name is missing.")
    try:
        results += _long_result({k: values.pop(k) for k in LONG if k in values}, how.lifts)
    except CoachError as error:
        problems.append(f"{error.message} {error.accepted}".strip())
    return Row(number, values, tuple(problems), tuple(results))


def _long_result(said: dict[str, Any], lifts: Sequence[Exercise]) -> list[LiftResult]:
    """The result of a row that names its lift; none where the row says nothing of it."""
    load = said.get("result") or said.get("load_kg") or said.get("load_lb")
    if "lift" not in said or load is None:
        return []
    lift = lift_column(str(said["lift"]), lifts)
    if lift is None:
        raise CoachError(f"“{said['lift']}” is no lift that is loaded.", accepted="A lift by its name, such as back squat.")
    kind = str(said.get("kind", "")).strip().lower().replace("-", " ").replace("_", " ")
    is_technical = kind.startswith("technical")
    if kind and kind not in KINDS and not is_technical:
        raise CoachError(f"“{said['kind']}” is not taken from a table.", accepted="1RM, rep-max or technical 1RM.")
    unit = "lb" if "load_lb" in said and "result" not in said else lift.unit or "kg"
    reps = str(said.get("reps", "")).strip().removesuffix(".0")
    text = str(load).strip() + (f" x {reps}" if reps not in ("", "1") else "") + (" technical" if is_technical else "")
    result = read_result(text, unit)
    return [LiftResult(lift.exercise_id, result)] if result else []


def _value(column: str, cell: Any, today: date, how: HowRead) -> Any:
    if column == "birth_date":
        return _birth_date(cell, today, how)
    if column == "tested_on":
        return _tested_on(cell, today, how)
    if column in LONG:
        return str(cell).strip()
    if column in ("training_age_years", "mass_kg", "mass_lb"):
        return _number(column, cell, 0, 60 if column == "training_age_years" else 600)
    if column in ("sessions_a_week", "minutes_a_session"):
        return int(_number(column, cell, 0, 21 if column == "sessions_a_week" else 400))
    text = plain_text(str(cell).strip())
    if len(text) > LONGEST[column]:
        raise CoachError(f"The {column.replace('_', ' ')} is longer than {LONGEST[column]} characters.")
    return text


def _number(column: str, cell: Any, low: float, high: float) -> float:
    try:
        value = float(str(cell).strip().replace(",", "."))
    except ValueError:
        raise CoachError(f"“{cell}” is not a number for the {column.replace('_', ' ')}.") from None
    if not low <= value <= high:
        raise outside(column, value, low, high)
    return value


DATE_FORMS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y", "%d %b %Y", "%d %B %Y")
MONTH_FIRST = ("%Y-%m-%d", "%m/%d/%Y", "%m.%d.%Y", "%b %d %Y", "%B %d, %Y", "%d %b %Y", "%d %B %Y")


def _day(cell: Any, how: HowRead) -> date:
    if isinstance(cell, datetime):
        return cell.date()
    if isinstance(cell, date):
        return cell
    text = str(cell).strip()
    for form in MONTH_FIRST if how.month_first else DATE_FORMS:
        try:
            return datetime.strptime(text, form).date()
        except ValueError:
            continue
    read = "2003-02-28, 2/28/2003 and 28 Feb 2003" if how.month_first else "2003-02-28, 28.2.2003 and 28 Feb 2003"
    raise CoachError(f"“{text}” is not a day.", accepted=f"{read} are read.")


def _tested_on(cell: Any, today: date, how: HowRead) -> date:
    found = _day(cell, how)
    if found > today:
        raise CoachError(
            f"Tested on {said_day(found, year=True, is_long=True)}, which is still to come.",
            accepted="Today or an earlier day is accepted.",
        )
    return found


def _birth_date(cell: Any, today: date, how: HowRead) -> date:
    found = _day(cell, how)
    if not 5 <= (today - found).days / 365.25 <= 100:
        raise CoachError(
            f"Born {said_day(found, year=True, is_long=True)} cannot be.", accepted="Ages from 5 to 100 are accepted."
        )
    return found


def _mark_repeated(rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """A name twice is a slip, unless the rows are of different days."""
    seen: dict[tuple[str, str, date | None], int] = {}
    found: list[Row] = []
    for row in rows:
        key = (str(row.values.get("squad", "")).lower(), str(row.values.get("name", "")).lower(), row.values.get("tested_on"))
        if key[1] and key in seen:
            row = replace(row, problems=(*row.problems, f"The same name stands in row {seen[key]} already."))
        elif key[1]:
            seen[key] = row.number
        found.append(row)
    return tuple(found)


def write_csv(rows: Sequence[dict[str, Any]]) -> str:
    """Return rows as CSV with a heading row; texts stay texts."""
    return "".join(csv_lines([c.replace("_", " ") for c in EXPORTED], ([row.get(c) for c in EXPORTED] for row in rows)))
