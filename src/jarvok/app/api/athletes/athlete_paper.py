"""An athlete's file on paper: who they are, what they lift, what lies ahead. It holds what whoever prints it may see."""

from __future__ import annotations

from datetime import date
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.platypus import Spacer, Table

from jarvok.app.api.athletes.shapes import AthleteOut
from jarvok.app.api.paper import HEAD, LINES, SMALL, TITLE, built, p
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.sentence import counted

MOST_RESULTS = 40  # [T] two pages


def athlete_file(athlete: AthleteOut, today: date) -> bytes:
    """Return the PDF of an athlete's file."""
    who = [
        athlete.squad,
        f"{athlete.age} years old" if athlete.age is not None else "",
        f"{athlete.training_age_years:g} years of lifting",
        f"class {athlete.body_mass_class}" if athlete.body_mass_class else "",
        f"{athlete.masses[-1].words} on {said_day(athlete.masses[-1].day, year=True)}" if athlete.masses else "",
    ]
    story: list[Any] = [
        p(athlete.name, TITLE),
        p(" · ".join(w for w in who if w)),
        p(f"As of {said_day(today, year=True, is_long=True)}", SMALL),
    ]
    if athlete.competition is not None:
        c = athlete.competition
        said = f"{counted(c.days_to_go, 'day')} to {c.name}, {said_day(c.day, year=True, is_long=True)}"
        story += [_gap(), p("Next competition", HEAD), p(f"{said} · {c.phase_name}" if c.phase_name else said)]
    if athlete.restrictions:
        story += [_gap(), p("Restrictions", HEAD)]
        for r in athlete.restrictions:
            until = f" until {said_day(r.until, year=True)}" if r.until else ""
            side = f", {r.side}" if r.side else ""
            story.append(p(f"{r.words}{side}: since {said_day(r.since, year=True)}{until}, set by {r.set_by}"))
    lifts = [[lift.exercise, f"{lift.max:.1f} {lift.unit}", f"± {lift.error:.1f} {lift.unit}"] for lift in athlete.lifts]
    story += [
        _gap(),
        *_table("e1RM today", ["Lift", "e1RM", "likely within"], lifts, [90, 30, 40]),
    ]
    results = [
        [said_day(m.day, year=True), m.exercise, m.kind_name, m.words, m.note]
        for m in athlete.marks
        if not (m.withdrawn or m.replaced)
    ][:MOST_RESULTS]
    story += [
        _gap(),
        *_table("Results, the newest first", ["Day", "What", "Kind", "Result", "Note"], results, [26, 48, 34, 38, 40]),
    ]
    done = [[said_day(s.day, year=True), s.theme, str(s.sets)] for s in athlete.sessions]
    story += [_gap(), *_table("Last sessions", ["Day", "Session", "work sets"], done, [30, 100, 30])]
    return built(story, A4, athlete.name)


def _gap() -> Spacer:
    return Spacer(1, 4 * mm)


def _table(title: str, heads: list[str], rows: list[list[str]], widths_mm: list[float]) -> list[Any]:
    if not rows:
        return [p(title, HEAD), p("None yet.")]
    cells = [[p(h, HEAD) for h in heads], *([p(c) for c in row] for row in rows)]
    table = Table(cells, colWidths=[w * mm for w in widths_mm], repeatRows=1)
    table.setStyle(LINES)
    return [p(title, HEAD), table]
