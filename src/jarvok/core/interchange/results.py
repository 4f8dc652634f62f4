"""Results of a test day as they are typed or pasted: one cell a result, or a table of athletes and lifts.

Limits of what a table may hold are technical [T].
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.interchange.lift_columns import LiftColumn, lift_column
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.mass import kg_from_lb

MOST_LIFTS, MOST_ROWS = 12, 400
ACCEPTED = "A load such as 100, with repetitions 70x5, a unit 225 lb, or 60 technical for a technical 1RM."
NOTHING = frozenset({"", "-", "–", "—", "0", "x", "n/a", "dns", "miss"})
_CELL = re.compile(
    r"^(?P<load>\d+(?:[.,]\d+)?)\s*(?P<unit>kgs?|lbs?|#)?\s*(?:[x×*]\s*(?P<reps>\d+))?\s*(?P<technical>t|tech|technical)?$",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class TypedResult:
    """A result as it was typed: the load in its own unit and in kg, repetitions, and what kind of evidence it is."""

    load: float
    unit: str
    load_kg: float
    reps: int
    kind: MarkKind


def read_result(text: str, unit: str) -> TypedResult | None:
    """Return a cell as a result, None for one that says there is none. `unit` counts where the cell names none: kg or lb.

    Raises `CoachError` for what cannot be read.
    """
    said = text.strip().lower()
    if said in NOTHING:
        return None
    found = _CELL.match(said)
    if found is None:
        raise CoachError(f"“{text.strip()}” is no result.", where="text", accepted=ACCEPTED)
    load = float(found["load"].replace(",", "."))
    typed = "lb" if (found["unit"] or unit)[0] in "l#" else "kg"
    reps = int(found["reps"] or 1)
    if found["technical"] and reps != 1:
        raise CoachError("A technical 1RM is a single.", where="text", accepted=ACCEPTED)
    kind = MarkKind.TECHNICAL_MAX if found["technical"] else MarkKind.ONE_RM if reps == 1 else MarkKind.REP_MAX
    return TypedResult(load, typed, kg_from_lb(load) if typed == "lb" else load, reps, kind)


@dataclass(frozen=True)
class PastedResults:
    """A pasted table: the exercise of each column (None: not known), and each row's name and cells; what was not understood."""

    lifts: tuple[str | None, ...]
    rows: tuple[tuple[str, tuple[str, ...]], ...]
    unknown: tuple[str, ...]


def read_results_table(cells: Sequence[Sequence[str]], lifts: Sequence[Exercise]) -> PastedResults:
    """Return a table whose first line names lifts and whose first column names athletes.

    Raises `CoachError` for a table without a heading or with too much in it.
    """
    rows = [row for row in cells if any(c.strip() for c in row)]
    if len(rows) < 2 or len(rows[0]) < 2:
        raise CoachError(
            "The table needs a line of lifts and a line for each athlete.", where="text", accepted="Name, Back squat, Bench press"
        )
    if len(rows) > MOST_ROWS or len(rows[0]) > MOST_LIFTS + 1:
        raise CoachError("The table is too large.", where="text", accepted=f"Up to {MOST_ROWS} athletes and {MOST_LIFTS} lifts.")
    heads = [h.strip() for h in rows[0][1:]]
    columns = tuple(lift_column(h, lifts) for h in heads)
    found = tuple(c.exercise_id if c else None for c in columns)
    unknown = tuple(h for h, lift in zip(heads, found, strict=True) if h and lift is None)
    width = len(heads)
    body = tuple(
        (
            row[0].strip(),
            tuple(_in_unit(c.strip(), x) for c, x in zip([*row[1:], *[""] * width][:width], columns, strict=True)),
        )
        for row in rows[1:]
        if row[0].strip()
    )
    return PastedResults(found, body, unknown)


def _in_unit(cell: str, column: LiftColumn | None) -> str:
    """A cell with the unit of its heading, where it names none itself."""
    if column is None or not column.unit or not (found := _CELL.match(cell.lower())) or found["unit"]:
        return cell
    load = found["load"]
    return f"{load} {column.unit} {cell[len(load) :].strip()}".strip()


@dataclass(frozen=True)
class Grid:
    """The grid a table is pasted into: names down and lifts across, and the cell that has the cursor."""

    names: tuple[str, ...]
    lifts: tuple[str, ...]
    row: int = 0
    column: int = 0


def read_pasted(cells: Sequence[Sequence[str]], lifts: Sequence[Exercise], grid: Grid) -> PastedResults:
    """Return what was pasted: a table with its own headings, rows that begin with names, or a block from the cell of the cursor.

    Raises `CoachError` as `read_results_table` does.
    """
    rows = [[c.strip() for c in row] for row in cells if any(c.strip() for c in row)]
    named = {n.lower() for n in grid.names}
    if rows and any(lift_column(c, lifts) for c in rows[0]):
        return read_results_table(rows, lifts)
    if any(row[0].lower() in named for row in rows if len(row) > 1):
        body = tuple((row[0], tuple(row[1:][: len(grid.lifts)])) for row in rows)
        width = max(len(row) for _, row in body)
        return PastedResults(grid.lifts[:width], tuple((n, (*row, *[""] * (width - len(row)))) for n, row in body), ())
    width = min(max((len(row) for row in rows), default=0), len(grid.lifts) - grid.column)
    down = zip(grid.names[grid.row :], rows, strict=False)
    body = tuple((name, tuple([*row, *[""] * width][:width])) for name, row in down)
    return PastedResults(grid.lifts[grid.column : grid.column + width], body, ())
