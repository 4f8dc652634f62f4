"""A list of days as people paste it: one event a line, a day or two days and a name, in any order."""

from __future__ import annotations

import re
from datetime import date, timedelta
from typing import NamedTuple

from jarvok.core.errors import CoachError

MOST_LINES, LONGEST_NAME, LONGEST_TEXT, NAMED_LINES = 100, 80, 20_000, 5  # [T]
PAST_DAYS = 30  # [J] a day without a year this little past is meant as it stands, an earlier one next year
MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_ISO = r"(?P<y1>\d{4})-(?P<m1>\d{1,2})-(?P<d1>\d{1,2})"
_POINTS = r"(?P<d2>\d{1,2})[./](?P<m2>\d{1,2})(?:[./](?P<y2>\d{4})?)?(?!\d)"
_WORDS = rf"(?P<d3>\d{{1,2}})\.?\s+(?P<m3>{'|'.join(MONTHS)})[a-z]*\.?(?:,?\s+(?P<y3>\d{{4}}))?"
_DAY = re.compile(rf"(?<!\d)(?:{_ISO}|{_WORDS}|{_POINTS})", re.IGNORECASE)
_WEEKDAY = re.compile(r"\b(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,?", re.IGNORECASE)
_BETWEEN = re.compile(r"^\s*(?:-|–|—|to|until)\s*$", re.IGNORECASE)
ACCEPTED = "A day and a name, such as “5 Dec Harbour home”, “5.12.2026 Harbour home” or “2026-12-05 to 2026-12-07 Camp”."


class Fixture(NamedTuple):
    """One line: its number from 1, first and last day, and name."""

    line: int
    start: date
    end: date
    name: str


def read_list(text: str, today: date) -> tuple[Fixture, ...]:
    """Return the events of a pasted list, in its order; empty lines are passed over.

    A day without a year is the next one ahead, or one of the last thirty days. Raises `CoachError` that names every line which
    cannot be read, so that nothing of a list is taken in by halves.
    """
    if len(text) > LONGEST_TEXT:
        raise CoachError("The list is too long.", where="text", accepted=f"One event a line, up to {MOST_LINES}.")
    lines = [(n, line.strip()) for n, line in enumerate(text.splitlines(), start=1) if line.strip()]
    if not lines or len(lines) > MOST_LINES:
        raise CoachError("There is no list here.", where="text", accepted=f"One event a line, up to {MOST_LINES}. {ACCEPTED}")
    found: list[Fixture] = []
    wrong: list[str] = []
    for number, line in lines:
        fixture = _read(number, line, today)
        if fixture is None:
            wrong.append(f"line {number} (“{line[:40]}”)")
        else:
            found.append(fixture)
    if wrong:
        more = f" and {len(wrong) - NAMED_LINES} more" if len(wrong) > NAMED_LINES else ""
        which = ", ".join(wrong[:NAMED_LINES]) + more
        raise CoachError(f"Not read: {which}. Nothing was stored.", where="text", accepted=ACCEPTED)
    return tuple(found)


def _read(number: int, line: str, today: date) -> Fixture | None:
    matches = list(_DAY.finditer(line))[:2]
    if not matches:
        return None
    last = matches[-1] if len(matches) == 2 and _BETWEEN.match(line[matches[0].end() : matches[1].start()]) else matches[0]
    end = _day(last, today)
    # of two days a year written once, behind the second, is meant for both
    start = _day(matches[0], today, default_year=end.year if end is not None and last is not matches[0] else None)
    name = _WEEKDAY.sub(" ", line[: matches[0].start()] + " " + line[last.end() :])
    name = re.sub(r"\s+", " ", name).strip(" ,;:·–—-\t|")
    if start is None or end is None or end < start or not 1 <= len(name) <= LONGEST_NAME:
        return None
    return Fixture(number, start, end, name)


def _day(match: re.Match[str], today: date, default_year: int | None = None) -> date | None:
    found = match.groupdict()
    form = next(n for n in "123" if found[f"d{n}"])
    month, day, year = found[f"m{form}"], int(found[f"d{form}"]), found[f"y{form}"]
    number = int(month) if month.isdigit() else MONTHS.index(month[:3].lower()) + 1
    try:
        if year or default_year:
            return date(int(year) if year else default_year or today.year, number, day)
        this_year = date(today.year, number, day)
        return this_year if this_year >= today - timedelta(days=PAST_DAYS) else date(today.year + 1, number, day)
    except ValueError:
        return None
