"""Checks of a day that holds two sessions."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from datetime import date

from jarvok.core.checks.flag import Flag, Severity
from jarvok.core.checks.plan_views import SessionView, WeekView
from jarvok.core.working import COMMON_PRACTICE, Source

ROBINEAU = Source("P", "Robineau et al. 2016")
HOURS_APART = 6  # [P] Robineau et al. 2016, quoted from memory
TIRING_SETS = 4  # [J] heavy sets of a first session after which fast work comes tired


def _pairs(view: WeekView) -> Iterator[tuple[SessionView, SessionView]]:
    days: dict[date, list[SessionView]] = defaultdict(list)
    for s in view.sessions:
        days[s.day].append(s)
    yield from ((rows[0], rows[1]) for rows in days.values() if len(rows) > 1)


def gap_h(first: SessionView, second: SessionView) -> float | None:
    """Return the hours between the end of one session and the beginning of the next, None where nobody said when."""
    if first.begins_h is None or second.begins_h is None:
        return None
    return second.begins_h - first.begins_h - first.minutes / 60


def two_sessions(view: WeekView) -> Iterator[Flag]:
    """Two sessions of a day closer than six hours, or of no set time."""
    for first, second in _pairs(view):
        yield from _too_close(first, second)


def _too_close(first: SessionView, second: SessionView) -> Iterator[Flag]:
    mixed = (_is_strength(first) and _is_conditioning(second)) or (_is_conditioning(first) and _is_strength(second))
    both = _is_strength(first) and _is_strength(second)
    if not mixed and not both:
        return
    hours, what = gap_h(first, second), "Strength and conditioning" if mixed else "Two strength sessions"
    if hours is None:
        why = f"{what} on {first.day:%A}. Say when each begins: {HOURS_APART} hours apart are wanted, a day is better still."
        yield Flag("two-a-day", Severity.NOTE, "Two sessions, no hours.", why, ROBINEAU, second.where)
    elif hours < HOURS_APART:
        why = (
            f"{what} {max(0.0, hours):.1f} hours apart on {first.day:%A}; {HOURS_APART} are wanted, a day is better still. If it "
            "cannot be otherwise: strength first, conditioning 5 to 10 minutes."
        )
        yield Flag("two-a-day", Severity.THINK, "Two sessions too close.", why, ROBINEAU, second.where)


def fast_comes_second(view: WeekView) -> Iterator[Flag]:
    """Fast work in the second session of a day after heavy work in the first."""
    for first, second in _pairs(view):
        fast = [x for x in second.lines if x.is_fast and not x.prepares]
        if first.heavy_sets < TIRING_SETS or not fast:
            continue
        names = ", ".join(dict.fromkeys(x.exercise.name.lower() for x in fast))
        why = f"{first.heavy_sets} heavy sets stand in the first session of {first.day:%A}, then {names}. Fast work goes first."
        yield Flag("fast-second", Severity.THINK, "Fast work in the second session.", why, COMMON_PRACTICE, second.where)


def _is_strength(view: SessionView) -> bool:
    return any(x.is_heavy for x in view.lines)


def _is_conditioning(view: SessionView) -> bool:
    return any(x.exercise.kind == "conditioning" and x.exercise.cost != "low" and not x.prepares for x in view.lines)
