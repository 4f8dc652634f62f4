"""A session on paper as PDF: a wall sheet, a card for each athlete, a rack sheet. Readable without colour."""

from __future__ import annotations

from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer, Table, TableStyle

from jarvok.app.api.paper import HEAD, LINES, LOAD, NAME, SMALL, SMALL_HEAD, TITLE, built, p
from jarvok.app.api.training.squad_table import (
    AlikeSetsOut,
    RackOut,
    RackSheetOut,
    SquadTableOut,
    TableLineOut,
    TableRowOut,
)
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.sentence import counted

TICKS = TableStyle(
    [("LEFTPADDING", (0, 0), (-1, -1), 0), ("TOPPADDING", (0, 0), (-1, -1), 1), ("BOTTOMPADDING", (0, 0), (-1, -1), 1)]
)
RACKS_ACROSS = 2
CLOSE = TableStyle(
    [
        ("LINEBELOW", (0, 0), (-1, -1), 0.5, colors.black),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LEFTPADDING", (0, 0), (-1, -1), 2),
        ("RIGHTPADDING", (0, 0), (-1, -1), 2),
        ("TOPPADDING", (0, 0), (-1, -1), 1),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
    ]
)  # cards: two by two on a page
MOST_BOXES = 5  # a card has no room for more beside the load
MOST_COLUMNS = 6  # more loads than this do not fit a wall sheet; the cards hold them all


def _heading(table: SquadTableOut) -> list[Any]:
    day = said_day(table.day, weekday=True, is_long=True)
    day += f" · {counted(table.days_to_go, 'day')} to the competition · about {table.minutes} min"
    return [p(f"{table.theme} · {table.squad}", TITLE), p(day), Spacer(1, 3 * mm)]


def _on_the_board(line: TableLineOut) -> list[Any]:
    words = f"{line.note}. {line.cue}" if line.note else line.cue
    return [p(line.slot, HEAD), p(line.exercise, HEAD), p(line.text), p(line.rest), p(words)]


def _board(table: SquadTableOut, widths: list[float]) -> Table:
    """The session's lines under the headings of their blocks, each with how the block runs and its minutes."""
    rows: list[list[Any]] = []
    headings: list[int] = []
    for block in table.blocks:
        headings.append(len(rows))
        words = " · ".join(w for w in (block.name, block.words, f"{block.minutes:.0f} min") if w)
        rows.append([p(words, HEAD), *[""] * (len(widths) - 1)])
        rows += [_on_the_board(x) for x in table.lines if x.block == block.name]
    board = Table(rows or [["", p("no lines"), *[""] * (len(widths) - 2)]], colWidths=widths)
    board.setStyle(LINES)
    board.setStyle(TableStyle([("SPAN", (0, n), (-1, n)) for n in headings]))
    board.setStyle(TableStyle([("BACKGROUND", (0, n), (-1, n), colors.whitesmoke) for n in headings]))
    return board


def wall_sheet(table: SquadTableOut) -> bytes:
    """Return the PDF of a wall sheet, A4 landscape: the session's lines, then everybody's loads."""
    story = _heading(table)
    board = _board(table, [12 * mm, 62 * mm, 76 * mm, 26 * mm, 96 * mm])
    loaded = [x for x in table.lines if any(x.slot in r.lines and r.lines[x.slot].is_loaded for r in table.rows)][:MOST_COLUMNS]
    named = [f"{x.slot} {x.exercise}" + (f", {x.unit}" if x.unit else "") for x in loaded]
    head = [p("Athlete", HEAD), *(p(name, HEAD) for name in named), p("Other", HEAD)]
    rows: list[list[Any]] = [head]
    for row in table.rows:
        rows.append([p(row.name, NAME), *(_load_cell(row, x.slot) for x in loaded), p(row.other)])
    width = 272 * mm
    first, last = 46 * mm, 30 * mm
    each = (width - first - last) / max(1, len(loaded))
    loads = Table(rows, colWidths=[first, *[each] * len(loaded), last], repeatRows=1)
    loads.setStyle(LINES)
    return built([*story, board, Spacer(1, 5 * mm), loads], landscape(A4))


def _load_cell(row: TableRowOut, slot: str) -> list[Any]:
    cell = row.lines.get(slot)
    if cell is None:
        return [p("–")]
    found: list[Any] = [p(cell.words, LOAD)]
    if cell.sides:
        found.append(p(f"a side {' + '.join(cell.sides)}"))
    words = " ".join(x for x in (cell.note, cell.text) if x)
    return [*found, p(words)] if words else found


def cards(table: SquadTableOut) -> bytes:
    """Return the PDF of a card for each athlete, two across on A4: each set to tick off, room to write."""
    made = [_card(table, row) for row in table.rows]
    pairs = [made[i : i + 2] for i in range(0, len(made), 2)]
    story: list[Any] = []
    for pair in pairs:
        sheet = Table([[*pair, *[""] * (2 - len(pair))]], colWidths=[94 * mm, 94 * mm])
        sheet.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("BOTTOMPADDING", (0, 0), (-1, -1), 2)]))
        story.append(KeepTogether([sheet]))
    return built(story or [p("Nobody has this session.")], A4)


def _card(table: SquadTableOut, row: TableRowOut) -> list[Any]:
    lines: list[list[Any]] = []
    headings: list[int] = []
    for block in table.blocks:
        mine = [x for x in table.lines if x.block == block.name and x.slot in row.lines]
        if not mine:
            continue
        headings.append(len(lines))
        lines.append([p(" · ".join(w for w in (block.name, block.words) if w), SMALL_HEAD), "", ""])
        for line in mine:
            cell = row.lines[line.slot]
            text = ", ".join(w for w in (cell.text or line.text, line.rest) if w)
            said = [p(cell.note or line.exercise, SMALL_HEAD), p(text, SMALL)]
            sides = [p(f"a side {' + '.join(cell.sides)}", SMALL)] if cell.sides else []
            sides += [p(words, SMALL) for words in cell.learned]
            ticks = [_ticked(alike, is_loaded=cell.is_loaded) for alike in cell.sets]
            lines.append([p(line.slot, SMALL_HEAD), [*said, *sides], ticks])
    body = Table(lines or [["", p("no lines"), ""]], colWidths=[9 * mm, 44 * mm, 37 * mm])
    body.setStyle(CLOSE)
    body.setStyle(TableStyle([("SPAN", (0, n), (-1, n)) for n in headings]))
    body.setStyle(TableStyle([("BACKGROUND", (0, n), (-1, n), colors.whitesmoke) for n in headings]))
    title = f"{table.theme}, {said_day(table.day, weekday=True)}"
    return [
        p(row.name, NAME),
        p(title, SMALL),
        body,
        p(row.other, SMALL),
        p("How hard was it, 0 to 10: ____   Minutes: ____   Notes:", SMALL),
        Spacer(1, 6 * mm),
    ]


def _ticked(alike: AlikeSetsOut, *, is_loaded: bool) -> Table:
    boxes = min(alike.count, MOST_BOXES)
    row = Table([[*(TickBox() for _ in range(boxes)), p(alike.words, SMALL_HEAD if is_loaded else SMALL)]],
                colWidths=[*[4.2 * mm] * boxes, 36 * mm - 4.2 * mm * boxes])  # fmt: skip
    row.setStyle(TICKS)
    return row


class TickBox(Flowable):
    """An empty square to tick."""

    def wrap(self, *_: float) -> tuple[float, float]:
        return 3 * mm, 3 * mm

    def draw(self) -> None:
        self.canv.rect(0, 0, 3 * mm, 3 * mm)


def rack_pdf(sheet: RackSheetOut) -> bytes:
    """Return the PDF of a rack sheet, A4 landscape: lift by lift, rack by rack, the order and what changes on the bar."""
    title = f"{said_day(sheet.day, weekday=True, is_long=True)} · {sheet.racks} {'rack' if sheet.racks == 1 else 'racks'}"
    story: list[Any] = [p(f"{sheet.theme} · {sheet.squad}", TITLE), p(title), Spacer(1, 3 * mm)]
    for lift in sheet.lifts:
        story.append(p(f"{lift.slot} {lift.exercise} · {lift.text}", NAME))
        story += [p(words, SMALL) for words in lift.learned]
        across = min(RACKS_ACROSS, len(lift.racks))
        for start in range(0, len(lift.racks), across):
            some = lift.racks[start : start + across]
            each = Table([[_rack(r, lift.unit) for r in some]], colWidths=[272 * mm / across] * len(some))
            each.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
            story.append(KeepTogether([each]))
        story.append(Spacer(1, 4 * mm))
    return built(
        story if sheet.lifts else [*story, p("No lift of this session is done with a barbell and a load.")], landscape(A4)
    )


def _rack(rack: RackOut, unit: str) -> list[Any]:
    rows: list[list[Any]] = [
        [
            p(f"Rack {rack.number}", HEAD),
            p(unit, HEAD),
            p("A side", HEAD),
            p("Change from the one before", HEAD),
            p("Sets", HEAD),
        ]
    ]
    for turn in rack.turns:
        ticks = Table([[TickBox() for _ in range(turn.sets)]], colWidths=[4.5 * mm] * turn.sets) if turn.sets else ""
        rows.append([p(turn.name, HEAD), p(turn.load, LOAD), p(turn.sides), p(turn.change), ticks])
    table = Table(rows, colWidths=[26 * mm, 15 * mm, 22 * mm, 36 * mm, None])
    table.setStyle(LINES)
    return [table]
