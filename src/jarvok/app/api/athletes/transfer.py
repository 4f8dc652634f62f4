"""Athletes in and out: pasted tables, CSV and XLSX, with a preview that names each row's problem."""

from __future__ import annotations

import io
import zipfile
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile
from openpyxl import Workbook, load_workbook

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.api.athletes.overview import everyone
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import import_athletes as take_table
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.seasons.actions import join_squad
from jarvok.core.errors import CoachError
from jarvok.core.interchange.athletes import EXPORTED, MOST_ROWS, LiftResult, Row, Table, read_table, read_text, write_csv
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.mark import MarkKind

router = Router(tags=["transfer"])
MOST_BYTES = 2_000_000


class RowOut(Schema):
    number: int
    name: str
    squad: str
    words: str
    problems: list[str]
    is_known: bool


class PreviewOut(Schema):
    rows: list[RowOut]
    good: int
    bad: int
    ignored: list[str]
    text: str


class Paste(Schema):
    text: str
    squad: str = ""
    without_bad: bool = False


class ImportedOut(Schema):
    added: int
    changed: int
    left_out: int
    results: int


def _table(text: str) -> Table:
    if len(text) > MOST_BYTES:
        raise CoachError("The text is too long.", where="text", accepted=f"Up to {MOST_ROWS} rows.")
    return read_table(read_text(text), clock.today(), [e for e in exercises().values() if e.is_loaded])


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
    if row.problems or not row.results:
        return list(row.problems)
    return list(take_table.tried(who, row, squad))


def _preview(who: Who, text: str, squad: str) -> PreviewOut:
    table = _table(text)
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
    return PreviewOut(rows=rows, good=len(rows) - bad, bad=bad, ignored=list(table.ignored), text=text)


@router.post("/import/athletes/preview", response={200: PreviewOut, **ERRORS})
def preview_paste(request: HttpRequest, payload: Paste) -> PreviewOut:
    return _preview(who_of(request), payload.text, payload.squad.strip())


def sheet_text(upload: UploadedFile) -> str:
    """The first sheet, or the CSV, as text with tabs between cells."""
    raw: bytes = upload.read()
    if len(raw) > MOST_BYTES:
        raise CoachError("The file is larger than 2 MB.", where="file", accepted=f"Up to {MOST_ROWS} rows.")
    if not raw.startswith(b"PK"):
        try:
            return raw.decode("utf-8-sig")
        except UnicodeDecodeError:
            return raw.decode("latin-1")
    try:
        sheet = load_workbook(io.BytesIO(raw), read_only=True, data_only=False).worksheets[0]
        rows = [list(row) for row in sheet.iter_rows(values_only=True, max_row=MOST_ROWS + 2)]
    except (zipfile.BadZipFile, KeyError, ValueError, IndexError) as error:
        raise CoachError("The file cannot be read.", where="file", accepted="CSV in UTF-8, or XLSX.") from error
    lines = ["\t".join(_text(cell) for cell in row) for row in rows]
    return "\n".join(lines)


def _text(cell: Any) -> str:
    if cell is None:
        return ""
    if hasattr(cell, "date"):
        return str(cell.date().isoformat())
    return str(cell).replace("\t", " ").replace("\n", " ")


@router.post("/import/athletes/file", response={200: PreviewOut, **ERRORS})
def preview_file(request: HttpRequest, file: UploadedFile = File(...), squad: str = "") -> PreviewOut:  # type: ignore[type-arg]  # noqa: B008
    return _preview(who_of(request), sheet_text(file), squad.strip())


@router.post("/import/athletes", response={200: ImportedOut, **ERRORS})
def import_athletes(request: HttpRequest, payload: Paste) -> ImportedOut:
    """Take the rows in: all of them, or all but the faulty ones where the coach said so."""
    squad = payload.squad.strip()
    preview = _preview(who_of(request), payload.text, squad)
    if preview.bad and not payload.without_bad:
        raise CoachError(
            f"{preview.bad} of {len(preview.rows)} rows have a problem.",
            where="text",
            accepted="Correct them, or import the rest without them.",
        )
    bad = {r.number for r in preview.rows if r.problems}
    rows = [r for r in _table(payload.text).rows if r.number not in bad]
    taken = join_squad.take_in(who_of(request), rows, squad)
    return ImportedOut(added=len(taken.new), changed=taken.changed, left_out=len(bad), results=taken.results)


def _rows() -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    for a in everyone():
        masses = list(a.masses.all())
        row = {column: getattr(a, column, None) for column in EXPORTED}
        row |= {"squad": a.squad.name, "sport": a.squad.sport, "mass_kg": masses[-1].mass_kg if masses else None}
        found.append(row)
    return found


def download(request: HttpRequest, form: str) -> HttpResponse:
    """All athletes as CSV or XLSX."""
    if not request.user.is_authenticated:
        return HttpResponse("Sign in first.", status=401, content_type="text/plain")
    if form not in ("csv", "xlsx"):
        return HttpResponse("Athletes go out as csv or xlsx.", status=404, content_type="text/plain")
    if form == "csv":
        response = HttpResponse(write_csv(_rows()), content_type="text/csv; charset=utf-8")
    else:
        book = Workbook()
        sheet = book.active
        assert sheet is not None
        sheet.title = "Athletes"
        for at, values in enumerate(
            [[c.replace("_", " ") for c in EXPORTED], *([r[c] for c in EXPORTED] for r in _rows())], start=1
        ):
            for column, value in enumerate(values, start=1):
                cell = sheet.cell(at, column, value)
                if isinstance(value, str):
                    cell.data_type = "s"  # a text that looks like a formula stays a text
        out = io.BytesIO()
        book.save(out)
        response = HttpResponse(out.getvalue(), content_type="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
    response["Content-Disposition"] = f'attachment; filename="athletes.{form}"'
    return response
