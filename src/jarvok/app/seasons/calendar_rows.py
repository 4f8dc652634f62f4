"""What taking a calendar in would do, event by event, and whom an entry is for."""

from __future__ import annotations

from dataclasses import dataclass

from django.db.models import Q
from django.utils import timezone

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.seasons.models import CalendarEntry, Competition
from jarvok.core.errors import CoachError
from jarvok.core.interchange.calendar import KINDS, Found, read_calendar

LONGEST_DAYS = 120
FARTHEST_DAYS = 731
LONGEST_MATCH_MIN = 150
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
    def athletes(self) -> list[Athlete]:
        """Everybody it is for."""
        if self.athlete is not None:
            return [self.athlete]
        rows = Athlete.objects.filter(squad=self.squad)
        return list(rows.filter(group=self.group) if self.group else rows)


@dataclass(frozen=True)
class Row:
    """One happening of an imported calendar: what it would do (`new`, `same`, `changed`, `cancelled`), and words."""

    found: Found
    kind: str
    status: str
    words: str


def preview(scope: Scope, text: str, kinds: dict[str, str]) -> tuple[list[Row], tuple[str, ...]]:
    """What taking a calendar in would do, event by event; nothing is stored."""
    read = read_calendar(text, clock.today(), timezone.get_current_timezone())
    return [_row(scope, found, kinds.get(found.uid, found.kind)) for found in read.found], read.problems


def _row(scope: Scope, found: Found, kind: str) -> Row:
    if kind not in (*KINDS, "skip"):
        raise CoachError("There is no such kind.", where="kinds", accepted=", ".join((*KINDS, "skip")))
    when = f"{found.start:%a %-d %b %Y}" + (
        f" to {found.end:%a %-d %b}" if found.end > found.start and found.weekday is None else ""
    )
    if found.weekday is not None:
        when = f"every {found.start:%A} at {_clock(found.hour)}, {found.minutes or 90} min"
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
    return (
        Row(found, kind, "same", when)
        if before == _wanted(found, standing)
        else Row(found, kind, "changed", f"{before} → {when}")
    )


def _clock(hour: float | None) -> str:
    hour = hour or 0.0
    return f"{int(hour)}:{round(60 * (hour % 1)) % 60:02d}"


Standing = Competition | CalendarEntry | Practice


def standing_for(scope: Scope, found: Found, kind: str) -> Standing | None:
    """What an event of this calendar became when it was taken in before."""
    if kind == "practice":
        squad = scope.squad or (scope.athlete.squad if scope.athlete else None)
        if found.weekday is None or found.hour is None:
            return None
        practices = Practice.objects.filter(squad=squad, weekday=found.weekday, hour=round(found.hour, 2))
        return practices.filter(Q(athlete=None) | Q(athlete=scope.athlete)).first()
    own = found.uid.removesuffix("@jarvok").rpartition("-")
    if kind == "competition":
        rows = Competition.objects.filter(athlete__in=scope.athletes, withdrawn_at__isnull=True)
        pk = int(own[2]) if own[0] == "competition" and own[2].isdigit() else 0
        return rows.filter(pk=pk).first() or rows.filter(uid=found.uid[:200]).first()
    pk = int(own[2]) if own[0] == "entry" and own[2].isdigit() else 0
    entries = CalendarEntry.objects.filter(withdrawn_at__isnull=True)
    mine = entries.filter(athlete=scope.athlete, squad=scope.squad, group=scope.group)
    return entries.filter(pk=pk).first() or mine.filter(uid=found.uid[:200]).first()


def _said(standing: Standing) -> str:
    match standing:
        case Competition():
            return f"{standing.name}, {standing.day:%-d %b %Y} to {standing.last_day or standing.day:%-d %b}"
        case CalendarEntry():
            return f"{standing.name}, {standing.start:%-d %b %Y} to {standing.end:%-d %b}"
        case _:
            return f"{standing.minutes} min"


def _wanted(found: Found, standing: Standing) -> str:
    if isinstance(standing, Practice):
        return f"{found.minutes or 90} min"
    return f"{found.name}, {found.start:%-d %b %Y} to {found.end:%-d %b}"
