"""Files that go out in parts: large ones are never in memory as a whole, and end when whoever asked goes away."""

from __future__ import annotations

import io
import tempfile
from collections.abc import AsyncIterator, Iterable, Iterator, Sequence
from datetime import datetime
from itertools import chain, islice
from typing import IO, Any

from asgiref.sync import sync_to_async
from django.http import StreamingHttpResponse
from django.utils.text import slugify

from jarvok.core.errors import CoachError
from jarvok.core.interchange.bounds import without_control
from jarvok.core.interchange.tables import MOST_SHEET_ROWS, Cell, csv_lines

PART = 1 << 20  # [T] bytes
LINES_AT_ONCE = 1000  # [T]
LONGEST_SHEET_NAME = 31  # of a workbook, by its own format
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def send_file(file: IO[bytes], name: str, kind: str = "application/octet-stream") -> StreamingHttpResponse:
    """Send a file that is there, and close it."""

    async def parts() -> AsyncIterator[bytes]:
        with file:
            while part := await sync_to_async(file.read)(PART):
                yield part

    return _answer(parts(), name, kind)


def send_csv(columns: Sequence[str], rows: Iterable[Sequence[Cell]], name: str) -> StreamingHttpResponse:
    """Send a table as CSV while it is read. What is wrong with the question is said before anything is sent."""
    lines = csv_lines(columns, rows)
    first = [next(lines), *islice(lines, 1)]

    async def parts() -> AsyncIterator[bytes]:
        yield "".join(first).encode()
        while part := await sync_to_async(_some)(lines):
            yield part

    return _answer(parts(), name, "text/csv; charset=utf-8")


def _some(lines: Iterator[str]) -> bytes:
    return "".join(islice(lines, LINES_AT_ONCE)).encode()


def send_xlsx(columns: Sequence[str], rows: Iterable[Sequence[Cell]], title: str, name: str) -> StreamingHttpResponse:
    """Send a table as a workbook of one sheet. Raises `CoachError` where it is too long for one."""
    return send_sheets([(title, chain([columns], rows))], name)


def send_sheets(sheets: Iterable[tuple[str, Iterable[Sequence[Cell]]]], name: str) -> StreamingHttpResponse:
    """Send tables as the sheets of a workbook, each with its title. Raises `CoachError` where one is too long."""
    from openpyxl import Workbook  # workbooks are loaded with the first one: few processes ever send any

    book = Workbook(write_only=True)
    for title, rows in sheets:
        sheet = book.create_sheet(title[:LONGEST_SHEET_NAME])
        for count, row in enumerate(rows, start=1):
            if count > MOST_SHEET_ROWS:
                raise CoachError("The table is too long for one sheet.", where="form", accepted="CSV, or fewer days.")
            sheet.append([_sheet_cell(sheet, value) for value in row])
    file = tempfile.TemporaryFile()  # noqa: SIM115  closed when it has been sent
    book.save(file)
    file.seek(0)
    return send_file(file, name, XLSX)


def _sheet_cell(sheet: Any, value: Cell) -> object:
    if isinstance(value, str):
        from openpyxl.cell import WriteOnlyCell

        text = WriteOnlyCell(sheet, without_control(value))
        text.data_type = "s"  # a text that looks like a formula stays a text
        return text
    if isinstance(value, datetime):
        return value.replace(tzinfo=None)  # a sheet knows no zones
    return value


def send_text(text: str, name: str, kind: str) -> StreamingHttpResponse:
    """Send a text as a file."""
    return send_file(io.BytesIO(text.encode()), name, kind)


def file_name(*words: str, form: str) -> str:
    """A name for a file that every system takes: lower case without signs, whatever a person or a squad is called."""
    return f"{'-'.join(filter(None, map(slugify, words))) or 'jarvok'}.{form}"


def _answer(parts: AsyncIterator[bytes], name: str, kind: str) -> StreamingHttpResponse:
    response = StreamingHttpResponse(parts, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
