"""A session on paper: a wall sheet for the squad, or a card for each athlete, as PDF. Readable without colour."""

from __future__ import annotations

from datetime import date
from io import BytesIO
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from jarvok.app.api.problems import ERRORS
from jarvok.app.api.training.squads import SquadTableOut, TableLineOut, TableRowOut, read_squad_table
from jarvok.core.errors import CoachError
from jarvok.core.session.blocks import clock

router = Router(tags=["print"])
NAME = ParagraphStyle("name", fontName="Helvetica-Bold", fontSize=13, leading=16)
TITLE = ParagraphStyle("title", fontName="Helvetica-Bold", fontSize=18, leading=22)
PLAIN = ParagraphStyle("plain", fontName="Helvetica", fontSize=9.5, leading=12)
HEAD = ParagraphStyle("head", fontName="Helvetica-Bold", fontSize=9.5, leading=11)
LOAD = ParagraphStyle("load", fontName="Helvetica-Bold", fontSize=13, leading=15)
LINES = TableStyle(
    [
        ("LINEBELOW", (0, 0), (-1, -1), 0.5, colors.black),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LEFTPADDING", (0, 0), (-1, -1), 3),
        ("RIGHTPADDING", (0, 0), (-1, -1), 3),
        ("TOPPADDING", (0, 0), (-1, -1), 2.5),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
    ]
)
MOST_COLUMNS = 6  # more loads than this do not fit a wall sheet; the cards hold them all
PLAINER = str.maketrans({"\u2212": "-", "\u25b6": ">"})  # what the fonts of every reader lack


def _p(text: str, style: ParagraphStyle = PLAIN) -> Paragraph:
    safe = text.translate(PLAINER).replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return Paragraph(safe, style)


def loads_in_words(loads: list[str]) -> str:
    """The loads of a line's sets, once where they are alike."""
    known = [x for x in loads if x]
    if not known:
        return "by feel"
    return known[0] if len(set(known)) == 1 else " ".join(known)


def _heading(table: SquadTableOut) -> list[Any]:
    day = f"{table.day:%A %-d %B} · {table.days_to_go} to go · about {table.minutes} min"
    return [_p(f"{table.theme} · {table.squad}", TITLE), _p(day), Spacer(1, 3 * mm)]


def _on_the_board(line: TableLineOut) -> list[Any]:
    rest = "" if "rest" in line.text else f"rest {clock(line.rest_s)}"
    return [
        _p(line.slot, HEAD),
        _p(line.exercise, HEAD),
        _p(line.text),
        _p(rest),
        _p(f"{line.note}. {line.cue}" if line.note else line.cue),
    ]


def wall_sheet(table: SquadTableOut) -> bytes:
    """Return the PDF of a wall sheet, A4 landscape: the session's lines, then everybody's loads."""
    story = _heading(table)
    board = Table([_on_the_board(x) for x in table.lines], colWidths=[12 * mm, 62 * mm, 68 * mm, 22 * mm, 108 * mm])
    board.setStyle(LINES)
    loaded = [x for x in table.lines if any(r.lines.get(x.slot) and r.lines[x.slot].loads for r in table.rows)][:MOST_COLUMNS]
    head = [_p("Athlete", HEAD), *(_p(f"{x.slot} {x.exercise}, kg", HEAD) for x in loaded), _p("Other", HEAD)]
    rows: list[list[Any]] = [head]
    for row in table.rows:
        rows.append([_p(row.name, NAME), *(_load_cell(row, x.slot) for x in loaded), _p(row.other)])
    width = 272 * mm
    first, last = 46 * mm, 30 * mm
    each = (width - first - last) / max(1, len(loaded))
    loads = Table(rows, colWidths=[first, *[each] * len(loaded), last], repeatRows=1)
    loads.setStyle(LINES)
    return _built([*story, board, Spacer(1, 5 * mm), loads], landscape(A4))


def _load_cell(row: TableRowOut, slot: str) -> list[Any]:
    cell = row.lines.get(slot)
    if cell is None:
        return [_p("–")]
    found: list[Any] = [_p(loads_in_words(cell.loads), LOAD)]
    if cell.sides:
        found.append(_p(f"a side {' + '.join(cell.sides)}"))
    words = " ".join(x for x in (cell.note, cell.text) if x)
    return [*found, _p(words)] if words else found


def cards(table: SquadTableOut) -> bytes:
    """Return the PDF of a card for each athlete, two across on A4, each with room to tick the sets off."""
    made = [_card(table, row) for row in table.rows]
    pairs = [made[i : i + 2] for i in range(0, len(made), 2)]
    story: list[Any] = []
    for pair in pairs:
        sheet = Table([[*pair, *[""] * (2 - len(pair))]], colWidths=[94 * mm, 94 * mm])
        sheet.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("BOTTOMPADDING", (0, 0), (-1, -1), 8)]))
        story.append(KeepTogether([sheet]))
    return _built(story or [_p("Nobody has this session.")], A4)


def _card(table: SquadTableOut, row: TableRowOut) -> list[Any]:
    lines: list[list[Any]] = []
    for line in table.lines:
        cell = row.lines.get(line.slot)
        if cell is None:
            continue
        kilos = [] if not cell.loads else [_p(f"{loads_in_words(cell.loads)} kg", HEAD)]
        sides = [_p(f"a side {' + '.join(cell.sides)}")] if cell.sides else []
        lines.append(
            [_p(line.slot, HEAD), [_p(cell.note or line.exercise, HEAD), _p(cell.text or line.text)], [*kilos, *sides], ""]
        )
    body = Table(lines or [["", _p("no lines"), "", ""]], colWidths=[10 * mm, 42 * mm, 26 * mm, 12 * mm])
    body.setStyle(LINES)
    title = f"{table.theme}, {table.day:%a %-d %b}"
    return [_p(row.name, NAME), _p(title), body, _p(row.other)]


def _built(story: list[Any], page: tuple[float, float]) -> bytes:
    out = BytesIO()
    margin = 12 * mm
    SimpleDocTemplate(
        out, pagesize=page, leftMargin=margin, rightMargin=margin, topMargin=margin, bottomMargin=margin, title="Session"
    ).build(story)
    return out.getvalue()


MAKERS = {"wall": wall_sheet, "cards": cards}


@router.get("/export/athletes/{int:athlete_id}/sessions/{day}/{key}/{kind}.pdf", response={**ERRORS}, include_in_schema=False)
def export(request: HttpRequest, athlete_id: int, day: date, key: str, kind: str) -> HttpResponse:
    make = MAKERS.get(kind)
    if make is None:
        raise CoachError("There is no such sheet.", where="kind", accepted=", ".join(MAKERS))
    response = HttpResponse(make(read_squad_table(request, athlete_id, day, key)), content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{kind}-{day}.pdf"'
    return response
