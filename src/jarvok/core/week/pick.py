"""Which exercise fills a slot: rotated without repeats, within what the athlete may and the room allows."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache

from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise, exercises, shipped
from jarvok.core.library.substitutes import Limits


def pool(role: str, limits: Limits) -> tuple[str, ...]:
    """Return the exercises of a role that the limits allow, the easiest to teach first."""
    known = exercises()
    return _shipped_pool(role, limits) if known is shipped() else _pool(role, limits, known.values())


@lru_cache(maxsize=8192)
def _shipped_pool(role: str, limits: Limits) -> tuple[str, ...]:
    return _pool(role, limits, shipped().values())


def _pool(role: str, limits: Limits, known: Iterable[Exercise]) -> tuple[str, ...]:
    rows: list[Exercise] = [e for e in known if role in e.roles and limits.allows(e)]
    return tuple(e.id for e in sorted(rows, key=lambda e: e.teaching))


def why_none(role: str, limits: Limits) -> str:
    """Return what keeps every exercise of a role out: restrictions where they alone do, else what is not here."""
    known = exercises()
    return _shipped_why_none(role, limits) if known is shipped() else _why_none(role, limits, known.values())


@lru_cache(maxsize=1024)
def _shipped_why_none(role: str, limits: Limits) -> str:
    return _why_none(role, limits, shipped().values())


def _why_none(role: str, limits: Limits, known: Iterable[Exercise]) -> str:
    rows = [e for e in known if role in e.roles]
    free = [e for e in rows if not limits.restricted & {e.pattern, e.region, *e.tags}]
    if rows and not free:
        return limits.why_not(rows[0])
    reasons = dict.fromkeys(why for e in free if (why := limits.why_not(e)))
    return "; ".join(list(reasons)[:MOST_REASONS]) or "nothing here for it"


MOST_REASONS = 2  # [T] more would not be read


def pick(
    role: str,
    limits: Limits,
    turn: int,
    faults: frozenset[str] = frozenset(),
    used: frozenset[str] = frozenset(),
    for_fault: bool = False,
    forward: Callable[[Exercise], int] | None = None,
) -> str | None:
    """Return the exercise whose turn it is, or None where nothing of the role can be done.

    The pool goes round: two turns in a row never give the same exercise unless it holds only one. With `for_fault` and a
    recorded fault, the pool is those that work on it; `forward` says how much an exercise comes forward by what is known of the
    athlete, and those that come forward most take turns among themselves. What is in `used` (the day's other lines) is passed
    over.
    """
    rows = pool(role, limits)
    if for_fault and faults:
        addressing = tuple(e for e in rows if faults & frozenset(exercise(e).faults))
        rows = addressing or rows
    elif forward is not None:
        rows = _foremost(rows, forward, used)
    if not rows:
        return None
    at = turn % len(rows)
    round_from = (*rows[at:], *rows[:at])
    return next((e for e in round_from if e not in used), None)


def _foremost(rows: tuple[str, ...], forward: Callable[[Exercise], int], used: frozenset[str]) -> tuple[str, ...]:
    points = {e: forward(exercise(e)) for e in rows if e not in used}
    most = max(points.values(), default=0)
    return tuple(e for e in points if points[e] == most) if most > 0 else rows
