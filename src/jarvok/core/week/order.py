"""Sessions done in order: a round of the order holds the dose of a week, on whatever days its sessions come to lie.

Tapers, last heavy sessions and matches count days: weeks that hold them are done by their days, and an order begins anew
behind them.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import date

from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import PhaseKey, SeasonWeek


def counts_days(week: SeasonWeek, *, has_exposure: bool) -> bool:
    """Whether a week is done by its days in every plan: a taper, a match week, or one with a last heavy session in it."""
    return week.taper is not None or week.phase is PhaseKey.IN_SEASON or bool(week.matches) or has_exposure


def places_in_order(days: Sequence[date], done: Collection[date], today: date) -> tuple[int | None, ...]:
    """Return which session of an order lies on each of its days, from 0, both in order; None for a day that was missed.

    A session that was not done on its day before `today` is done on the next one; all behind it come one later.
    """
    found: list[int | None] = []
    place = 0
    for day in days:
        if day < today and day not in done:
            found.append(None)
            continue
        found.append(place)
        place += 1
    return tuple(found)


ORDER_WAITS = "Nothing is recorded yet: sessions lie on their days until the first one is begun on the floor."


def order_words(missed: Sequence[date]) -> str:
    """What missing sessions does to an order, in a sentence; nothing when none was missed."""
    if not missed:
        return ""
    last = said_day(missed[-1], weekday=True, is_long=True)
    if len(missed) == 1:
        return f"The session of {last} was missed: it is done next, and all behind it come one later."
    return (
        f"{len(missed)} sessions were missed, the last on {last}: they are done next, in order, and all behind them come later."
    )
