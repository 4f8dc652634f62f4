"""Anything from anywhere: an athlete, a squad, a day, an exercise, a value, a page, by the words somebody types."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import athletes_seen, may, person_of, squads_seen
from jarvok.app.api.athletes.overview import MAIN_LIFTS
from jarvok.app.api.problems import ERRORS
from jarvok.app.facts.people.models import Person
from jarvok.app.schema import Schema
from jarvok.core.interchange.typed_day import typed_day
from jarvok.core.library.exercises import exercises
from jarvok.core.library.search import found_by
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import RULES

router = Router(tags=["find"])
MOST, MOST_OF_A_KIND = 24, 6  # [T]
LONGEST_DAY = 3  # [T] words: "12 dec 2026"
PAGES = (
    ("Today", "/", Need.TRAINING, "decisions who trains"),
    ("Calendar of all squads", "/calendar", Need.TRAINING, "matches camps"),
    ("Season models", "/arrangements", Need.TRAINING, "block linear conjugate periodisation"),
    ("Floor", "/floor", Need.RUN, "run sessions racks room arrival"),
    ("Athletes", "/athletes", Need.SHEETS, "squads"),
    ("Import athletes", "/athletes/import", Need.PLAN, "paste table excel csv"),
    ("Library", "/library", Need.TRAINING, "exercises"),
    ("Templates", "/templates", Need.TRAINING, "saved sessions weeks"),
    ("Settings", "/settings", Need.TRAINING, "values rules kit plates bar zone"),
    ("How a line is written", "/shorthand", Need.TRAINING, "shorthand sets reps"),
    ("Sensors", "/sensors", Need.RUN, "bar velocity mat gates heart rate"),
    ("What was done", "/history", Need.PLAN, "history changes who"),
    ("People", "/people", Need.CENTRE, "invite coach role account password link"),
    ("Data and backups", "/data", Need.TRAINING, "restore export everything zip tables csv xlsx"),
)
PARTS = (("Week", "week", Need.SHEETS), ("Season", "season", Need.TRAINING), ("Tests", "tests", Need.TRAINING),
         ("Details", "record", Need.HEALTH), ("Calendar", "calendar", Need.TRAINING))  # fmt: skip


class FoundOut(Schema):
    """`kind` is what it is, `words` what stands beside its name."""

    kind: str
    name: str
    words: str
    path: str


@router.get("/find", response={200: list[FoundOut], **ERRORS})
def find(request: HttpRequest, text: str = "", athlete: int | None = None) -> list[FoundOut]:
    """What the words mean, the nearest first; `athlete` is whose pages are open, for a day without a name."""
    words = text[:80].lower().split()
    person = person_of(request)
    if not words or person is None:
        return []
    day, rest = _day_in(words, clock.today())
    found: list[FoundOut] = []
    for part in (_people(person, day, rest, athlete), _squads(person, words), _pages(person, words), _lifts(person, words),
                 _values(person, words)):  # fmt: skip
        found += [row for row, _ in zip(part, range(MOST_OF_A_KIND), strict=False)]
    return found[:MOST]


def _day_in(words: list[str], today: date) -> tuple[date | None, list[str]]:
    """The day at the end or the beginning of the words, and the other words."""
    for size in range(min(LONGEST_DAY, len(words)), 0, -1):
        for told, rest in ((words[-size:], words[:-size]), (words[:size], words[size:])):
            day = typed_day(" ".join(told), today)
            if day is not None:
                return day, rest
    return None, words


def _has(words: list[str], text: str) -> bool:
    text = text.lower()
    return all(w in text for w in words)


def _people(person: Person, day: date | None, words: list[str], open_one: int | None) -> Iterator[FoundOut]:
    """Athletes by name and squad; with a day their week then; with the name of a part that part."""
    parts = [(name, path) for name, path, need in PARTS if may(person, need)]
    wanted = next(((n, p) for n, p in parts if len(words) > 1 and words[-1] == n.lower()), None)
    names = words[:-1] if wanted is not None else words
    rows = athletes_seen(person).select_related("squad").order_by("name")
    for a in rows if names else rows.filter(pk=open_one or 0):
        if not _has(names, f"{a.name} {a.group} {a.squad.name}"):
            continue
        where = f"/athletes/{a.pk}"
        if day is not None:
            monday = day - timedelta(days=day.weekday())
            yield FoundOut(
                kind="week",
                name=a.name,
                words=f"week of {said_day(monday, year=True, is_long=True)}",
                path=f"{where}/week/{monday}",
            )
        elif wanted is not None:
            yield FoundOut(kind="athlete", name=a.name, words=wanted[0].lower(), path=f"{where}/{wanted[1]}")
        else:
            yield FoundOut(kind="athlete", name=a.name, words=a.squad.name, path=where)


def _squads(person: Person, words: list[str]) -> Iterator[FoundOut]:
    for s in squads_seen(person).order_by("name"):
        if _has(words, s.name):
            yield FoundOut(kind="squad", name=s.name, words="week", path=f"/squads/{s.pk}/week")
            if may(person, Need.TRAINING):
                yield FoundOut(kind="squad", name=s.name, words="season", path=f"/squads/{s.pk}/season")
                yield FoundOut(kind="squad", name=s.name, words="calendar", path=f"/squads/{s.pk}/calendar")


def _pages(person: Person, words: list[str]) -> Iterator[FoundOut]:
    for name, path, need, also in PAGES:
        if may(person, need) and _has(words, f"{name} {also}"):
            yield FoundOut(kind="page", name=name, words="", path=path)


def _lifts(person: Person, words: list[str]) -> Iterator[FoundOut]:
    if may(person, Need.TRAINING):
        rows = [e for e in exercises().values() if all(w in found_by(e) for w in words)]
        mains = {lift for lifts in MAIN_LIFTS.values() for lift in lifts}
        for e in sorted(rows, key=lambda e: (e.id not in mains, not e.name.lower().startswith(words[0]), len(e.name))):
            yield FoundOut(kind="exercise", name=e.name, words=e.pattern.replace("_", " "), path=f"/library?open={e.id}")


def _values(person: Person, words: list[str]) -> Iterator[FoundOut]:
    if may(person, Need.TRAINING):
        for rule in RULES:
            if _has(words, f"{rule.name} {rule.group} {rule.text}"):
                yield FoundOut(kind="setting", name=rule.name, words=rule.group, path=f"/settings?find={rule.name}")
