"""The sessions of an athlete whose plan is done in order: where the order stands, by what was done."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.core.season.model import SeasonPlan, SeasonWeek
from jarvok.core.session.planned import PlannedSession
from jarvok.core.week.order import counts_days, places_in_order

Days = Callable[[SeasonWeek], tuple[tuple[str, date], ...]]
Arranged = Callable[[SeasonWeek], tuple[PlannedSession, ...]]
HasExposure = Callable[[SeasonWeek], bool]
_KNOWN = "known_order"
RECORDED_DAYS = 28  # [J] sessions recorded so short before an order show that they are recorded here
LATER = "in order: one that was missed comes first"
KEYS = "ABCDEFGHIJ"


@dataclass(frozen=True)
class Order:
    """A week done in order: its sessions, and the days of the order that were missed up to today.

    `waits` for a first session to be begun: where nothing is recorded, nothing is known to be missed.
    """

    sessions: tuple[PlannedSession, ...]
    missed: tuple[date, ...]
    waits: bool = False


def in_order(
    athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, since: date, days: Days, arranged: Arranged, has_exposure: HasExposure
) -> Order:
    """The week's sessions as the order has come to stand.

    `days` are the key and day of each session of a week, `arranged` the sessions themselves, both by their days: only those
    that come to lie in this week are arranged.
    """
    today = clock.today()
    recorded = [d for d in _begun(athlete) if d >= since - timedelta(days=RECORDED_DAYS)]
    if not recorded:
        return Order(arranged(week), (), waits=True)
    since = max(since, min(recorded))
    weeks = _weeks_of_order(plan, week, since, has_exposure)
    begun = _begun(athlete) if weeks else frozenset()
    so_far = [day for w in weeks if w.start <= today for _, day in days(w) if day >= since]
    missed = tuple(d for d, place in zip(so_far, places_in_order(so_far, begun, today), strict=True) if place is None)
    if not missed:
        return Order(arranged(week), ())
    slots = [(w, key, day) for w in weeks for key, day in days(w) if day >= since]
    places = places_in_order([day for _, _, day in slots], begun, today)
    found = [s for s in arranged(week) if s.day < since]
    for (w, _, day), place in zip(slots, places, strict=True):
        if w.start == week.start and place is not None:
            home, key, planned = slots[place]
            content = next(s for s in arranged(home) if s.key == key)
            taken = {s.key for s in found}
            own = key if key not in taken else next(k for k in KEYS if k not in taken)
            reason = content.day_reason if planned == day else LATER
            found.append(replace(content, key=own, day=day, day_reason=reason))
    return Order(tuple(found), missed)


def _weeks_of_order(plan: SeasonPlan, week: SeasonWeek, since: date, has_exposure: HasExposure) -> list[SeasonWeek]:
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
