"""Athletes in and out: pasted tables, CSV and XLSX, with a preview that names each row's problem."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from django.http import HttpRequest, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router
from ninja.files import UploadedFile

from jarvok.app import clock
from jarvok.app.accounts.permission import athletes_seen, person_of
from jarvok.app.acts import Who, sees_all
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.sending import send_csv, send_xlsx
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import import_athletes as take_table
from jarvok.app.athletes.actions import undo_import
from jarvok.app.athletes.reading import newest_masses
from jarvok.app.centre.habits import unit_at_the_desk
from jarvok.app.facts.athletes.models import Athlete, ImportedTable
from jarvok.app.schema import Schema
from jarvok.app.seasons.actions import join_squad
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.interchange.athletes import EXPORTED, MOST_ROWS, HowRead, LiftResult, Row, Table, read_table, read_text
from jarvok.core.interchange.bounds import check_inflated, without_control
from jarvok.core.interchange.columns import HEADINGS, RESULT, words_of
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.days import DayOrder, order_of_days

router = Router(tags=["transfer"])
MOST_BYTES = 2_000_000
SHOWN = 8  # [T] tables that were taken in last


class RowOut(Schema):
    number: int
    name: str
    squad: str
    words: str
    problems: list[str]
    is_known: bool


class TableColumnOut(Schema):
    """A column of the table: a cell of it, and what it is taken for (empty: left out)."""

    place: int
    heading: str
    sample: str
    key: str


class ColumnChoiceOut(Schema):
    key: str
    name: str


class PreviewOut(Schema):
    rows: list[RowOut]
    good: int
    bad: int
    columns: list[TableColumnOut]
    text: str
    month_first: bool


class Paste(Schema):
    """A table, the squad of rows that name none, columns mapped by hand (their place to a key), and whether the month comes first
    in its days: where that is not said, as whoever asks writes them."""

    text: str
    squad: str = ""
    mapping: dict[int, str] = {}
    month_first: bool | None = None
    without_bad: bool = False


class ImportedOut(Schema):
    id: int
    added: int
    changed: int
    left_out: int
    results: int


class PastImportOut(Schema):
    id: int
    at: datetime
    words: str
    person: str
    undone: bool


class TakenBackOut(Schema):
    athletes: int
    results: int
    fields: int
    stay: list[str]
    imports: list[PastImportOut]


def _lifts() -> list[Exercise]:
    return [e for e in exercises().values() if e.is_loaded]


def _month_first(payload: Paste) -> bool:
    return order_of_days() is DayOrder.MONTH_FIRST if payload.month_first is None else payload.month_first


def _table(payload: Paste) -> Table:
    if len(payload.text) > MOST_BYTES:
        raise CoachError("The text is too long.", where="text", accepted=f"Up to {MOST_ROWS} rows.")
    return read_table(
        read_text(payload.text), clock.today(), HowRead(_lifts(), payload.mapping, _month_first(payload), unit_at_the_desk())
    )


@router.get("/import/athletes/columns", response={200: list[ColumnChoiceOut], **ERRORS})
def read_choices(request: HttpRequest) -> list[ColumnChoiceOut]:
    """What a column of a table can be."""
    lifts = _lifts()
    keys = [*HEADINGS, *(f"{RESULT}{x.id}:{unit}" for x in sorted(lifts, key=lambda x: x.name) for unit in ("kg", "lb"))]
    return [ColumnChoiceOut(key=k, name=words_of(k, lifts)) for k in keys]


def _words(values: dict[str, Any]) -> str:
    shown = {k.replace("_", " "): f"{v:g}" if isinstance(v, float) else v for k, v in values.items()}
    return " · ".join(f"{k} {v}" for k, v in shown.items() if k not in ("name", "squad"))


def _result_words(result: LiftResult) -> str:
    """A result as it was understood, in its own unit."""
    t = result.typed
    how = " technical" if t.kind is MarkKind.TECHNICAL_MAX else f" × {t.reps}" if t.reps > 1 else ""
    return f"{exercise(result.exercise_id).name.lower()} {t.load:g} {t.unit}{how}"


def _problems(who: Who, row: Row, squad: str) -> list[str]:
    """Everything wrong with a row, in words."""
    if not (row.values.get("squad") or squad):
        return [*row.problems, "No squad: add a column or choose one."]
    if row.problems or not (row.results or "restriction" in row.values):
        return list(row.problems)
    return list(take_table.tried(who, row, squad))


def _preview(who: Who, payload: Paste) -> PreviewOut:
    table, squad = _table(payload), payload.squad.strip()
    known = {(a.squad.name.lower(), a.name.lower()) for a in Athlete.objects.select_related("squad")}
    rows = [
        RowOut(
            number=r.number,
            name=str(r.values.get("name", "")),
            squad=str(r.values.get("squad") or squad),
            words=" · ".join(w for w in (_words(r.values), *map(_result_words, r.results)) if w),
            problems=_problems(who, r, squad),
            is_known=(str(r.values.get("squad") or squad).lower(), str(r.values.get("name", "")).lower()) in known,
        )
        for r in table.rows
    ]
    bad = sum(1 for r in rows if r.problems)
    columns = [TableColumnOut(place=c.place, heading=c.heading, sample=c.sample[:40], key=c.key) for c in table.columns]
    return PreviewOut(
        rows=rows, good=len(rows) - bad, bad=bad, columns=columns, text=payload.text, month_first=_month_first(payload)
    )


@router.post("/import/athletes/preview", response={200: PreviewOut, **ERRORS})
def preview_paste(request: HttpRequest, payload: Paste) -> PreviewOut:
    return _preview(who_of(request), payload)


def sheet_text(upload: UploadedFile) -> str:
    """The first sheet, or the CSV, as text with tabs between cells."""
    raw: bytes = upload.read()
    if len(raw) > MOST_BYTES:
        raise CoachError("The file is larger than 2 MB.", where="file", accepted=f"Up to {MOST_ROWS} rows.")
    if not raw.startswith(b"PK"):
        try:
            return without_control(raw.decode("utf-8-sig"))
        except UnicodeDecodeError:
            return without_control(raw.decode("latin-1"))
    check_inflated(raw)
    from openpyxl import load_workbook  # loaded with the first workbook that comes

    try:
        sheet = load_workbook(io.BytesIO(raw), read_only=True, data_only=False).worksheets[0]
        rows = [list(row) for row in sheet.iter_rows(values_only=True, max_row=MOST_ROWS + 2)]
    except (zipfile.BadZipFile, KeyError, ValueError, IndexError) as error:
        raise CoachError("The file cannot be read.", where="file", accepted="CSV in UTF-8, or XLSX.") from error
    lines = ["\t".join(_text(cell) for cell in row) for row in rows]
    return without_control("\n".join(lines))


def _text(cell: Any) -> str:
    if cell is None:
        return ""
    if hasattr(cell, "date"):
        return str(cell.date().isoformat())
    return str(cell).replace("\t", " ").replace("\n", " ")


@router.post("/import/athletes/file", response={200: PreviewOut, **ERRORS})
def preview_file(request: HttpRequest, file: UploadedFile = File(...), squad: str = "") -> PreviewOut:  # type: ignore[type-arg]  # noqa: B008
    return _preview(who_of(request), Paste(text=sheet_text(file), squad=squad))


@router.post("/import/athletes", response={200: ImportedOut, **ERRORS})
def import_athletes(request: HttpRequest, payload: Paste) -> ImportedOut:
    """Take the rows in: all of them, or all but the faulty ones where the coach said so."""
    preview = _preview(who_of(request), payload)
    if preview.bad and not payload.without_bad:
        raise CoachError(
            f"{preview.bad} of {len(preview.rows)} rows have a problem.",
            where="text",
            accepted="Correct them, or import the rest without them.",
        )
    bad = {r.number for r in preview.rows if r.problems}
    rows = [r for r in _table(payload).rows if r.number not in bad]
    taken = join_squad.take_in(who_of(request), rows, payload.squad.strip())
    return ImportedOut(id=taken.table.pk, added=len(taken.new), changed=taken.changed, left_out=len(bad), results=taken.results)


@router.get("/import/athletes", response={200: list[PastImportOut], **ERRORS})
def read_imports(request: HttpRequest) -> list[PastImportOut]:
    """The last tables taken in, the newest first."""
    person = person_of(request)
    rows = ImportedTable.objects.select_related("act__person")
    if person is None or not sees_all(person):
        rows = rows.filter(act__person=person)
    return [
        PastImportOut(
            id=t.pk,
            at=t.at,
            words=t.words,
            person=t.act.person.name if t.act is not None and t.act.person is not None else "",
            undone=t.undone_at is not None,
        )
        for t in rows[:SHOWN]
    ]


@router.post("/import/athletes/{int:table_id}/undo", response={200: TakenBackOut, **ERRORS})
def take_back(request: HttpRequest, table_id: int) -> TakenBackOut:
    """Take a table back that was taken in."""
    done = undo_import.run(who_of(request), get_object_or_404(ImportedTable, pk=table_id))
    return TakenBackOut(
        athletes=done.athletes, results=done.results, fields=done.fields, stay=list(done.stay), imports=read_imports(request)
    )


def _rows(request: HttpRequest) -> Iterator[list[Any]]:
    people = list(athletes_seen(person_of(request)).select_related("squad"))
    masses = newest_masses([a.pk for a in people])
    for a in people:
        row = {column: getattr(a, column, None) for column in EXPORTED}
        row |= {"squad": a.squad.name, "sport": a.squad.sport, "mass_kg": masses[a.pk]}
        yield [row[column] for column in EXPORTED]


@router.get("/export/athletes.{form}", include_in_schema=False)
def download(request: HttpRequest, form: str) -> StreamingHttpResponse:
    """All athletes as CSV or XLSX."""
    if form not in ("csv", "xlsx"):
        raise CoachError("Athletes go out as csv or xlsx.", where="form", accepted="csv, xlsx")
    columns = [c.replace("_", " ") for c in EXPORTED]
    if form == "csv":
        return send_csv(columns, _rows(request), "athletes.csv")
    return send_xlsx(columns, _rows(request), "Athletes", "athletes.xlsx")
