"""A table of athletes, pasted or from a file, read row by row with the problem of each row in words.

Limits of what a table may hold are technical [T].
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.interchange.lift_columns import lift_column
from jarvok.core.interchange.results import TypedResult, read_result
from jarvok.core.quantities.mass import kg_from_lb

# column -> headings that mean it, lower case without signs
HEADINGS: dict[str, tuple[str, ...]] = {
    "name": ("name", "athlete", "full name"),
    "squad": ("squad", "team"),
    "sport": ("sport",),
    "group": ("group",),
    "position": ("position", "position group"),
    "birth_date": ("birth date", "born", "date of birth", "dob", "birthday"),
    "sex": ("sex",),
    "training_age_years": ("training age", "training years", "training age years", "years of lifting", "years"),
    "mass_kg": ("mass", "mass kg", "body mass", "body mass kg", "weight", "weight kg"),
    "mass_lb": ("mass lb", "body mass lb", "weight lb"),
    "body_mass_class": ("class", "body mass class", "weight class"),
    "sessions_a_week": ("sessions a week", "sessions per week", "sessions"),
    "minutes_a_session": ("minutes a session", "minutes per session", "minutes"),
    "note": ("note", "notes"),
    "tested_on": ("tested", "tested on", "test day", "day of the test", "day of the results"),
}
EXPORTED = tuple(c for c in HEADINGS if c not in ("mass_lb", "tested_on"))
MOST_ROWS = 1000
LONGEST = {"name": 80, "squad": 80, "sport": 40, "group": 40, "position": 40, "sex": 10, "body_mass_class": 20, "note": 200}
RESULT = "result"  # [T] marks a column of results
RISKY = ("=", "+", "-", "@", "\t", "\r")  # a spreadsheet would take a text that begins so for a formula


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
    """Rows, and headings that were not understood."""

    rows: tuple[Row, ...]
    ignored: tuple[str, ...]


def read_text(text: str) -> list[list[str]]:
    """Return the cells of pasted or CSV text, whatever separates them: tab, semicolon or comma."""
    sample = text.lstrip("\ufeff")
    first = sample.splitlines()[0] if sample.strip() else ""
    delimiter = max("\t;,", key=first.count)
    return [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(sample), delimiter=delimiter)]


def read_table(cells: Sequence[Sequence[Any]], today: date, lifts: Sequence[Exercise] = ()) -> Table:
    """Return every row below the headings with its problems; a column named like one of `lifts` holds results of it.

    Raises `CoachError` for a table without names or too long.
    """
    rows = [(i, list(row)) for i, row in enumerate(cells, start=1) if any(str(c if c is not None else "").strip() for c in row)]
    if len(rows) < 2:
        raise CoachError(
            "There is no row below the headings.", where="text", accepted="A first row of headings, then one athlete a row."
        )
    if len(rows) - 1 > MOST_ROWS:
        raise CoachError(f"{len(rows) - 1} rows are too many at once.", where="text", accepted=f"Up to {MOST_ROWS} rows.")
    columns, ignored = _columns(rows[0][1], lifts)
    if "name" not in columns.values():
        others = ", ".join(c.replace("_", " ") for c in EXPORTED[1:])
        raise CoachError("No column holds names.", where="text", accepted=f"A heading “name”; also {others}.")
    found = tuple(_row(number, cells, columns, today) for number, cells in rows[1:])
    return Table(_mark_repeated(found), ignored)


def _columns(headings: Sequence[Any], lifts: Sequence[Exercise]) -> tuple[dict[int, str], tuple[str, ...]]:
    known: dict[int, str] = {}
    ignored: list[str] = []
    for i, heading in enumerate(headings):
        plain = re.sub(r"[^a-z ]", " ", str(heading or "").lower().replace("_", " "))
        plain = re.sub(r"\s+", " ", plain).strip()
        column = next((c for c, names in HEADINGS.items() if plain in names), None)
        if column is not None:
            known[i] = column
        elif lift := lift_column(str(heading or ""), lifts):
            known[i] = f"{RESULT}:{lift.exercise_id}:{lift.unit or 'kg'}"
        elif plain:
            ignored.append(str(heading))
    return known, tuple(ignored)


def _row(number: int, cells: Sequence[Any], columns: dict[int, str], today: date) -> Row:
    values: dict[str, Any] = {}
    problems: list[str] = []
    results: list[LiftResult] = []
    for i, column in columns.items():
        cell = cells[i] if i < len(cells) else None
        if cell is None or not str(cell).strip():
            continue
        try:
            if column.startswith(RESULT):
                _, lift, unit = column.split(":")
                result = read_result(str(cell), unit)
                results += [LiftResult(lift, result)] if result else []
                continue
            values[column] = _value(column, cell, today)
        except CoachError as error:
            problems.append(f"{error.message} {error.accepted}".strip())
    if "mass_lb" in values:
        values["mass_kg"] = round(kg_from_lb(values.pop("mass_lb")), 1)
    if "mass_kg" in values and not 20 <= values["mass_kg"] <= 250:
        problems.append(f"A body mass of {values['mass_kg']:g} kg cannot be. 20 to 250 kg are accepted.")
    if not values.get("name"):
        problems.append("The name is missing.")
    return Row(number, values, tuple(problems), tuple(results))


def _value(column: str, cell: Any, today: date) -> Any:
    if column == "birth_date":
        return _birth_date(cell, today)
    if column == "tested_on":
        return _tested_on(cell, today)
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
        raise CoachError(f"{value:g} cannot be the {column.replace('_', ' ')}.", accepted=f"{low:g} to {high:g}.")
    return value


DATE_FORMS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y", "%d %b %Y", "%d %B %Y")


def _day(cell: Any) -> date:
    if isinstance(cell, datetime):
        return cell.date()
    if isinstance(cell, date):
        return cell
    text = str(cell).strip()
    for form in DATE_FORMS:
        try:
            return datetime.strptime(text, form).date()
        except ValueError:
            continue
    raise CoachError(f"“{text}” is not a day.", accepted="2003-02-28, 28.2.2003 and 28 Feb 2003 are read.")


def _tested_on(cell: Any, today: date) -> date:
    found = _day(cell)
    if found > today:
        raise CoachError(f"Tested on {found:%-d %B %Y}, which is still to come.", accepted="Today or an earlier day is accepted.")
    return found


def _birth_date(cell: Any, today: date) -> date:
    found = _day(cell)
    if not 5 <= (today - found).days / 365.25 <= 100:
        raise CoachError(f"Born {found:%-d %B %Y} cannot be.", accepted="Ages from 5 to 100 are accepted.")
    return found


def _mark_repeated(rows: tuple[Row, ...]) -> tuple[Row, ...]:
    seen: dict[tuple[str, str], int] = {}
    found: list[Row] = []
    for row in rows:
        key = (str(row.values.get("squad", "")).lower(), str(row.values.get("name", "")).lower())
        if key[1] and key in seen:
            row = replace(row, problems=(*row.problems, f"The same name stands in row {seen[key]} already."))
        elif key[1]:
            seen[key] = row.number
        found.append(row)
    return tuple(found)


def safe_text(text: str) -> str:
    """Return a text as it goes into a CSV cell: one that a spreadsheet would take for a formula gets an apostrophe."""
    return f"'{text}" if text.startswith(RISKY) else text


def plain_text(text: str) -> str:
    """Return a cell's text without the apostrophe that `safe_text` put before it."""
    return text[1:] if text.startswith("'") and text[1:].startswith(RISKY) else text


def write_csv(rows: Sequence[dict[str, Any]]) -> str:
    """Return rows as CSV with a heading row; texts stay texts."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([c.replace("_", " ") for c in EXPORTED])
    for row in rows:
        writer.writerow([_cell(row.get(column)) for column in EXPORTED])
    return out.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, str):
        return safe_text(value)
    return value.isoformat() if isinstance(value, date) else f"{value:g}"
