"""Sessions, weeks and phases kept for later: saved in versions, previewed, applied, taken out as JSON and in again."""

from __future__ import annotations

import json
from datetime import date, timedelta
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.training import edit_services as services
from jarvok.app.training.api import ERRORS, athlete_of
from jarvok.app.training.edit_api import CopyOut
from jarvok.app.training.finding import find_sheet, near
from jarvok.app.training.models import Template
from jarvok.app.training.queries import athlete_week
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.season.model import monday_of
from jarvok.core.session.document import Document, session_of
from jarvok.core.session.template import KINDS, TemplateDocument, from_raw, to_raw

router = Router(tags=["templates"])
LONGEST_FILE = 400_000
MOST_WEEKS = 16


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


def _check_name(name: str, kind: str) -> str:
    name = name.strip()
    if not 1 <= len(name) <= 80:
        raise CoachError("A template needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if kind not in KINDS:
        raise CoachError("There is no such kind.", where="kind", accepted=", ".join(KINDS))
    return name


@transaction.atomic
def save(name: str, kind: str, document: TemplateDocument, note: str = "") -> Template:
    """Keep a template; under a name that is there it becomes the next version."""
    name = _check_name(name, kind)
    last = Template.objects.filter(kind=kind, name=name).order_by("-version").first()
    version = last.version + 1 if last is not None else 1
    return Template.objects.create(name=name, kind=kind, version=version, document=to_raw(document), note=note.strip()[:200])


def _gathered(athlete: Athlete, payload: SaveIn) -> TemplateDocument:
    if payload.kind == "session":
        _, sheet = find_sheet(athlete, payload.day, payload.key)
        return TemplateDocument("session", ((0, payload.day.weekday(), services.documented(sheet)),))
    weeks = 1 if payload.kind == "week" else payload.weeks
    if not 1 <= weeks <= MOST_WEEKS:
        raise CoachError(f"{weeks} weeks cannot be kept.", where="weeks", accepted=f"1 to {MOST_WEEKS}.")
    monday, found = monday_of(near(payload.day)), []
    for index in range(weeks):
        week = athlete_week(athlete, monday + timedelta(weeks=index), clock.today())
        if week is not None:
            found += [(index, s.planned.day.weekday(), services.documented(s)) for s in week.sheets]
    if not found:
        raise CoachError("There is no session in it.", where="day", accepted="A week of the season.")
    return TemplateDocument(payload.kind, tuple(found))


@router.post("/templates", response={200: list[TemplateOut], **ERRORS})
def save_template(request: HttpRequest, payload: SaveIn) -> list[TemplateOut]:
    """Keep a session, a week, or weeks from a day on as a phase."""
    _check_name(payload.name, payload.kind)
    save(payload.name, payload.kind, _gathered(athlete_of(payload.athlete_id), payload), payload.note)
    return _listed()


@router.delete("/templates/{int:template_id}", response={200: list[TemplateOut], **ERRORS})
def take_template_out(request: HttpRequest, template_id: int) -> list[TemplateOut]:
    row = get_object_or_404(Template, pk=template_id, withdrawn_at__isnull=True)
    Template.objects.filter(kind=row.kind, name=row.name).update(withdrawn_at=clock.now())
    return _listed()


def _dated(found: TemplateDocument, day: date) -> dict[date, Document]:
    """The sessions on their days: a session on the day itself, weeks from its Monday on."""
    if found.kind == "session":
        return {day: found.sessions[0][2]}
    monday = monday_of(near(day))
    return {monday + timedelta(weeks=w, days=d): document for w, d, document in found.sessions}


@router.post("/templates/{int:template_id}/preview", response={200: TemplatePreviewOut, **ERRORS})
def preview(request: HttpRequest, template_id: int, payload: ApplyIn) -> TemplatePreviewOut:
    """What applying would do. Nothing is stored."""
    row = get_object_or_404(Template, pk=template_id)
    found, athlete = from_raw(row.document), athlete_of(payload.athlete_id)
    dated = _dated(found, payload.day)
    replaces = []
    for monday in sorted({monday_of(d) for d in dated}):
        week = athlete_week(athlete, monday, clock.today())
        for sheet in week.sheets if week is not None else ():
            if found.kind != "session" or sheet.planned.day in dated:
                replaces.append(f"{sheet.planned.theme}, {sheet.planned.day:%a %-d %b}")
    return TemplatePreviewOut(
        name=row.name,
        kind=row.kind,
        version=row.version,
        sessions=[_session_out(w, d, x) for w, d, x in found.sessions],
        days=sorted(dated),
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
    people = services.athletes_for(athlete_of(payload.athlete_id), payload.scope)
    found, words = from_raw(row.document), f"template “{row.name}” applied"
    dated = _dated(found, payload.day)
    if found.kind == "session":
        done, left = services.copy_session(dated[payload.day], words, people, payload.day)
    else:
        done, left = services.put_weeks(dated, words, people)
    return CopyOut(done=done, left=left)


@router.post("/templates/import", response={200: list[TemplateOut], **ERRORS})
def take_in(request: HttpRequest, payload: JsonIn) -> list[TemplateOut]:
    """Take a template in from its JSON."""
    if len(payload.text) > LONGEST_FILE:
        raise CoachError("The file is too long.", where="text", accepted=f"Up to {LONGEST_FILE // 1000} kB.")
    try:
        raw: Any = json.loads(payload.text)
    except (ValueError, RecursionError):
        raise CoachError("This is not JSON.", where="text", accepted="A template as the application writes it.") from None
    if not isinstance(raw, dict):
        raise CoachError("This is not a template.", where="text", accepted="A JSON object.")
    found = from_raw(raw)
    save(str(raw.get("name") or "Imported"), found.kind, found, str(raw.get("note") or ""))
    return _listed()


@router.get("/export/templates/{int:template_id}.json", include_in_schema=False)
def export(request: HttpRequest, template_id: int) -> HttpResponse:
    row = get_object_or_404(Template, pk=template_id)
    text = json.dumps({**row.document, "name": row.name, "note": row.note}, ensure_ascii=False, indent=1)
    response = HttpResponse(text, content_type="application/json; charset=utf-8")
    name = "".join(c if c.isalnum() else "-" for c in row.name.lower())[:60]
    response["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return response
