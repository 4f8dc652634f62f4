"""How a day is written in a sentence: day or month first, as the reader is used to. The month is always a word."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date
from enum import StrEnum

from jarvok.core.errors import CoachError


class DayOrder(StrEnum):
    """What stands first where a day is written."""

    DAY_FIRST = "day first"
    MONTH_FIRST = "month first"


_order: ContextVar[DayOrder] = ContextVar("day order", default=DayOrder.DAY_FIRST)
_FORMS = {  # common practice: a day before its month, or after it with a comma before the year
    (DayOrder.DAY_FIRST, False): "%-d %b",
    (DayOrder.DAY_FIRST, True): "%-d %b %Y",
    (DayOrder.MONTH_FIRST, False): "%b %-d",
    (DayOrder.MONTH_FIRST, True): "%b %-d, %Y",
}


def order_of_days() -> DayOrder:
    """What stands first for whoever reads what is being said."""
    return _order.get()


@contextmanager
def days_written(order: DayOrder) -> Iterator[None]:
    """Days said within are written in an order."""
    token = _order.set(order)
    try:
        yield
    finally:
        _order.reset(token)


def day_order_named(text: str) -> DayOrder:
    """Return the order that a word names; raise `CoachError` for one that names none."""
    if text not in list(DayOrder):
        raise CoachError(f"“{text}” is no order of a date.", where="day_order", accepted=" or ".join(DayOrder) + ".")
    return DayOrder(text)


def said_day(day: date, *, weekday: bool = False, year: bool = False, is_long: bool = False) -> str:
    """Return a day as a sentence has it.

    >>> said_day(date(2026, 11, 4)), said_day(date(2026, 11, 4), weekday=True, year=True)
    ('4 Nov', 'Wed 4 Nov 2026')
    >>> with days_written(DayOrder.MONTH_FIRST):
    ...     said_day(date(2026, 11, 4)), said_day(date(2026, 11, 4), weekday=True, year=True, is_long=True)
    ('Nov 4', 'Wednesday November 4, 2026')
    """
    form = _FORMS[_order.get(), year]
    if is_long:
        form = form.replace("%b", "%B")
    if weekday:
        form = ("%A " if is_long else "%a ") + form
    return f"{day:{form}}"
