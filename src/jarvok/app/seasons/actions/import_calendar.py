"""A calendar is taken in: new events are added, changed ones changed, cancelled ones taken out, the same left alone."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import remove_practice
from jarvok.app.facts.athletes.models import Practice
from jarvok.app.facts.people.models import Via
from jarvok.app.facts.seasons.models import CalendarEntry, Competition, Entry
from jarvok.app.kept import kept
from jarvok.app.seasons.actions import (
    add_competition_for,
    add_entry,
    change_competition,
    change_competitions,
    change_entry,
    take_out_entry,
    withdraw_competitions,
)
from jarvok.app.seasons.calendar_rows import (
    LONGEST_DAYS,
    USUAL_HARDNESS,
    USUAL_HOUR,
    USUAL_MINUTES,
    Row,
    Scope,
    preview,
    standing_for,
)
from jarvok.app.seasons.typed_season import TypedCompetition, same_name
from jarvok.core.interchange.calendar import Found
from jarvok.core.season.exposures import Event


def run(who: Who, scope: Scope, text: str, kinds: dict[str, str]) -> list[Row]:
    """Take a calendar in: new events are added, changed ones changed, cancelled ones taken out, the same left alone."""
    who = replace(who, via=Via.IMPORT)
    rows, _ = preview(scope, text, kinds)
    with acting(who, "import_calendar", "calendar taken in", athlete=scope.athlete, squad=scope.squad, also=scope.athletes):
        for row in rows:
            if row.status in ("new", "changed", "cancelled"):
                _store(who, scope, row)
    return rows


def _store(who: Who, scope: Scope, row: Row) -> None:
    found, standing = row.found, standing_for(scope, row.found, row.kind)
    if row.status == "cancelled":
        if isinstance(standing, Competition):
            withdraw_competitions.of_nobody(who, standing)
        elif isinstance(standing, Entry):
            withdraw_competitions.run(who, standing, scope.word)
        elif isinstance(standing, CalendarEntry):
            take_out_entry.run(who, standing)
        elif isinstance(standing, Practice):
            remove_practice.run(who, standing)
        return
    if row.kind == "competition":
        _store_competition(who, scope, found, standing if isinstance(standing, Entry | Competition) else None)
    elif row.kind == "practice":
        _store_practice(scope, found, standing if isinstance(standing, Practice) else None)
    else:
        end = found.start if row.kind == "match" else min(found.end, found.start + timedelta(days=LONGEST_DAYS))
        if isinstance(standing, CalendarEntry):
            sent = {"name": found.name, "kind": row.kind, "start": found.start, "end": end, "hour": found.hour}
            change_entry.run(who, standing, sent, sequence=found.sequence)
        else:
            add_entry.run(
                who, scope, row.kind, found.name, found.start, end, found.uid[:200], hour=found.hour, sequence=found.sequence
            )


def _store_competition(who: Who, scope: Scope, found: Found, standing: Entry | Competition | None) -> None:
    last = found.end if found.end > found.start else None
    if standing is not None:
        sent = {"name": found.name, "day": found.start, "last_day": last, "weigh_in": None}
        if isinstance(standing, Competition):
            change_competitions.of_nobody(who, standing, sent)
        else:
            change_competitions.run(who, standing, scope.word, sent, None, sequence=found.sequence)
        return
    typed = TypedCompetition(found.name, found.start, last_day=last, uid=found.uid[:200], sequence=found.sequence)
    for athlete in scope.athletes:  # typed by hand before: it is the same one
        typed_in = same_name(athlete, found.name, found.start)
        if typed_in is not None:
            events = tuple(Event.from_raw(e) for e in typed_in.events)
            same = replace(typed, rank=typed_in.rank, events=events, division=typed_in.division)
            change_competition.run(who, typed_in, same)
    if not scope.athletes or any(same_name(a, found.name, found.start) is None for a in scope.athletes):
        add_competition_for.run(who, scope, typed)


def _store_practice(scope: Scope, found: Found, standing: Practice | None) -> None:
    practice = standing or Practice(squad=scope.the_squad, athlete=scope.athlete, hardness=USUAL_HARDNESS, uid=found.uid[:200])
    with kept(practice):
        practice.weekday = found.weekday if found.weekday is not None else found.start.weekday()
        practice.hour = round(found.hour if found.hour is not None else USUAL_HOUR, 2)
        practice.minutes = max(10, min(300, found.minutes or USUAL_MINUTES))
        practice.since, practice.until = found.since, found.until
        practice.but_not = [d.isoformat() for d in found.but_not]
    practice.sequence = found.sequence
    practice.save(update_fields=["sequence"])
