"""Sessions, weeks and phases kept for later: saved in versions, previewed, applied, taken out as JSON and in again."""

from __future__ import annotations

import json
from datetime import date

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.training.sessions import CopyOut
from jarvok.app.api.who import who_of
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.facts.training.models import Template
from jarvok.app.schema import Schema
from jarvok.app.training.actions import apply_template, import_template, withdraw_template
from jarvok.app.training.actions import save_template as save
from jarvok.app.training.sheets import athlete_week
from jarvok.app.training.templates import checked_name, dated, gathered
from jarvok.app.training.written import athletes_for
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import monday_of
from jarvok.core.session.document import Document, session_of
from jarvok.core.session.template import from_raw

router = Router(tags=["templates"])


class TemplateOut(Schema):
    id: int
    name: str
    kind: str
    version: int
    versions: list[int]
    note: str
    words: str


class TemplateLineOut(Schema):
    slot: str
    exercise: str
    text: str


class TemplateSessionOut(Schema):
    week: int
    weekday: int
    theme: str
    lines: list[TemplateLineOut]


class TemplatePreviewOut(Schema):
    """What a template would put on which days, and what it would take the place of."""

    name: str
    kind: str
    version: int
    sessions: list[TemplateSessionOut]
    days: list[date]
    replaces: list[str]


class SaveIn(Schema):
    name: str
    kind: str
    athlete_id: int
    day: date
    key: str = ""
    block: str = ""
    weeks: int = 1
    note: str = ""


class ApplyIn(Schema):
    athlete_id: int
    day: date
    scope: str = "athlete"


class JsonIn(Schema):
    text: str


def _out(row: Template, versions: list[int]) -> TemplateOut:
    found = from_raw(row.document)
    count = len(found.sessions)
    words = f"{count} session{'s' if count != 1 else ''}" + (f" in {found.weeks} weeks" if found.weeks > 1 else "")
    if found.kind == "block":
        lines = found.sessions[0][2].line_count
        words = f"{lines} line{'s' if lines != 1 else ''}"
    return TemplateOut(
        id=row.pk, name=row.name, kind=row.kind, version=row.version, versions=versions, note=row.note, words=words
    )


def _listed() -> list[TemplateOut]:
    newest: dict[tuple[str, str], list[Template]] = {}
    for row in Template.objects.filter(withdrawn_at__isnull=True):
        newest.setdefault((row.kind, row.name), []).append(row)
    found = []
    for rows in newest.values():
        try:
            found.append(_out(rows[0], [r.version for r in rows]))
        except CoachError:
            continue  # it names an exercise of the coach's own that is gone
    return found


@router.get("/templates", response={200: list[TemplateOut], **ERRORS})
def read_templates(request: HttpRequest) -> list[TemplateOut]:
    return _listed()


@router.post("/templates", response={200: list[TemplateOut], **ERRORS})
def save_template(request: HttpRequest, payload: SaveIn) -> list[TemplateOut]:
    """Keep a block, a session, a week, or weeks from a day on as a phase."""
    checked_name(payload.name, payload.kind)
    found = gathered(athlete_of(payload.athlete_id), payload.kind, payload.day, payload.key, payload.weeks, payload.block)
    save.run(who_of(request), payload.name, found, payload.note)
    return _listed()


@router.delete("/templates/{int:template_id}", response={200: list[TemplateOut], **ERRORS})
def take_template_out(request: HttpRequest, template_id: int) -> list[TemplateOut]:
    row = get_object_or_404(Template, pk=template_id, withdrawn_at__isnull=True)
    withdraw_template.run(who_of(request), row)
    return _listed()


@router.post("/templates/{int:template_id}/preview", response={200: TemplatePreviewOut, **ERRORS})
def preview(request: HttpRequest, template_id: int, payload: ApplyIn) -> TemplatePreviewOut:
    """What applying would do. Nothing is stored."""
    row = get_object_or_404(Template, pk=template_id)
    found, athlete = from_raw(row.document), athlete_of(payload.athlete_id)
    on_days = dated(found, payload.day)
    replaces = []
    for monday in sorted({monday_of(d) for d in on_days}):
        week = athlete_week(athlete, monday, clock.today())
        for sheet in week.sheets if week is not None else ():
            if found.kind != "session" or sheet.planned.day in on_days:
                replaces.append(f"{sheet.planned.theme}, {said_day(sheet.planned.day, weekday=True)}")
    return TemplatePreviewOut(
        name=row.name,
        kind=row.kind,
        version=row.version,
        sessions=[_session_out(w, d, x) for w, d, x in found.sessions],
        days=sorted(on_days),
        replaces=replaces,
    )


def _session_out(week: int, weekday: int, document: Document) -> TemplateSessionOut:
    lines = session_of(document, "A", date(2000, 1, 1)).lines
    texts = [x.text for b in document.blocks for x in b.lines]
    return TemplateSessionOut(
        week=week,
        weekday=weekday,
        theme=document.theme,
        lines=[
            TemplateLineOut(slot=x.slot, exercise=exercise(x.exercise_id).name, text=t) for x, t in zip(lines, texts, strict=True)
        ],
    )


@router.post("/templates/{int:template_id}/apply", response={200: CopyOut, **ERRORS})
def apply(request: HttpRequest, template_id: int, payload: ApplyIn) -> CopyOut:
    """Put a template on its days for an athlete, a group or the squad. One undo takes it back for everybody."""
    row = get_object_or_404(Template, pk=template_id)
    people = athletes_for(athlete_of(payload.athlete_id), payload.scope)
    done, left = apply_template.run(who_of(request), row, people, payload.day)
    return CopyOut(done=done, left=left)


@router.post("/templates/import", response={200: list[TemplateOut], **ERRORS})
def take_in(request: HttpRequest, payload: JsonIn) -> list[TemplateOut]:
    """Take a template in from its JSON."""
    import_template.run(who_of(request), payload.text)
    return _listed()


@router.get("/export/templates/{int:template_id}.json", include_in_schema=False)
def export(request: HttpRequest, template_id: int) -> HttpResponse:
    row = get_object_or_404(Template, pk=template_id)
    text = json.dumps({**row.document, "name": row.name, "note": row.note}, ensure_ascii=False, indent=1)
    response = HttpResponse(text, content_type="application/json; charset=utf-8")
    name = "".join(c if c.isalnum() else "-" for c in row.name.lower())[:60]
    response["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return response
