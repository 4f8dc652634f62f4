"""The sessions of an athlete whose plan is done in order: where the order stands, by what was done."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.core.season.model import SeasonPlan, SeasonWeek
from jarvok.core.session.planned import PlannedSession
from jarvok.core.week.order import counts_days, places_in_order

Arranged = Callable[[SeasonWeek], tuple[PlannedSession, ...]]
_KNOWN = "known_order"
LATER = "in order: one that was missed comes first"
KEYS = "ABCDEFGHIJ"


@dataclass(frozen=True)
class Order:
    """A week done in order: its sessions, and the days of the order that were missed up to today."""

    sessions: tuple[PlannedSession, ...]
    missed: tuple[date, ...]


def in_order(
    athlete: Athlete,
    plan: SeasonPlan,
    week: SeasonWeek,
    since: date,
    arranged: Arranged,
    has_exposure: Callable[[SeasonWeek], bool],
) -> Order:
    """The week's sessions as the order has come to stand; `arranged` are the sessions of each week by their days."""
    weeks = _weeks_of_order(plan, week, since, has_exposure)
    if not weeks:
        return Order(arranged(week), ())
    slots = [(w, s) for w in weeks for s in arranged(w) if s.day >= since]
    before = tuple(s for s in arranged(week) if s.day < since)
    places = places_in_order([s.day for _, s in slots], _begun(athlete), clock.today())
    missed = tuple(s.day for (_, s), place in zip(slots, places, strict=True) if place is None)
    found = list(before)
    for (w, slot), place in zip(slots, places, strict=True):
        if w.start == week.start and place is not None:
            content = slots[place][1]
            taken = {s.key for s in found}
            key = content.key if content.key not in taken else next(k for k in KEYS if k not in taken)
            reason = slot.day_reason if content is slot else LATER
            found.append(replace(content, key=key, day=slot.day, day_reason=reason))
    return Order(tuple(found), missed)


def _weeks_of_order(
    plan: SeasonPlan, week: SeasonWeek, since: date, has_exposure: Callable[[SeasonWeek], bool]
) -> list[SeasonWeek]:
    """The weeks from which the order runs up to this one; none where this one counts days."""
    found: list[SeasonWeek] = []
    for w in reversed(plan.weeks[: week.index + 1]):
        if w.end < since or counts_days(w, has_exposure=has_exposure(w)):
            break
        found.append(w)
    return found[::-1]


def _begun(athlete: Athlete) -> frozenset[date]:
    """The days on which a session was begun, read once."""
    known: frozenset[date] | None = athlete.__dict__.get(_KNOWN)
    if known is None:
        known = frozenset(TrainingSession.objects.filter(athlete=athlete).values_list("day", flat=True))
        athlete.__dict__[_KNOWN] = known
    return known


def forget_order(athlete: Athlete) -> None:
    """Read anew from now on: a session was begun."""
    athlete.__dict__.pop(_KNOWN, None)
