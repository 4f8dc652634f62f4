"""What everything on paper shares: styles that are readable without colour, and the page."""

from __future__ import annotations

from io import BytesIO
from typing import Any

from reportlab.lib import colors
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, TableStyle

NAME = ParagraphStyle("name", fontName="Helvetica-Bold", fontSize=13, leading=16)
TITLE = ParagraphStyle("title", fontName="Helvetica-Bold", fontSize=18, leading=22)
PLAIN = ParagraphStyle("plain", fontName="Helvetica", fontSize=9.5, leading=12)
HEAD = ParagraphStyle("head", fontName="Helvetica-Bold", fontSize=9.5, leading=11)
SMALL = ParagraphStyle("small", fontName="Helvetica", fontSize=8, leading=9.5)
SMALL_HEAD = ParagraphStyle("small head", fontName="Helvetica-Bold", fontSize=8, leading=9.5)
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
PLAINER = str.maketrans({"\u2212": "-", "\u25b6": ">"})  # what the fonts of every reader lack


def p(text: str, style: ParagraphStyle = PLAIN) -> Paragraph:
    """A text on paper, whatever signs it holds."""
    safe = text.translate(PLAINER).replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return Paragraph(safe, style)


def built(story: list[Any], page: tuple[float, float], title: str = "Session") -> bytes:
    """Return the PDF of what stands on its pages."""
    out = BytesIO()
    margin = 12 * mm
    SimpleDocTemplate(
        out, pagesize=page, leftMargin=margin, rightMargin=margin, topMargin=margin, bottomMargin=margin, title=title
    ).build(story)
    return out.getvalue()
