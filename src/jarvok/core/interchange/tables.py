"""A table going out: CSV line by line, whose texts no spreadsheet takes for formulas."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from datetime import date, datetime

RISKY = ("=", "+", "-", "@", "\t", "\r")  # a spreadsheet would take a text that begins so for a formula
Cell = str | float | int | bool | date | None
MOST_SHEET_ROWS = 1_048_576  # of a sheet, by ISO/IEC 29500; quoted from memory


def safe_text(text: str) -> str:
    """Return a text as it goes into a CSV cell: one that a spreadsheet would take for a formula gets an apostrophe."""
    return f"'{text}" if text.startswith(RISKY) else text


def plain_text(text: str) -> str:
    """Return a cell's text without the apostrophe that `safe_text` put before it."""
    return text[1:] if text.startswith("'") and text[1:].startswith(RISKY) else text


def cell_text(value: Cell) -> str:
    """Return a value as it stands in CSV: days and moments as ISO 8601, numbers with a point, yes or no, nothing for none."""
    match value:
        case None:
            return ""
        case bool():
            return "yes" if value else "no"
        case str():
            return safe_text(value)
        case datetime():
            return value.isoformat(timespec="seconds")
        case date():
            return value.isoformat()
        case _:
            return f"{value:.6f}".rstrip("0").rstrip(".") if isinstance(value, float) else str(value)


def csv_lines(columns: Sequence[str], rows: Iterable[Sequence[Cell]]) -> Iterator[str]:
    """Yield a heading and then each row as a line of CSV, ended as RFC 4180 has it."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(columns)
    for row in rows:
        yield out.getvalue()
        out.seek(0)
        out.truncate()
        writer.writerow([cell_text(v) for v in row])
    yield out.getvalue()
