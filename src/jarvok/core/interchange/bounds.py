"""How much a file may hold before it is read at all. All limits are technical [T]."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from itertools import islice

from jarvok.core.errors import CoachError

MOST_INFLATED_BYTES = 6_000_000  # a thousand athletes with every column take about one
MOST_PARTS = 400
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f]")


def without_control(text: str) -> str:
    """Return text without the signs that nothing shows and no workbook may hold; tabs and ends of lines stay."""
    return _CONTROL.sub("", text)


def check_inflated(raw: bytes) -> None:
    """Raise `CoachError` for a workbook that is small as a file and large when it is opened, or that is none."""
    try:
        with zipfile.ZipFile(io.BytesIO(raw)) as parts:
            sizes = [part.file_size for part in parts.infolist() if part.filename.endswith((".xml", ".rels"))]
    except zipfile.BadZipFile as error:
        raise CoachError("The file cannot be read.", where="file", accepted="CSV in UTF-8, or XLSX.") from error
    if len(sizes) > MOST_PARTS or sum(sizes) > MOST_INFLATED_BYTES:
        raise CoachError(
            "There is more in this workbook than a list of athletes can hold.",
            where="file",
            accepted="Keep the one sheet with the list, or save it as CSV.",
        )


def rows_of(text: str, delimiter: str, most: int) -> list[list[str]]:
    """Return the cells of delimited text. Raises `CoachError` for more than `most` lines, or cells that never end."""
    try:
        rows = list(islice(csv.reader(io.StringIO(text), delimiter=delimiter), most + 1))
    except csv.Error as error:
        raise CoachError(
            "A cell of this table never ends.", where="text", accepted="Look for quotation signs that are not closed."
        ) from error
    if len(rows) > most:
        raise CoachError(f"More than {most} lines are too many at once.", where="text", accepted=f"Up to {most} lines.")
    return rows
