"""A report on paper: headings, sentences, tables, and charts with axes, points and band."""

from __future__ import annotations

from typing import Any

from reportlab.graphics.shapes import Circle, Drawing, Line, Polygon, PolyLine, Rect, String
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Spacer, Table

from jarvok.app.api.paper import HEAD, LINES, SMALL, SMALL_HEAD, TITLE, built, p
from jarvok.core.learning.reports import Chart, Report, Section
from jarvok.core.quantities.days import said_day

WIDTH = A4[0] - 24 * mm
CHART_WIDTH, CHART_HEIGHT = WIDTH / 2 - 4 * mm, 42 * mm
LEFT, BOTTOM, TOP = 28.0, 14.0, 8.0  # [T] points around the drawing
FONT = 6.5  # [T] points
GREYS = (colors.Color(0.78, 0.78, 0.78), colors.Color(0.2, 0.2, 0.2))


def report_pdf(report: Report) -> bytes:
    """Return the PDF of a report; it is readable without colour."""
    days = f"{said_day(report.first, is_long=True)} to {said_day(report.last, year=True, is_long=True)}"
    story: list[Any] = [p(report.name, TITLE), p(f"{report.subtitle} · {days}", SMALL)]
    for section in report.sections:
        story += [Spacer(1, 3 * mm), *_section(section)]
    return built(story, A4, f"{report.name}, report")


def _section(section: Section) -> list[Any]:
    found: list[Any] = [p(section.title, HEAD), *(p(s, SMALL) for s in section.sentences)]
    if section.rows:
        cells: list[list[Any]] = [
            [p(c, SMALL_HEAD) for c in section.columns],
            *([p(c, SMALL) for c in row] for row in section.rows),
        ]
        widths = [max(len(c), *(len(r[n]) for r in section.rows), 6) for n, c in enumerate(section.columns)]
        capped = [min(w, 44) for w in widths]
        table = Table(cells, colWidths=[WIDTH * w / sum(capped) for w in capped], repeatRows=1)
        table.setStyle(LINES)
        found.append(table)
    pairs = [section.charts[n : n + 2] for n in range(0, len(section.charts), 2)]
    for pair in pairs:
        drawn: list[list[Any]] = [[_drawing(c) for c in pair], [p(c.sentence, SMALL) for c in pair]]
        found.append(KeepTogether([Spacer(1, 2 * mm), Table(drawn, colWidths=[WIDTH / 2] * len(pair), hAlign="LEFT")]))
    return found


def _drawing(chart: Chart) -> Drawing:
    """A chart: bars side by side a week, or points with a line and their band."""
    drawing = Drawing(CHART_WIDTH, CHART_HEIGHT)
    days = sorted({x.day for s in chart.series for x in s.points})
    bars = [s for s in chart.series if s.is_bars]
    values = [v for s in chart.series for x in s.points for v in (x.value, x.low, x.high) if v is not None]
    low, high = (0.0, max([*values, 1.0])) if bars else (min(values) * 0.97, max(values) * 1.03)
    height = CHART_HEIGHT - BOTTOM - TOP - FONT
    slot = (CHART_WIDTH - LEFT) / max(len(days), 1)

    def y(value: float) -> float:
        return BOTTOM + height * (value - low) / (high - low or 1.0)

    def x(day: Any) -> float:
        return float(LEFT + slot * (days.index(day) + 0.5))

    names = ", ".join(s.name for s in bars) if len(bars) > 1 else ""
    title = f"{chart.title}, {chart.unit}" + (f": {names}" if names else "")
    drawing.add(String(0, CHART_HEIGHT - FONT, title, fontName="Helvetica-Bold", fontSize=FONT + 0.5))
    for n, series in enumerate(bars):
        wide = 0.7 * slot / len(bars)
        for point in series.points:
            left = x(point.day) - 0.35 * slot + n * wide
            fill = GREYS[1] if n == len(bars) - 1 else GREYS[0]
            bar: Any = {"fillColor": fill, "strokeColor": None}
            drawing.add(Rect(left, BOTTOM, wide, y(point.value) - BOTTOM, **bar))
            drawing.add(_number(left + wide / 2, y(point.value) + 1, f"{point.value:g}"))
    for series in (s for s in chart.series if not s.is_bars):
        banded = [q for q in series.points if q.low is not None and q.high is not None]
        if len(banded) > 1:
            upper = [v for q in banded for v in (x(q.day), y(q.high or 0.0))]
            lower = [v for q in reversed(banded) for v in (x(q.day), y(q.low or 0.0))]
            drawing.add(Polygon([*upper, *lower], fillColor=colors.Color(0.88, 0.88, 0.88), strokeColor=None))
        line = [v for q in series.points for v in (x(q.day), y(q.value))]
        if len(series.points) > 1:
            drawing.add(PolyLine(line, strokeWidth=1))
        for q in series.points:
            drawing.add(Circle(x(q.day), y(q.value), 1.4, fillColor=colors.black))
        for q in {series.points[0], series.points[-1]}:
            drawing.add(_number(x(q.day), y(q.value) + 3, f"{q.value:g}"))
    drawing.add(Line(LEFT, BOTTOM, CHART_WIDTH, BOTTOM, strokeWidth=0.5))
    drawing.add(Line(LEFT, BOTTOM, LEFT, BOTTOM + height, strokeWidth=0.5))
    for value in (low, (low + high) / 2, high):
        drawing.add(String(LEFT - 3, y(value) - 2, f"{value:.0f}", fontName="Helvetica", fontSize=FONT, textAnchor="end"))
    every = max(1, -(-len(days) // 6))
    for day in days[::every]:
        drawing.add(String(x(day), 3, said_day(day), fontName="Helvetica", fontSize=FONT, textAnchor="middle"))
    return drawing


def _number(x: float, y: float, text: str) -> String:
    return String(x, y, text, fontName="Helvetica", fontSize=FONT - 1, textAnchor="middle")
