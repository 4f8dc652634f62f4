"""The calendar: what fills it, and iCalendar in and out."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.links import find
from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.seasons.shapes import ChoiceWords
from jarvok.app.api.sending import file_name
from jarvok.app.api.who import who_of
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import LinkKind
from jarvok.app.facts.seasons.models import CalendarEntry
from jarvok.app.once import once
from jarvok.app.schema import Schema
from jarvok.app.seasons import calendar_rows as services
from jarvok.app.seasons.actions import add_entries, import_calendar, make_calendar_address, take_out_entry
from jarvok.app.seasons.actions import add_entry as add
from jarvok.app.seasons.actions import write_minutes as minutes
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.calendar_out import calendar_of, calendar_of_squad
from jarvok.core.errors import CoachError
from jarvok.core.interchange.calendar import KINDS, Written, write_calendar
from jarvok.core.rules import Rules
from jarvok.core.season.calendar import SPAN_NAMES, SpanKind
from jarvok.core.season.match_days import in_season_week, played_share
from jarvok.core.season.model import monday_of

router = Router(tags=["calendar"])
PLAYED_DAYS = 28  # minutes of matches so far back can still be written
ENTRY_NAMES = {"match": "Match"} | {k.value: SPAN_NAMES[k] for k in SpanKind}


class EntryOut(Schema):
    id: int
    kind: str
    kind_name: str
    name: str
    start: date
    end: date
    days_to_go: int
    whom: str
    hour: float | None


class MatchDayOut(Schema):
    day: date
    label: str
    holds: str
    why: str
    is_match: bool
    session: float


class PlayedOut(Schema):
    """A match that was played, and how long the athlete was in it: None where that is not written down."""

    entry_id: int
    name: str
    day: date
    minutes: int | None


class MinutesIn(Schema):
    minutes: int | None


class EntryKindOut(Schema):
    id: str
    name: str
    is_one_day: bool


class CalendarOut(Schema):
    athlete_id: int
    athlete_name: str
    squad: str
    group: str
    today: date
    entries: list[EntryOut]
    kinds: list[EntryKindOut]
    import_kinds: list[ChoiceWords]
    played: list[PlayedOut]
    played_words: str
    match_week: list[MatchDayOut]
    match_week_few: list[MatchDayOut]


class NewList(Schema):
    """Several entries at once: a day or two days and a name a line."""

    kind: str
    text: str
    scope: str = "squad"


class NewEntry(Schema):
    kind: str
    name: str
    start: date
    end: date | None = None
    scope: str = "squad"


class CalendarText(Schema):
    text: str
    scope: str = "squad"
    kinds: dict[str, str] = {}


class ImportRowOut(Schema):
    uid: str
    name: str
    kind: str
    status: str
    words: str


class ImportOut(Schema):
    rows: list[ImportRowOut]
    problems: list[str]
    stored: bool


def _athlete(athlete_id: int) -> Athlete:
    return get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)


def _whom(entry: CalendarEntry) -> str:
    return "this athlete" if entry.athlete_id else entry.group or "the squad"


def _match_week(matches: list[date], today: date, played_share: float) -> list[MatchDayOut]:
    week = in_season_week(monday_of(today), matches, played_share=played_share)
    return [MatchDayOut(**d.__dict__) for d in week] if any(abs((m - today).days) <= 7 for m in matches) else []


def calendar_out(athlete_id: int) -> CalendarOut:
    athlete, today = _athlete(athlete_id), clock.today()
    entries = SeasonBook([athlete], today).entries(athlete.pk)
    matches = sorted(e.start for e in entries if e.kind == "match")
    minutes = {m.entry_id: m for m in athlete.minutes_played.all()}
    rules = rules_in_force()
    share = played_share([(m.day, m.minutes) for m in minutes.values()], today, rules)
    week = _match_week(matches, today, share)
    past = [e for e in entries if e.kind == "match" and today - timedelta(days=PLAYED_DAYS) <= e.start <= today]
    return CalendarOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad=athlete.squad.name,
        group=athlete.group,
        today=today,
        entries=[
            EntryOut(
                id=e.pk,
                kind=e.kind,
                kind_name=ENTRY_NAMES[e.kind],
                name=e.name,
                start=e.start,
                end=e.end,
                days_to_go=(e.start - today).days,
                whom=_whom(e),
                hour=e.hour,
            )
            for e in entries
            if e.end >= today
        ],
        kinds=[EntryKindOut(id=k, name=name, is_one_day=k == "match") for k, name in ENTRY_NAMES.items()],
        import_kinds=[ChoiceWords(id=k, name=ENTRY_NAMES.get(k, k.capitalize())) for k in (*KINDS, "skip")],
        played=[
            PlayedOut(entry_id=e.pk, name=e.name, day=e.start, minutes=minutes[e.pk].minutes if e.pk in minutes else None)
            for e in reversed(past)
        ],
        played_words=_played_words(share, bool(minutes), rules),
        match_week=week,
        match_week_few=few if (few := _match_week(matches, today, 0.1)) != week else [],
    )


def _played_words(share: float, is_known: bool, rules: Rules) -> str:
    if not is_known:
        return "No minutes are written down: the week is laid for a player who plays the whole match."
    whole = rules["season.match_minutes"]
    return f"Plays {share * whole:.0f} of {whole:g} min, over the last matches written down."


@router.put("/athletes/{int:athlete_id}/calendar/{int:entry_id}/minutes", response={200: CalendarOut, **ERRORS})
def write_minutes(request: HttpRequest, athlete_id: int, entry_id: int, payload: MinutesIn) -> CalendarOut:
    """How long the athlete played in a match; None takes it back."""
    entry = get_object_or_404(CalendarEntry, pk=entry_id, kind="match", withdrawn_at__isnull=True)
    minutes.run(who_of(request), _athlete(athlete_id), entry, payload.minutes)
    return calendar_out(athlete_id)


@router.get("/athletes/{int:athlete_id}/calendar", response={200: CalendarOut, **ERRORS})
def read_calendar_of(request: HttpRequest, athlete_id: int) -> CalendarOut:
    return calendar_out(athlete_id)


@router.post("/athletes/{int:athlete_id}/calendar", response={200: CalendarOut, **ERRORS})
def add_entry(request: HttpRequest, athlete_id: int, payload: NewEntry, idempotency_key: IdempotencyKey) -> CalendarOut:
    scope, who = services.Scope.of(_athlete(athlete_id), payload.scope), who_of(request)

    def do() -> dict[str, Any]:
        add.run(who, scope, payload.kind, payload.name, payload.start, payload.end or payload.start)
        return {}

    once(idempotency_key, {"athlete": athlete_id, "what": "calendar", **payload.dict()}, do)
    return calendar_out(athlete_id)


@router.post("/athletes/{int:athlete_id}/calendar/list", response={200: CalendarOut, **ERRORS})
def add_list(request: HttpRequest, athlete_id: int, payload: NewList) -> CalendarOut:
    """Put a pasted list into the calendar, one event a line: all of it, or nothing."""
    add_entries.run(who_of(request), services.Scope.of(_athlete(athlete_id), payload.scope), payload.kind, payload.text)
    return calendar_out(athlete_id)


@router.delete("/athletes/{int:athlete_id}/calendar/{int:entry_id}", response={200: CalendarOut, **ERRORS})
def take_out(request: HttpRequest, athlete_id: int, entry_id: int) -> CalendarOut:
    take_out_entry.run(who_of(request), get_object_or_404(CalendarEntry, pk=entry_id, withdrawn_at__isnull=True))
    return calendar_out(athlete_id)


def _rows(rows: list[services.Row], problems: tuple[str, ...], stored: bool) -> ImportOut:
    shown = [ImportRowOut(uid=r.found.uid, name=r.found.name, kind=r.kind, status=r.status, words=r.words) for r in rows]
    return ImportOut(rows=shown, problems=list(problems), stored=stored)


@router.post("/athletes/{int:athlete_id}/calendar/preview", response={200: ImportOut, **ERRORS})
def preview_import(request: HttpRequest, athlete_id: int, payload: CalendarText) -> ImportOut:
    """What an iCalendar text would do, event by event. Nothing is stored."""
    scope = services.Scope.of(_athlete(athlete_id), payload.scope)
    rows, problems = services.preview(scope, payload.text, payload.kinds)
    return _rows(rows, problems, stored=False)


@router.post("/athletes/{int:athlete_id}/calendar/import", response={200: ImportOut, **ERRORS})
def take_in(request: HttpRequest, athlete_id: int, payload: CalendarText) -> ImportOut:
    scope = services.Scope.of(_athlete(athlete_id), payload.scope)
    return _rows(import_calendar.run(who_of(request), scope, payload.text, payload.kinds), (), stored=True)


@router.get("/export/athletes/{int:athlete_id}/calendar.ics", include_in_schema=False)
def export(request: HttpRequest, athlete_id: int) -> HttpResponse:
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    return _file(calendar_of(athlete, clock.today()), athlete.name)


@router.get("/export/squads/{int:squad_id}/calendar.ics", include_in_schema=False)
def export_squad(request: HttpRequest, squad_id: int) -> HttpResponse:
    squad = get_object_or_404(Squad, pk=squad_id)
    return _file(calendar_of_squad(squad, clock.today()), squad.name)


def _file(items: list[Written], name: str) -> HttpResponse:
    response = HttpResponse(write_calendar(items, clock.now(), clock.zone()), content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{file_name(name, form="ics")}"'
    return response


class FeedOut(Schema):
    """A secret address of a calendar, said once; `until` is how long it is good."""

    path: str
    until: datetime


@router.post("/calendar/{whose}/{int:pk}/address", response={200: FeedOut, **ERRORS})
def make_address(request: HttpRequest, whose: str, pk: int) -> FeedOut:
    """Make an address under which another calendar reads this one and follows it."""
    if whose not in ("athlete", "squad"):
        raise CoachError("A calendar is an athlete's or a squad's.", where="whose", accepted="athlete or squad")
    of: Athlete | Squad = get_object_or_404(Athlete, pk=pk) if whose == "athlete" else get_object_or_404(Squad, pk=pk)
    link, token = make_calendar_address.run(who_of(request), of)
    return FeedOut(path=f"/api/calendars/{token}.ics", until=link.until)


@router.get("/calendars/{token}.ics", auth=None, include_in_schema=False)
def follow(request: HttpRequest, token: str) -> HttpResponse:
    """A calendar as it stands now, for whoever has its address."""
    link = find(token, LinkKind.CALENDAR)
    if link is not None and link.athlete is not None and link.athlete.archived_on is None:
        return _file(calendar_of(link.athlete, clock.today()), link.athlete.name)
    if link is not None and link.squad is not None:
        return _file(calendar_of_squad(link.squad, clock.today()), link.squad.name)
    return HttpResponse("This address is over. Ask the coach for a new one.", status=404, content_type="text/plain")
