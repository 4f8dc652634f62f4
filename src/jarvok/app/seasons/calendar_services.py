"""What a coach does with the calendar: add an entry, take one out, take a calendar in."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, Practice, Squad
from jarvok.app.seasons import services
from jarvok.app.seasons.models import CalendarEntry, Competition, MinutesPlayed
from jarvok.app.seasons.queries import SeasonBook
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


def add_entry(scope: Scope, kind: str, name: str, start: date, end: date, uid: str = "") -> CalendarEntry:
    name = name.strip()
    if kind not in CalendarEntry.KINDS:
        raise CoachError("There is no such kind.", where="kind", accepted=", ".join(CalendarEntry.KINDS))
    if not 1 <= len(name) <= 80:
        raise CoachError("It needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if not 0 <= (end - start).days <= LONGEST_DAYS:
        raise CoachError("It ends before it begins, or lasts too long.", where="end", accepted=f"Up to {LONGEST_DAYS} days.")
    if abs((start - clock.today()).days) > FARTHEST_DAYS:
        raise CoachError(f"{start:%-d %B %Y} lies too far away.", where="start", accepted="Days within two years are accepted.")
    if kind == "match" and end != start:
        raise CoachError("A match is on one day.", where="end", accepted="Its day, or a competition of several days.")
    return CalendarEntry.objects.create(
        athlete=scope.athlete, squad=scope.squad, group=scope.group, kind=kind, name=name, start=start, end=end, uid=uid
    )


@transaction.atomic
def take_out(entry: CalendarEntry) -> None:
    entry.withdrawn_at = clock.now()
    entry.save()


@transaction.atomic
def write_minutes(athlete: Athlete, entry: CalendarEntry, minutes: int | None) -> None:
    if entry.start > clock.today():
        raise CoachError("This match has not been played yet.", where="minutes", accepted="Minutes of matches that were played.")
    if entry not in SeasonBook([athlete], clock.today()).entries(athlete.pk):
        raise CoachError(f"This match is not in the calendar of {athlete.name}.", where="minutes")
    if minutes is None:
        MinutesPlayed.objects.filter(athlete=athlete, entry=entry).delete()
        return
    if not 0 <= minutes <= LONGEST_MATCH_MIN:
        raise CoachError(f"{minutes} minutes cannot be.", where="minutes", accepted=f"0 to {LONGEST_MATCH_MIN} are accepted.")
    values = {"minutes": minutes, "day": entry.start}
    MinutesPlayed.objects.update_or_create(athlete=athlete, entry=entry, defaults=values)


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
    standing = _standing(scope, found, kind)
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


def _standing(scope: Scope, found: Found, kind: str) -> Standing | None:
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


@transaction.atomic
def take_in(scope: Scope, text: str, kinds: dict[str, str]) -> list[Row]:
    """Take a calendar in: new events are added, changed ones changed, cancelled ones taken out, the same left alone."""
    rows, _ = preview(scope, text, kinds)
    for row in rows:
        if row.status in ("new", "changed", "cancelled"):
            _store(scope, row)
    return rows


def _store(scope: Scope, row: Row) -> None:
    found, standing = row.found, _standing(scope, row.found, row.kind)
    if row.status == "cancelled":
        if isinstance(standing, Competition):
            for same in _same_everywhere(scope, standing):
                services.withdraw(same)
        elif isinstance(standing, CalendarEntry):
            take_out(standing)
        elif isinstance(standing, Practice):
            standing.delete()
        return
    if row.kind == "competition":
        _store_competition(scope, found, standing if isinstance(standing, Competition) else None)
    elif row.kind == "practice":
        _store_practice(scope, found, standing if isinstance(standing, Practice) else None)
    elif isinstance(standing, CalendarEntry):
        standing.name, standing.kind, standing.start, standing.end = found.name, row.kind, found.start, found.end
        standing.save()
    else:
        end = found.start if row.kind == "match" else min(found.end, found.start + timedelta(days=LONGEST_DAYS))
        add_entry(scope, row.kind, found.name, found.start, end, found.uid[:200])


def _same_everywhere(scope: Scope, standing: Competition) -> list[Competition]:
    rows = Competition.objects.filter(athlete__in=scope.athletes, withdrawn_at__isnull=True)
    return list(rows.filter(uid=standing.uid) if standing.uid else rows.filter(pk=standing.pk))


def _store_competition(scope: Scope, found: Found, standing: Competition | None) -> None:
    last = found.end if found.end > found.start else None
    if standing is None:
        for athlete in scope.athletes:
            typed = services.TypedCompetition(found.name, found.start, last_day=last, uid=found.uid[:200])
            typed_in = services.same_name(athlete, found.name, found.start)  # typed by hand before: it is the same one
            if typed_in is None:
                services.add_competition(athlete, typed)
            else:
                events = tuple(services.TypedEvent(**e) for e in typed_in.events)
                services.change_competition(typed_in, replace(typed, rank=typed_in.rank, events=events))
        return
    for same in _same_everywhere(scope, standing):
        events = tuple(services.TypedEvent(**e) for e in same.events)
        typed = services.TypedCompetition(found.name, found.start, same.rank, last, None, events, same.uid)
        services.change_competition(same, typed)


def _store_practice(scope: Scope, found: Found, standing: Practice | None) -> None:
    squad = scope.squad or scope.athletes[0].squad
    weekday = found.weekday if found.weekday is not None else found.start.weekday()
    minutes = max(10, min(300, found.minutes or 90))
    if standing is not None:
        standing.minutes = minutes
        standing.save()
    else:
        Practice.objects.create(
            squad=squad,
            athlete=scope.athlete,
            weekday=weekday,
            hour=round(found.hour or 18.0, 2),
            minutes=minutes,
            hardness=USUAL_HARDNESS,
        )
