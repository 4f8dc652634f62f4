"""A calendar going out: competitions, entries and practice ahead, and the sessions of the coming weeks."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace
from datetime import date, timedelta

from django.db.models import Q

from jarvok.app.athletes.reading import practice_rows_of, read_for_a_week
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.seasons.models import CalendarEntry, Entry
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.sessions_ahead import sessions_ahead
from jarvok.core.interchange.calendar import OWN_SESSION, Written
from jarvok.core.season.model import RANK_NAMES, Rank

MATCH_MIN = 90  # [J] how long a match or another entry with an hour is written


def calendar_of(athlete: Athlete, today: date) -> list[Written]:
    """What lies ahead of an athlete."""
    return _ahead(athlete, today, SeasonBook([athlete], today))


def calendar_of_squad(squad: Squad, today: date) -> list[Written]:
    """What lies ahead of a squad: what several have in common stands once, with their names beside it where not all have it."""
    people = read_for_a_week(Athlete.here.filter(squad=squad))
    book = SeasonBook(people, today)
    found: dict[tuple[str, date, str, float | None], list[tuple[Athlete, Written]]] = defaultdict(list)
    for athlete in people:
        for item in _ahead(athlete, today, book):
            key = item.name if item.kind == OWN_SESSION else item.uid
            found[item.kind, item.start, key, item.hour].append((athlete, item))
    return [_shared(rows, squad, len(people)) for rows in found.values()]


def _shared(rows: list[tuple[Athlete, Written]], squad: Squad, everybody: int) -> Written:
    item = rows[0][1]
    names = ", ".join(a.name for a, _ in rows)
    if item.kind == OWN_SESSION:  # each athlete's own has another address than the squad's
        at = "" if item.hour is None else f"-{item.hour:g}"
        item = replace(item, uid=f"{OWN_SESSION}-squad-{squad.pk}-{item.start}{at}-{_plain(item.name)}@jarvok")
    if len(rows) == everybody:
        return item
    return replace(item, note=" · ".join(w for w in (item.note, names) if w))


def _plain(text: str) -> str:
    return "".join(c if c.isalnum() else "-" for c in text.lower())


def _ahead(athlete: Athlete, today: date, book: SeasonBook) -> list[Written]:
    items = [
        Written(
            _uid(c, "competition"),
            c.name,
            "competition",
            c.day,
            c.last_day or c.day,
            note=RANK_NAMES[Rank(c.rank)],
            sequence=c.sequence,
        )
        for c in book.competitions(athlete.pk)
        if c.day >= today and c.block is None
    ]
    items += [
        Written(
            _uid(e, "entry"),
            e.name,
            e.kind,
            e.start,
            e.end,
            e.hour if e.end == e.start else None,
            MATCH_MIN,
            sequence=e.sequence,
            is_cancelled=e.is_out,
        )
        for e in (*book.entries(athlete.pk), *_taken_out(athlete, today))
        if e.end >= today
    ]
    items += [x for p in practice_rows_of(athlete) if (x := _practice_written(p, athlete, today)) is not None]
    items += sessions_ahead(athlete, today, book, rules_in_force())
    return items


def _uid(item: Entry | CalendarEntry, word: str) -> str:
    return item.uid or f"{word}-{item.pk}@jarvok"


def _taken_out(athlete: Athlete, today: date) -> list[CalendarEntry]:
    """What lay ahead and was taken out again: written as cancelled, so that other calendars drop it too."""
    mine = Q(athlete=athlete) | Q(squad=athlete.squad, group__in=("", athlete.group))
    return list(CalendarEntry.objects.filter(mine, withdrawn_at__isnull=False, end__gte=today))


def _practice_written(p: Practice, athlete: Athlete, today: date) -> Written | None:
    """A weekly practice from its first day, or the last one before today, to its end if it has one; None when it is over."""
    if p.since is not None and p.since > today:
        day = p.since + timedelta(days=(p.weekday - p.since.weekday()) % 7)
    else:
        day = today - timedelta(days=(today.weekday() - p.weekday) % 7)
    if p.until is not None and p.until < day:
        return None
    return Written(
        uid=p.uid or f"practice-{p.pk}@jarvok",
        name=f"{p.sport or athlete.squad.name} practice",
        kind="practice",
        start=day,
        end=day,
        hour=p.hour,
        minutes=p.minutes,
        weekday=p.weekday,
        until=p.until,
        note=f"RPE {p.hardness}",
        but_not=tuple(d for raw in p.but_not if (d := date.fromisoformat(raw)) >= today),
        sequence=p.sequence,
    )
