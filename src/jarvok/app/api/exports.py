"""What goes out: tables as CSV and XLSX, an athlete, a plan and a session as JSON, an athlete's file on paper."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import WHO_MAY, athletes_seen, may, person_of
from jarvok.app.api.athletes.overview import athlete_out
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.sending import file_name, send_csv, send_text, send_xlsx
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.problems import Refused
from jarvok.app.schema import Schema
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.planned_weeks import read_again
from jarvok.app.upkeep.documents import write_person, write_plan, write_session
from jarvok.app.upkeep.tables import TABLES, Asked
from jarvok.core.errors import CoachError

router = Router(tags=["exports"])
JSON = "application/json; charset=utf-8"


class TableOut(Schema):
    name: str
    words: str


@router.get("/export-tables", response={200: list[TableOut], **ERRORS})
def read_tables(request: HttpRequest) -> list[TableOut]:
    """The tables that go out."""
    sees_health = may(person_of(request), Need.HEALTH)
    return [TableOut(name=t.name, words=t.words) for t in TABLES.values() if sees_health or not t.is_health]


def _dated(*words: str, form: str) -> str:
    return file_name(*words, str(clock.today()), form=form)


@router.get("/export/tables/{name}.{form}", include_in_schema=False)
def export_table(
    request: HttpRequest, name: str, form: str, squad: int | None = None, athlete: int | None = None,
    since: date | None = None, until: date | None = None,
) -> StreamingHttpResponse:  # fmt: skip
    """A table of one athlete, a squad, or everybody the person sees; of some days, or all."""
    table = TABLES.get(name)
    if table is None:
        raise CoachError("There is no such table.", where="name", accepted=", ".join(TABLES))
    sees_health = may(person_of(request), Need.HEALTH)
    if table.is_health and not sees_health:
        raise Refused(WHO_MAY[Need.HEALTH])
    if form not in ("csv", "xlsx"):
        raise CoachError("A table goes out as csv or xlsx.", where="form", accepted="csv, xlsx")
    if since and until and until < since:
        raise CoachError("The last day lies before the first.", where="until", accepted="The first day or a later one.")
    people = athletes_seen(person_of(request))
    if squad is not None:
        people = people.filter(squad__in=Squad.objects.filter(pk=squad))  # a number too large for one is nobody's
    if athlete is not None:
        people = people.filter(pk=athlete)
    rows = table.rows(Asked(people, since, until, sees_health))
    file = _dated(name, form=form)
    return send_csv(table.columns, rows, file) if form == "csv" else send_xlsx(table.columns, rows, name, file)


@router.get("/export/athletes/{int:athlete_id}.json", include_in_schema=False)
def export_person(request: HttpRequest, athlete_id: int) -> StreamingHttpResponse:
    """Everything that is known of one athlete, for them."""
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    return send_text(write_person(athlete), _dated(athlete.name, form="json"), JSON)


@router.get("/export/athletes/{int:athlete_id}/plan.json", include_in_schema=False)
def export_plan(request: HttpRequest, athlete_id: int, weeks: int = 4) -> StreamingHttpResponse:
    athlete = read_again(get_object_or_404(Athlete, pk=athlete_id))
    return send_text(write_plan(athlete, weeks), _dated(athlete.name, "plan", form="json"), JSON)


@router.get("/export/athletes/{int:athlete_id}/sessions/{day}/{key}.json", include_in_schema=False)
def export_session(request: HttpRequest, athlete_id: int, day: date, key: str) -> StreamingHttpResponse:
    athlete = read_again(get_object_or_404(Athlete, pk=athlete_id))
    _, sheet = find_sheet(athlete, day, key)
    return send_text(write_session(sheet), _dated(athlete.name, str(day), key, form="json"), JSON)


@router.get("/export/athletes/{int:athlete_id}/file.pdf", include_in_schema=False)
def export_file(request: HttpRequest, athlete_id: int) -> HttpResponse:
    """An athlete's file on paper: what the person who asks may see of it."""
    shown = athlete_out(request, athlete_id)
    from jarvok.app.api.athletes.athlete_paper import athlete_file  # what draws pages is loaded with the first one

    response = HttpResponse(athlete_file(shown, clock.today()), content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{_dated(shown.name, form="pdf")}"'
    return response
