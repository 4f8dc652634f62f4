"""What taking a calendar in would do, event by event, and whom an entry is for."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from django.db.models import Q

from jarvok.app import clock
from jarvok.app.athletes.reading import practice_span_words
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.seasons.models import CalendarEntry, Competition, Entry
from jarvok.core.errors import CoachError
from jarvok.core.interchange.calendar import KINDS, Found, read_calendar
from jarvok.core.interchange.day_notes import WEEKDAY_NAMES, clock_words
from jarvok.core.quantities.days import said_day

LONGEST_DAYS = 120
FARTHEST_DAYS = 731
LONGEST_MATCH_MIN = 150
USUAL_HOUR, USUAL_MINUTES = 18.0, 90  # [J] of a practice that does not say
USUAL_HARDNESS = 6  # [J] of an imported practice until the coach says otherwise


@dataclass(frozen=True)
class Scope:
    """Whom an entry is for: one athlete, a group, or a squad."""

    athlete: Athlete | None
    squad: Squad | None
    group: str = ""

    @staticmethod
    def of(athlete: Athlete, word: str) -> Scope:
        if word == "athlete":
            return Scope(athlete, None)
        if word == "group" and athlete.group:
            return Scope(None, athlete.squad, athlete.group)
        if word == "squad":
            return Scope(None, athlete.squad)
        raise CoachError("It is for the athlete, the group or the squad.", where="scope", accepted="athlete, group or squad")

    @property
    def word(self) -> str:
        """Whom it is for, as it is asked: athlete, group or squad."""
        return "athlete" if self.athlete is not None else "group" if self.group else "squad"

    @property
    def the_squad(self) -> Squad:
        """The squad it is for, or that of the athlete."""
        if self.squad is not None:
            return self.squad
        if self.athlete is None:
            raise CoachError("It is for nobody.", where="scope", accepted="An athlete, a group or a squad.")
        return self.athlete.squad

    @property
    def athletes(self) -> list[Athlete]:
        """Everybody it is for."""
        if self.athlete is not None:
            return [self.athlete]
        rows = Athlete.here.filter(squad=self.squad)
        return list(rows.filter(group=self.group) if self.group else rows)


@dataclass(frozen=True)
class Row:
    """One happening of an imported calendar: what it would do (`new`, `same`, `changed`, `cancelled`), and words."""

    found: Found
    kind: str
    status: str
    words: str


def days_words(start: date, end: date) -> str:
    """A day, or the first and the last, as people write them."""
    return said_day(start) + (f" to {said_day(end)}" if end > start else "")


def check_entry(entry: CalendarEntry) -> None:
    """Raise `CoachError` for an entry that cannot be."""
    if entry.kind not in CalendarEntry.KINDS:
        raise CoachError("There is no such kind.", where="kind", accepted=", ".join(CalendarEntry.KINDS))
    if not 1 <= len(entry.name) <= 80:
        raise CoachError("It needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if not 0 <= (entry.end - entry.start).days <= LONGEST_DAYS:
        raise CoachError("It ends before it begins, or lasts too long.", where="end", accepted=f"Up to {LONGEST_DAYS} days.")
    if abs((entry.start - clock.today()).days) > FARTHEST_DAYS:
        raise CoachError(
            f"{said_day(entry.start, year=True, is_long=True)} lies too far away.",
            where="start",
            accepted="Days within two years are accepted.",
        )
    if entry.kind == "match" and entry.end != entry.start:
        raise CoachError("A match is on one day.", where="end", accepted="Its day, or a competition of several days.")
    if entry.hour is not None and not 0 <= entry.hour < 24:
        raise CoachError("That is no hour of the day.", where="hour", accepted="0:00 to 23:59.")


def preview(scope: Scope, text: str, kinds: dict[str, str]) -> tuple[list[Row], tuple[str, ...]]:
    """What taking a calendar in would do, event by event; nothing is stored."""
    read = read_calendar(text, clock.today(), clock.zone())
    return [_row(scope, found, kinds.get(found.uid, found.kind)) for found in read.found], read.problems


def _row(scope: Scope, found: Found, kind: str) -> Row:
    if kind not in (*KINDS, "skip"):
        raise CoachError("There is no such kind.", where="kinds", accepted=", ".join((*KINDS, "skip")))
    if kind == "practice":
        found = as_practice(found)
    when = _wanted(found, kind) + (f" ({found.zone_words})" if found.zone_words else "")
    if kind == "skip":
        return Row(found, kind, "skip", when)
    standing = standing_for(scope, found, kind)
    if found.is_cancelled:
        return Row(found, kind, "cancelled" if standing else "skip", f"{when}; cancelled")
    if standing is None and kind == "competition" and found.start <= clock.today():
        return Row(found, kind, "skip", f"{when}; it is not ahead")
    if standing is None:
        return Row(found, kind, "new", when)
    before = _said(standing)
    if before == _wanted(found, kind):
        return Row(found, kind, "same", when)
    if standing.sequence > found.sequence:
        return Row(found, kind, "older", f"{when}; what stands is newer: {before}")
    return Row(found, kind, "changed", f"{before} → {when}")


Standing = Entry | Competition | CalendarEntry | Practice


def as_practice(found: Found) -> Found:
    """An event as a practice: a single one is a weekly practice of one day."""
    if found.weekday is not None:
        return found
    hour = USUAL_HOUR if found.hour is None else found.hour
    return replace(found, weekday=found.start.weekday(), hour=hour, since=found.start, until=found.start)


def standing_for(scope: Scope, found: Found, kind: str) -> Standing | None:
    """What an event of this calendar became when it was taken in before."""
    if kind == "practice":
        return _practice_for(scope, found)
    own = found.uid.removesuffix("@jarvok").rpartition("-")
    pk = int(own[2]) if own[2].isdigit() else 0
    if kind == "competition":
        return _competition_for(scope, pk if own[0] == "competition" else 0, found.uid[:200])
    entries = CalendarEntry.objects.filter(withdrawn_at__isnull=True)
    ours = entries.filter(athlete=scope.athlete, squad=scope.squad, group=scope.group)
    entry = entries.filter(pk=pk).first() if own[0] == "entry" else None
    return entry or ours.filter(uid=found.uid[:200]).first()


def _competition_for(scope: Scope, pk: int, uid: str) -> Entry | Competition | None:
    """By the number of an athlete's part in it or the event it came from; of a squad without athletes the squad's own."""
    rows = Entry.objects.filter(athlete__in=scope.athletes, withdrawn_at__isnull=True)
    mine = rows.select_related("athlete__squad", "competition")
    found = mine.filter(pk=pk).first() or mine.filter(competition__uid=uid, own={}).first()
    found = found or mine.filter(competition__uid=uid).first()
    if found is not None or scope.squad is None:
        return found
    whose = Competition.objects.filter(squad=scope.squad, group=scope.group, withdrawn_at__isnull=True, uid=uid)
    return whose.filter(entered__isnull=True).first()


def _practice_for(scope: Scope, found: Found) -> Practice | None:
    """By the event it came from, our own number in it, or else its weekday and hour."""
    rows = Practice.objects.filter(squad=scope.the_squad, withdrawn_at__isnull=True).filter(
        Q(athlete=None) | Q(athlete=scope.athlete)
    )
    same = rows.filter(uid__in=(found.uid[:200], found.uid.rpartition("@w")[0] or "-")).first()  # also of a copy we wrote
    if same is not None:
        return same
    own = re.match(r"practice-(\d+)@jarvok(?:@w\d)?$", found.uid)
    if own is not None:
        return rows.filter(pk=int(own[1])).first()
    return rows.filter(uid="", weekday=found.weekday or 0, hour=round(found.hour or 0.0, 2)).first()


def _said(standing: Standing) -> str:
    match standing:
        case Entry() | Competition():
            return f"{standing.name}, {_days(standing.day, standing.last_day or standing.day)}"
        case CalendarEntry():
            return f"{standing.name}, {_days(standing.start, standing.end)}{_at(standing.hour)}"
        case _:
            days = [date.fromisoformat(d) for d in standing.but_not]
            return practice_words(standing.weekday, standing.hour, standing.minutes, standing.since, standing.until, days)


def _wanted(found: Found, kind: str) -> str:
    """What an event says, in the words of what stands."""
    if kind == "practice" and found.weekday is not None:
        minutes = found.minutes or USUAL_MINUTES
        return practice_words(found.weekday, found.hour or 0.0, minutes, found.since, found.until, found.but_not)
    timed = "" if kind == "competition" else _at(found.hour)
    return f"{found.name}, {_days(found.start, found.start if kind == 'match' else found.end)}{timed}"


def practice_words(
    weekday: int, hour: float, minutes: int, since: date | None, until: date | None, but_not: Sequence[date]
) -> str:
    """A weekly practice in words: with its first and last day, and the days ahead on which it falls out."""
    if since is not None and since == until:
        return f"{said_day(since, weekday=True, year=True)} at {clock_words(hour)}, {minutes} min"
    going_on = practice_span_words(since, until, but_not, clock.today())
    return f"every {WEEKDAY_NAMES[weekday]} at {clock_words(hour)}, {minutes} min" + (f", {going_on}" if going_on else "")


def _days(start: date, end: date) -> str:
    return said_day(start, weekday=True, year=True) + (f" to {said_day(end, weekday=True)}" if end > start else "")


def _at(hour: float | None) -> str:
    return "" if hour is None else f", {clock_words(round(hour, 2))}"
