"""A day as it is typed into a field for finding: "12 dec", "12.12.", "2026-12-12", "fri", "tomorrow"."""

from __future__ import annotations

import re
from calendar import day_abbr, day_name, month_abbr
from datetime import date, timedelta

WEEKDAYS, FULL = [d.lower() for d in day_abbr], [d.lower() for d in day_name]
MONTHS = [m.lower() for m in month_abbr]  # the first is empty: January is 1
_ISO = re.compile(r"^(\d{4})-(\d{1,2})-(\d{1,2})$")
_POINTS = re.compile(r"^(\d{1,2})[./](\d{1,2})[./]?(\d{4})?$")
_WORDS = re.compile(r"^(\d{1,2})\.? ([a-z]{3})[a-z]*\.?(?: (\d{4}))?$")


def typed_day(text: str, today: date) -> date | None:
    """Return the day that a text is, None where it is none. Day before month; without a year the nearest to today.

    A weekday is the next one, today included.
    """
    text = " ".join(text.lower().split())
    if text in ("today", "tomorrow", "yesterday"):
        return today + timedelta(days={"today": 0, "tomorrow": 1, "yesterday": -1}[text])
    if text in (*WEEKDAYS, *FULL):
        return today + timedelta(days=(WEEKDAYS.index(text[:3]) - today.weekday()) % 7)
    if found := _ISO.match(text):
        return _made(int(found[1]), int(found[2]), int(found[3]))
    if found := _POINTS.match(text):
        return _near(found[3], int(found[2]), int(found[1]), today)
    if (found := _WORDS.match(text)) and found[2] in MONTHS[1:]:
        return _near(found[3], MONTHS.index(found[2]), int(found[1]), today)
    return None


def _near(year: str | None, month: int, day: int, today: date) -> date | None:
    if year is not None:
        return _made(int(year), month, day)
    made = [d for y in (today.year - 1, today.year, today.year + 1) if (d := _made(y, month, day)) is not None]
    return min(made, key=lambda d: abs((d - today).days), default=None)


def _made(year: int, month: int, day: int) -> date | None:
    try:
        return date(year, month, day)
    except ValueError:
        return None
