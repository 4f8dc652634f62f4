"""Calendars in and out as iCalendar (RFC 5545): competitions, matches, camps and the like, and weekly practice.

Limits of what a calendar may hold are technical [T].
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from itertools import groupby
from typing import Any, NamedTuple

from dateutil.rrule import rrulestr
from icalendar import Calendar, Component, Event

from jarvok.core.errors import CoachError
from jarvok.core.interchange.bounds import without_control

LARGEST_BYTES = 2_000_000
MOST_EVENTS = 2000
HORIZON_DAYS = 400  # [J] a little more than the longest season
MOST_MOMENTS = 100_000  # of all recurring events together, from where each began
# how often an event may recur, and by what: what a club's calendar says, and no rule that is followed for ever without a day
RULE_PARTS = {
    "DAILY": {"BYDAY"},
    "WEEKLY": {"BYDAY"},
    "MONTHLY": {"BYDAY", "BYMONTHDAY", "BYSETPOS"},
    "YEARLY": {"BYDAY", "BYMONTHDAY", "BYMONTH"},
}
ANY_RULE = {"FREQ", "INTERVAL", "COUNT", "UNTIL", "WKST", "SKIP", "RSCALE"}
PRODUCT = "-//Jarvok//Season//EN"
OWN_SESSION = "session"  # what we write of the plan; it is never taken in: the plan is where sessions are moved
KINDS = ("competition", "match", "practice", "camp", "travel", "exams", "holiday", "unavailable")
# words by which a kind is guessed; the coach decides
WORDS: tuple[tuple[str, str], ...] = (
    ("competition", r"\b(cup|open|championships?|meet|tournament|qualifier|games|final)\b"),
    ("match", r"\b(match|game|fixture|league|v\.?|vs\.?)\b"),
    ("practice", r"\b(practice|training|session)\b"),
    ("camp", r"\bcamp\b"),
    ("travel", r"\b(travel|flight|ferry|bus)\b"),
    ("exams", r"\bexams?\b"),
    ("holiday", r"\b(holidays?|break|vacation)\b"),
)


@dataclass(frozen=True)
class Found:
    """One happening read from a calendar. Days are local; `hour` and `minutes` where it has a time of day.

    `uid` is stable over updates; an occurrence of a recurring event carries its first day in it. `weekday` is set for a
    weekly event with a time of day, which stands once for all its weeks: `since` and `until` are its first and last day
    where it has them, `but_not` the days on which it falls out. `sequence` is the number of its version. `zone_words` say
    its hour where the calendar means it in another time zone.
    """

    uid: str
    name: str
    start: date
    end: date
    kind: str
    hour: float | None = None
    minutes: int | None = None
    weekday: int | None = None
    is_cancelled: bool = False
    since: date | None = None
    until: date | None = None
    but_not: tuple[date, ...] = ()
    sequence: int = 0
    zone_words: str = ""


@dataclass(frozen=True)
class Read:
    """What a calendar holds, and what could not be read, in words."""

    found: tuple[Found, ...]
    problems: tuple[str, ...]


def read_calendar(raw: bytes | str, today: date, zone: tzinfo) -> Read:
    """Return what lies ahead of `today` in an iCalendar file, in local days of `zone`.

    Raises `CoachError` for what is no calendar or too large. Recurring events are followed for 400 days.
    """
    text = raw if isinstance(raw, str) else raw.decode("utf-8", "replace")
    if len(text) > LARGEST_BYTES:
        raise CoachError("This calendar is too large.", where="file", accepted="Up to 2 MB are accepted.")
    try:
        calendars = Calendar.from_ical(text, multiple=True)
    except (ValueError, KeyError, IndexError, AttributeError, TypeError):
        calendars = []
    events = [e for c in calendars for e in c.walk("VEVENT")]
    if not calendars or any(c.name != "VCALENDAR" for c in calendars):
        raise CoachError("This is not a calendar.", where="file", accepted="An iCalendar file (.ics) is accepted.")
    if len(events) > MOST_EVENTS:
        raise CoachError("This calendar holds too many events.", where="file", accepted=f"Up to {MOST_EVENTS} are accepted.")
    found: list[Found] = []
    problems: list[str] = []
    left = Left(MOST_MOMENTS)
    moved = {(str(e.get("UID")), _day(e["RECURRENCE-ID"].dt, zone)) for e in events if "RECURRENCE-ID" in e and "UID" in e}
    for event in events:
        if str(event.get("UID", "")).startswith(f"{OWN_SESSION}-") and OWN_SESSION in _categories(event):
            continue
        try:
            found += _happenings(event, today, zone, moved, left)
        except CoachError:
            raise
        except NotFollowed as error:
            problems.append(f"“{_text(event, 'an event')}”: {error}")
        except (ValueError, KeyError, AttributeError, TypeError, OverflowError) as error:
            problems.append(f"“{_text(event, 'an event')}” could not be read: {type(error).__name__}.")
    return Read(tuple(sorted(_newest(found), key=lambda f: (f.start, f.name))), tuple(problems))


def _newest(found: Iterable[Found]) -> list[Found]:
    """The newest version of each uid, of two alike the last: a file may hold an event and its update."""
    newest: dict[str, Found] = {}
    for f in found:
        if f.uid not in newest or f.sequence >= newest[f.uid].sequence:
            newest[f.uid] = f
    return list(newest.values())


class NotFollowed(Exception):
    """An event recurs in a way that is not followed; the message says which."""


@dataclass
class Left:
    """How many moments of recurring events may still be counted."""

    moments: int

    def count(self) -> None:
        """One more; raises `CoachError` when it is one too many."""
        self.moments -= 1
        if self.moments < 0:
            raise CoachError(
                "The recurring events of this calendar go on for too long.",
                where="file",
                accepted="Events that began in these years are accepted.",
            )


def _text(event: Component, otherwise: str) -> str:
    return without_control(str(event.get("SUMMARY", ""))).strip()[:80] or otherwise


def _check_rule(rule: Any, start: date) -> None:
    """Raise `NotFollowed` for a rule that recurs more often than daily, or by what no calendar of a club recurs by."""
    often = str(rule.get("FREQ", [""])[0]).upper()
    by = {str(k).upper() for k in rule} - ANY_RULE
    if often not in RULE_PARTS or not by <= RULE_PARTS[often]:
        raise NotFollowed("it recurs more often than daily, or by a rule that is not followed. It is left out.")
    days = [int(d) for d in rule.get("BYMONTHDAY", [])]
    months = [int(m) for m in rule.get("BYMONTH", [])] or [start.month]
    ordinals = [re.sub(r"[A-Z+-]", "", str(d).upper()) for d in rule.get("BYDAY", [])]
    steps = int(rule.get("INTERVAL", [1])[0])
    never = (
        any(o and int(o) > 4 for o in ordinals)
        or any(not 1 <= abs(d) <= (28 if steps > 1 or 2 in months else 30) for d in days if often == "YEARLY" or steps > 1)
        or any(not 1 <= abs(d) <= 31 for d in days)
        or any(not 1 <= abs(int(p)) <= 4 for p in rule.get("BYSETPOS", []))
        or not 1 <= steps <= 60
    )
    if never:
        raise NotFollowed("it recurs on days that not every month or year has. It is left out.")


def _happenings(event: Component, today: date, zone: tzinfo, moved: set[tuple[str, date]], left: Left) -> list[Found]:
    if "DTSTART" not in event:
        raise ValueError("no start")
    start = event["DTSTART"].dt
    first, hour = _day(start, zone), _hour(start, zone)
    length, minutes = _length(event, start)
    name = _text(event, "Untitled")
    uid = str(event.get("UID", "")) or f"{name}@{first}"
    kind = guess_kind(name, _categories(event))
    cancelled = str(event.get("STATUS", "")).upper() == "CANCELLED"
    if "RECURRENCE-ID" in event:
        uid = f"{uid}@{_day(event['RECURRENCE-ID'].dt, zone)}"
    rule = event.get("RRULE")
    said = _zone_words(start, zone)
    told = Found(uid, name, first, first, kind, hour, minutes, None, cancelled, sequence=_sequence(event), zone_words=said)
    if rule is None:
        last = first + timedelta(days=length)
        return [replace(told, end=last)] if last >= today else []
    _check_rule(rule, first)
    moments = [m for m in _occurrences(event, start, rule, today, zone, left) if (uid, m.day) not in moved]
    weekly = str(rule.get("FREQ", [""])[0]).upper() == "WEEKLY" and int(rule.get("INTERVAL", [1])[0]) == 1
    if weekly and hour is not None and kind in ("practice", "unavailable") and moments:
        has_end = "UNTIL" in rule or "COUNT" in rule
        return _weekly(replace(told, kind="practice"), moments, None if first <= today else first, has_end=has_end)
    return [replace(told, uid=f"{uid}@{m.day}", start=m.day, end=m.day + timedelta(days=length), hour=m.hour) for m in moments]


class Moment(NamedTuple):
    """A local day, and the hour of it where there is one."""

    day: date
    hour: float | None


def _weekly(told: Found, moments: Sequence[Moment], since: date | None, *, has_end: bool) -> list[Found]:
    """A weekly event once for each weekday and hour: another hour, where clocks change elsewhere, begins a new one."""
    found: list[Found] = []
    for weekday in sorted({m.day.weekday() for m in moments}):
        runs = [list(run) for _, run in groupby((m for m in moments if m.day.weekday() == weekday), lambda m: m.hour)]
        for number, run in enumerate(runs):
            first, last = run[0].day, run[-1].day
            is_last = number == len(runs) - 1
            days = {m.day for m in run}
            between = (first + timedelta(days=7 * i) for i in range((last - first).days // 7))
            found.append(
                replace(
                    told,
                    uid=f"{told.uid}@w{weekday}" + (f"@{first}" if number else ""),
                    start=first,
                    end=last,
                    hour=run[0].hour,
                    weekday=weekday,
                    since=first if number or since is not None else None,
                    until=last if has_end or not is_last else None,
                    but_not=tuple(d for d in between if d not in days),
                )
            )
    return found


def _sequence(event: Component) -> int:
    try:
        return max(0, int(event.get("SEQUENCE", 0)))
    except (TypeError, ValueError):
        return 0


def _zone_words(start: date | datetime, zone: tzinfo) -> str:
    """The hour as the calendar means it, where that is another than the centre's."""
    if not isinstance(start, datetime) or start.tzinfo is None or start.utcoffset() == timedelta(0):
        return ""
    if start.utcoffset() == start.astimezone(zone).utcoffset():
        return ""
    return f"{start:%-H:%M} {start.tzinfo}"


def _occurrences(event: Component, start: date, rule: Any, today: date, zone: tzinfo, left: Left) -> list[Moment]:
    """Local days of a recurring event from today on: followed by the wall clock, so that a clock change moves nothing."""
    wall = datetime.combine(start, time()) if not isinstance(start, datetime) else start.replace(tzinfo=None)
    text = re.sub(r"UNTIL=(\d{8})(T\d{6})?(Z)?", lambda m: f"UNTIL={_last_wall(m, start):%Y%m%dT%H%M%S}", rule.to_ical().decode())
    until = today + timedelta(days=HORIZON_DAYS)
    out = {_day(x.dt, zone) for item in _many(event.get("EXDATE")) for x in item.dts}
    found: list[Moment] = []
    for moment in rrulestr(text, dtstart=wall):
        left.count()
        local = moment if not isinstance(start, datetime) or start.tzinfo is None else moment.replace(tzinfo=start.tzinfo)
        day = _day(local, zone)
        if day > until:
            break
        if day >= today and day not in out:
            found.append(Moment(day, _hour(local, zone) if isinstance(start, datetime) else None))
    return found


def _last_wall(said: re.Match[str], start: date) -> datetime:
    """The end of a rule by the clock of its start: a day alone is meant with all its hours, an hour in UTC is turned."""
    if said[2] is None:
        return datetime.strptime(f"{said[1]}T235959", "%Y%m%dT%H%M%S")
    last = datetime.strptime(said[1] + said[2], "%Y%m%dT%H%M%S")
    if said[3] and isinstance(start, datetime) and start.tzinfo is not None:
        return last.replace(tzinfo=UTC).astimezone(start.tzinfo).replace(tzinfo=None)
    return last


def _many(value: Any) -> list[Any]:
    return value if isinstance(value, list) else [] if value is None else [value]


def _day(value: date | datetime, zone: tzinfo) -> date:
    if isinstance(value, datetime):
        return value.astimezone(zone).date() if value.tzinfo is not None else value.date()
    return value


def _hour(value: date | datetime, zone: tzinfo) -> float | None:
    if not isinstance(value, datetime):
        return None
    local = value.astimezone(zone) if value.tzinfo is not None else value
    return local.hour + local.minute / 60


def _length(event: Component, start: date | datetime) -> tuple[int, int | None]:
    """Days beyond the first, and minutes for events with a time of day."""
    end = event["DTEND"].dt if "DTEND" in event else start + event["DURATION"].dt if "DURATION" in event else None
    if isinstance(start, datetime):
        if not isinstance(end, datetime):
            return 0, None
        minutes = round((end - start).total_seconds() / 60)
        return max(0, (end - timedelta(minutes=1)).date().toordinal() - start.date().toordinal()), max(0, minutes)
    if end is None or isinstance(end, datetime):
        return 0, None
    return max(0, (end - start).days - 1), None


def _categories(event: Component) -> list[str]:
    return [str(c).lower() for item in _many(event.get("CATEGORIES")) for c in getattr(item, "cats", [])]


def guess_kind(name: str, categories: Sequence[str] = ()) -> str:
    """Return the kind an event most likely is: by its category, else by its words, else unavailable."""
    named = next((c for c in categories if c in KINDS), None)
    if named is not None:
        return named
    return next((kind for kind, words in WORDS if re.search(words, name, re.IGNORECASE)), "unavailable")


@dataclass(frozen=True)
class Written:
    """One happening to write: all day unless it has an hour; weekly from `start` to `until` when `weekday` is set, but not
    on the days of `but_not`. A cancelled one is written as such, so that who took it in before takes it out again.
    """

    uid: str
    name: str
    kind: str
    start: date
    end: date
    hour: float | None = None
    minutes: int = 60
    weekday: int | None = None
    until: date | None = None
    note: str = ""
    but_not: tuple[date, ...] = ()
    sequence: int = 0
    is_cancelled: bool = False


def write_calendar(items: Iterable[Written], stamp: datetime, zone: tzinfo) -> bytes:
    """Return an iCalendar file. `stamp` is when it was written; times of day stand in `zone`."""
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    for item in items:
        event = Event()
        event.add("uid", item.uid)
        event.add("dtstamp", stamp)
        event.add("summary", item.name)
        event.add("sequence", item.sequence)
        if item.is_cancelled:
            event.add("status", "CANCELLED")
        event.add("categories", [item.kind.upper()])
        if item.note:
            event.add("description", item.note)
        if item.hour is None:
            event.add("dtstart", item.start)
            event.add("dtend", item.end + timedelta(days=1))
        else:
            clock = time(int(item.hour), round(60 * (item.hour % 1)) % 60)
            begins = datetime.combine(item.start, clock, tzinfo=zone)
            for day in item.but_not:
                event.add("exdate", datetime.combine(day, clock, tzinfo=zone))
            event.add("dtstart", begins)
            event.add("dtend", begins + timedelta(minutes=item.minutes))
        if item.weekday is not None:
            rule: dict[str, Any] = {"freq": "weekly"}
            if item.until is not None:
                rule["until"] = datetime.combine(item.until, time(23, 59), tzinfo=zone)
            event.add("rrule", rule)
        calendar.add_component(event)
    calendar.add_missing_timezones()
    written: bytes = calendar.to_ical()
    return written
