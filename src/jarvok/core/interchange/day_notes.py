"""What a coach writes on a day of the calendar: “match 19:00 away”, “camp 7–11”, “exam”, “practice tue 18:00 90 min RPE 7”."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, timedelta

from jarvok.core.errors import CoachError
from jarvok.core.interchange.fixtures import LONGEST_NAME, MONTHS
from jarvok.core.quantities.days import said_day
from jarvok.core.season.calendar import SPAN_NAMES, SpanKind
from jarvok.core.season.model import Rank

PRACTICE_MIN, PRACTICE_HARDNESS, PRACTICE_HOUR = 90, 6, 18.0  # [J] of a practice that does not say
LONGEST_NOTE = 160  # [T]
MOST_ROLLED_DAYS = 20  # [T] days without a month that run into the next one
HALF_DAY, LAST_HOUR, LAST_MINUTE = 12, 23, 59  # [T]
WEEK_DAYS, HALF_YEAR = 7, 6  # [T]
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
ACCEPTED = (
    "“match 19:00 away”, “camp 7–11”, “exam”, “off to 12 Dec”, “ill”, “competition Quay Cup”, “secondary Harbour Open” "
    "and “practice tue 18:00 90 min RPE 7” are read."
)
# the first word decides; ranks stand for competitions
FIRST_WORDS: tuple[tuple[str, str], ...] = (
    (r"match|game|fixture", "match"),
    (r"camp", "camp"),
    (r"travel|trip|ferry|flight|bus", "travel"),
    (r"exams?", "exams"),
    (r"holidays?|vacation", "holiday"),
    (r"off|away|unavailable|closed", "unavailable"),
    (r"ill|sick", "ill"),
    (r"practice|training", "practice"),
    (r"competition|main|secondary|train-through|maybe", "competition"),
)
RANK_WORDS = {"secondary": Rank.SECONDARY, "train-through": Rank.THROUGH, "maybe": Rank.MAYBE}
_HOUR = re.compile(r"(?<![\d:])(\d{1,2}):(\d{2})(?!\d)|(?<!\d)(\d{1,2})\s?(am|pm)\b", re.IGNORECASE)
_MONTH = rf"(?:{'|'.join(MONTHS)})[a-z]*\.?"
_FROM_TO = re.compile(
    rf"(?<!\d)(\d{{1,2}})(?:\s+({_MONTH}))?\s*(?:-|–|—|\bto\b|\buntil\b)\s*(\d{{1,2}})(?:\s+({_MONTH}))?(?![\d:])", re.IGNORECASE
)
_TO = re.compile(rf"\b(?:to|until)\s+(\d{{1,2}})(?:\s+({_MONTH}))?(?![\d:])", re.IGNORECASE)
_LONG_MONTHS = (
    "january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december",
)  # fmt: skip
_NAMED = "|".join(f"{m}|{m[:3]}" for m in _LONG_MONTHS)
_MONTH_FIRST = re.compile(  # but not where a day stands before the month, or the number is an hour or a length
    rf"(?<!\d)(?<!\d\s)\b({_NAMED})\.?\s+(\d{{1,2}})(?![\d:]|\s?(?:am|pm|days?|weeks?|min))", re.IGNORECASE
)
_DAYS = re.compile(r"(?<!\d)(\d{1,2})\s+days?\b", re.IGNORECASE)
_WEEKS = re.compile(r"(?<!\d)(\d{1,2})\s+weeks?\b", re.IGNORECASE)
_MINUTES = re.compile(r"(?<!\d)(\d{2,3})\s*min(?:utes)?\b", re.IGNORECASE)
_HARD = re.compile(r"\b(?:rpe|hard)\s*(\d{1,2})\b", re.IGNORECASE)
_WEEKDAY = re.compile(rf"\b({'|'.join(WEEKDAYS)})[a-z]*\b\.?", re.IGNORECASE)


@dataclass(frozen=True)
class DayNote:
    """What is written: a kind of the calendar, "practice" or "competition", its days, and what else it says.

    `weekday`, `minutes` and `hardness` are those of a weekly practice; `rank` that of a competition.
    """

    kind: str
    name: str
    start: date
    end: date
    hour: float | None = None
    weekday: int | None = None
    minutes: int = PRACTICE_MIN
    hardness: int = PRACTICE_HARDNESS
    rank: Rank = Rank.MAIN

    @property
    def words(self) -> str:
        """How it was understood, in a sentence."""
        when = said_day(self.start, weekday=True) + (f" to {said_day(self.end, weekday=True)}" if self.end > self.start else "")
        at = "" if self.hour is None else f", {clock_words(self.hour)}"
        if self.kind == "practice":
            day = WEEKDAY_NAMES[self.weekday or 0]
            return f"Practice every {day} from {said_day(self.start)}{at}, {self.minutes} min, RPE {self.hardness}."
        if self.kind == "competition":
            return f"{self.name}: {RANK_SAID[self.rank]}, {when}."
        kind = "Match" if self.kind == "match" else SPAN_NAMES[SpanKind(self.kind)]
        said = self.name if self.name.lower().startswith(kind.lower()) else f"{kind}: {self.name}"
        return f"{said}, {when}{at}."


WEEKDAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
RANK_SAID = {
    Rank.MAIN: "a main competition",
    Rank.SECONDARY: "a secondary competition",
    Rank.THROUGH: "a competition to train through",
    Rank.MAYBE: "a competition that is a maybe",
}


def clock_words(hour: float) -> str:
    """An hour of the day as people write it: 18.5 is 18:30."""
    return f"{int(hour)}:{round(60 * (hour % 1)) % 60:02d}"


def read_note(text: str, day: date) -> DayNote:
    """Return what is written on a day. Raises `CoachError`, with what would be read, for what is not understood."""
    text = " ".join(text.split())
    if len(text) > LONGEST_NOTE:
        raise CoachError("That is too long for a day.", where="text", accepted=f"Up to {LONGEST_NOTE} characters.")
    word, _, rest = text.partition(" ")
    kind = next((kind for words, kind in FIRST_WORDS if re.fullmatch(words, word.strip(",.:;"), re.IGNORECASE)), None)
    if kind is None:
        raise CoachError("It is not clear what that is." if text else "Nothing is written yet.", where="text", accepted=ACCEPTED)
    hour, rest = _hour_in(rest)
    if kind == "practice":
        return _practice(rest, day, hour)
    start, end, rest = _days_in(rest, day)
    name = re.sub(r"\s+", " ", rest).strip(" ,;:·–—-")
    if kind == "competition" and not name:
        raise CoachError("A competition needs a name.", where="text", accepted="Such as “competition Quay Cup”.")
    if kind == "match" and end != start:
        raise CoachError("A match is on one day.", where="text", accepted="Its day, or a competition of several days.")
    usual = "Match" if kind == "match" else "" if kind == "competition" else SPAN_NAMES[SpanKind(kind)]
    if kind == "match" and name:
        name = f"Match {name}" if re.match(r"(?:home|away)\b", name, re.IGNORECASE) else name
    if len(name) > LONGEST_NAME:
        raise CoachError("That name is too long.", where="text", accepted=f"Up to {LONGEST_NAME} characters.")
    rank = RANK_WORDS.get(word.lower(), Rank.MAIN)
    return DayNote(kind, name or usual, start, end, hour, rank=rank)


def _hour_in(text: str) -> tuple[float | None, str]:
    found = _HOUR.search(text)
    if found is None:
        return None, text
    hours = int(found[1] or found[3]) % (HALF_DAY if found[4] else 100) + (HALF_DAY if (found[4] or "").lower() == "pm" else 0)
    minutes = int(found[2] or 0)
    if hours > LAST_HOUR or minutes > LAST_MINUTE:
        raise CoachError(f"{found[0]} is no hour of the day.", where="text", accepted="0:00 to 23:59.")
    return hours + minutes / 60, text[: found.start()] + text[found.end() :]


def _practice(text: str, day: date, hour: float | None) -> DayNote:
    on, minutes, hard = _WEEKDAY.search(text), _MINUTES.search(text), _HARD.search(text)
    weekday = WEEKDAYS.index(on[1].lower()[:3]) if on else day.weekday()
    for found in (on, minutes, hard):
        text = text.replace(found[0], " ", 1) if found else text
    left = text.strip(" ,;:·–—-")
    if left:
        raise CoachError(
            f"“{left}” is not read in a practice.", where="text", accepted="Such as “practice tue 18:00 90 min RPE 7”."
        )
    first = day + timedelta(days=(weekday - day.weekday()) % 7)
    return DayNote(
        kind="practice", name="Practice", start=first, end=first, hour=PRACTICE_HOUR if hour is None else hour, weekday=weekday,
        minutes=int(minutes[1]) if minutes else PRACTICE_MIN, hardness=int(hard[1]) if hard else PRACTICE_HARDNESS,
    )  # fmt: skip


def _days_in(text: str, day: date) -> tuple[date, date, str]:
    """First and last day said in a text written on a day, and the text without them; the day itself where none is said.

    A day may stand before its month or after it.
    """
    text = _MONTH_FIRST.sub(r"\2 \1", text)
    found = _FROM_TO.search(text)
    if found is not None:
        end_month = found[4] or found[2]
        start = _day_of(int(found[1]), found[2] or found[4], day, found[0])
        end = _day_of(int(found[3]), end_month, start, found[0])
        if end < start and end_month is None:  # “28–3”: into the next month
            end = _day_of(int(found[3]), MONTHS[start.month % 12], start, found[0])
            if (end - start).days > MOST_ROLLED_DAYS:
                raise CoachError("It ends before it begins.", where="text", accepted="The first day, then the last.")
        return start, _later(start, end), text[: found.start()] + " " + text[found.end() :]
    until = _TO.search(text)
    if until is not None:
        end = _day_of(int(until[1]), until[2], day, until[0])
        if end < day and until[2] is None:
            end = _day_of(int(until[1]), MONTHS[day.month % 12], day, until[0])
        return day, _later(day, end), text[: until.start()] + " " + text[until.end() :]
    for pattern, many in ((_DAYS, 1), (_WEEKS, WEEK_DAYS)):
        length = pattern.search(text)
        if length is not None:
            end = day + timedelta(days=max(1, many * int(length[1])) - 1)
            return day, end, text[: length.start()] + " " + text[length.end() :]
    return day, day, text


def _later(start: date, end: date) -> date:
    if end < start:
        raise CoachError("It ends before it begins.", where="text", accepted="The first day, then the last.")
    return end


def _day_of(number: int, month: str | None, near: date, said: str) -> date:
    """A day of a month, in the year that lies at or after a day near it."""
    wanted = MONTHS.index(month[:3].lower()) + 1 if month else near.month
    year = near.year + (1 if wanted < near.month - HALF_YEAR else 0)
    try:
        return date(year, wanted, number)
    except ValueError:
        raise CoachError(f"“{said.strip()}” are no days of that month.", where="text", accepted=ACCEPTED) from None
