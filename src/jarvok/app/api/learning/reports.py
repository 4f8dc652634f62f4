"""Reports of an athlete or a squad: on a page, on paper, as tables."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from datetime import date
from typing import Literal

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router

from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import may, person_of
from jarvok.app.api.learning.whose import whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.sending import file_name, send_sheets, send_text
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Person, Role
from jarvok.app.learning.report import athlete_report, squad_report
from jarvok.app.problems import Refused
from jarvok.app.schema import Schema
from jarvok.core.errors import CoachError
from jarvok.core.interchange.tables import cell_text
from jarvok.core.learning.reports import READER_NAMES, Chart, Reader, Report, Section

router = Router(tags=["learning"])
USUAL_WEEKS, MOST_WEEKS = 4, 26
Form = Literal["pdf", "csv", "xlsx"]


class PointOut(Schema):
    day: date
    value: float
    low: float | None
    high: float | None


class SeriesOut(Schema):
    name: str
    is_bars: bool
    points: list[PointOut]


class ChartOut(Schema):
    title: str
    unit: str
    sentence: str
    series: list[SeriesOut]


class SectionOut(Schema):
    key: str
    title: str
    sentences: list[str]
    columns: list[str]
    rows: list[list[str]]
    charts: list[ChartOut]


class ReaderOut(Schema):
    key: str
    name: str


class ReportOut(Schema):
    """A report as its reader may see it; `readers` are those that whoever asks may choose from."""

    name: str
    subtitle: str
    first: date
    last: date
    reader: str
    readers: list[ReaderOut]
    weeks: int
    sections: list[SectionOut]


@router.get("/athletes/{int:athlete_id}/report", response={200: ReportOut, **ERRORS})
def read_athlete_report(request: HttpRequest, athlete_id: int, reader: str = "", weeks: int = USUAL_WEEKS) -> ReportOut:
    """An athlete's last weeks for one reader."""
    return _out(_of_athlete(request, athlete_id, reader, weeks), _chosen(request, reader), _readers(request), weeks)


@router.get("/squads/{int:squad_id}/report", response={200: ReportOut, **ERRORS})
def read_squad_report(request: HttpRequest, squad_id: int, weeks: int = USUAL_WEEKS, group: str = "") -> ReportOut:
    """The last weeks of a squad, or of a group in it."""
    return _out(_of_squad(squad_id, weeks, group), None, [], weeks)


@router.get("/export/athletes/{int:athlete_id}/report.{form}", include_in_schema=False)
def export_athlete_report(
    request: HttpRequest, athlete_id: int, form: Form, reader: str = "", weeks: int = USUAL_WEEKS
) -> HttpResponse | StreamingHttpResponse:
    """The same on paper or as tables."""
    return _file(_of_athlete(request, athlete_id, reader, weeks), form)


@router.get("/export/squads/{int:squad_id}/report.{form}", include_in_schema=False)
def export_squad_report(
    request: HttpRequest, squad_id: int, form: Form, weeks: int = USUAL_WEEKS, group: str = ""
) -> HttpResponse | StreamingHttpResponse:
    """The same on paper or as tables."""
    return _file(_of_squad(squad_id, weeks, group), form)


def read_ahead_of_reports(people: Sequence[Athlete]) -> None:
    """Work out what a squad's report is made of for some of its athletes, over the weeks that it opens with."""
    squad_report("", people, USUAL_WEEKS, rules_in_force())


def _of_athlete(request: HttpRequest, athlete_id: int, reader: str, weeks: int) -> Report:
    chosen = _chosen(request, reader)
    page = whose_page("athlete", athlete_id, to_read=True)
    return athlete_report(page.people[0], chosen, _checked(weeks), rules_in_force())


def _of_squad(squad_id: int, weeks: int, group: str) -> Report:
    page = whose_page("squad", squad_id, group)
    return squad_report(page.name, page.people, _checked(weeks), rules_in_force(), of="group" if group else "squad")


def _checked(weeks: int) -> int:
    if not 1 <= weeks <= MOST_WEEKS:
        raise CoachError(f"A report of {weeks} weeks cannot be written.", where="weeks", accepted=f"1 to {MOST_WEEKS} weeks.")
    return weeks


def readers_for(person: Person | None) -> list[Reader]:
    """Whom somebody may open reports for: what is of health takes a role that sees it, an athlete opens their own."""
    found: list[Reader] = []
    if may(person, Need.TRAINING) or (person is not None and person.role == Role.ATHLETE):
        found.append(Reader.ATHLETE)
    if may(person, Need.TRAINING):
        found.append(Reader.SPORT)
    if may(person, Need.HEALTH):
        found.append(Reader.MEDICAL)
    return found


def _readers(request: HttpRequest) -> list[Reader]:
    return readers_for(person_of(request))


def _chosen(request: HttpRequest, reader: str) -> Reader:
    mine = _readers(request)
    if not mine:
        raise Refused("Nobody may do this here.")
    if not reader:
        return mine[0]
    if reader not in set(Reader):
        raise CoachError("There is no such reader.", where="reader", accepted=", ".join(Reader))
    if Reader(reader) not in mine:
        raise Refused(f"A report {READER_NAMES[Reader(reader)]} is opened by somebody else.")
    return Reader(reader)


def _chart_out(chart: Chart) -> ChartOut:
    return ChartOut(
        title=chart.title,
        unit=chart.unit,
        sentence=chart.sentence,
        series=[
            SeriesOut(
                name=s.name,
                is_bars=s.is_bars,
                points=[PointOut(day=p.day, value=p.value, low=p.low, high=p.high) for p in s.points],
            )
            for s in chart.series
        ],
    )


def _out(report: Report, reader: Reader | None, readers: list[Reader], weeks: int) -> ReportOut:
    return ReportOut(
        name=report.name,
        subtitle=report.subtitle,
        first=report.first,
        last=report.last,
        reader=reader or "",
        readers=[ReaderOut(key=r, name=READER_NAMES[r]) for r in readers],
        weeks=weeks,
        sections=[
            SectionOut(
                key=s.key, title=s.title, sentences=list(s.sentences), columns=list(s.columns), rows=[list(r) for r in s.rows],
                charts=[_chart_out(c) for c in s.charts],
            )
            for s in report.sections
        ],
    )  # fmt: skip


def _file(report: Report, form: Form) -> HttpResponse | StreamingHttpResponse:
    name = file_name(report.name, "report", f"{report.last:%Y-%m-%d}", form=form)
    if form == "pdf":
        from jarvok.app.api.learning.report_paper import report_pdf  # what draws pages is loaded with the first one

        answer = HttpResponse(report_pdf(report), content_type="application/pdf")
        answer["Content-Disposition"] = f'attachment; filename="{name}"'
        return answer
    tables = [(s.title, rows) for s in report.sections if (rows := _table(s))]
    if form == "xlsx":
        return send_sheets(tables, name)
    out = io.StringIO()
    writer = csv.writer(out)
    for title, rows in tables:
        writer.writerow([title])
        writer.writerows([[cell_text(c) for c in row] for row in rows])
        writer.writerow([])
    return send_text(out.getvalue(), name, "text/csv; charset=utf-8")


def _table(section: Section) -> list[list[str]]:
    """A part of a report as rows: its table, and each chart as days and values."""
    rows = [list(section.columns), *(list(r) for r in section.rows)] if section.rows else []
    for chart in section.charts:
        rows += [[], [chart.title, chart.unit], ["Day", *(s.name for s in chart.series)]]
        days = sorted({p.day for s in chart.series for p in s.points})
        values = [{p.day: p.value for p in s.points} for s in chart.series]
        rows += [[day.isoformat(), *(f"{v[day]:g}" if day in v else "" for v in values)] for day in days]
    return rows if rows else [[s] for s in section.sentences]
