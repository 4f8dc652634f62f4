"""Last hard exposures worked back from a contest: what, when, at which share of the contest load, and what instead."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from importlib import resources
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.working import COMMON_PRACTICE, Source

FROM_MEMORY = Source("M", "from memory")
CLASS_GAP_PCT = 2.0  # [J] a gap above this is more than a day's ordinary change of body mass
VERSION = 1  # [T] of a kept event
BESIDE_HARD = 3  # [T] weight of a day beside another hard exposure


@dataclass(frozen=True)
class ExposureRule:
    """One row: what is done, how many days out (nearest and farthest), at which share of the contest load in %."""

    what: str
    near_days: int
    far_days: int
    share_pct: tuple[float, float]
    instead: str
    novice_days: tuple[int, int] | None
    novice_skips: bool


@dataclass(frozen=True)
class EventKind:
    """A kind of event with its last exposures, the farthest first, and what follows them."""

    id: str
    name: str
    kind: str
    rows: tuple[ExposureRule, ...]
    after: str
    source: Source


@dataclass(frozen=True)
class Event:
    """An event of a contest: its kind, a name of its own, the day (0 is the first), and the expected load in kg."""

    kind: str
    name: str = ""
    contest_day: int = 0
    load_kg: float | None = None

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> Event:
        """Return a kept event; those from before versions say the same."""
        return cls(raw["kind"], raw.get("name", ""), raw.get("contest_day", 0), raw.get("load_kg"))

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {
            "version": VERSION,
            "kind": self.kind,
            "name": self.name,
            "contest_day": self.contest_day,
            "load_kg": self.load_kg,
        }


@dataclass(frozen=True)
class Exposure:
    """One exposure placed in the calendar. Loads in kg where the contest load is known; `first` and `last` bound the day."""

    event: str
    what: str
    day: date
    first: date
    last: date
    days_out: int
    share_pct: tuple[float, float]
    load_kg: tuple[float, float] | None
    instead: str
    note: str
    source: Source


@lru_cache(maxsize=1)
def _raw() -> dict[str, Any]:
    text = resources.files("jarvok.core.season").joinpath("data/exposures.json").read_text("utf-8")
    found: dict[str, Any] = json.loads(text)
    return found


@lru_cache(maxsize=1)
def event_kinds() -> dict[str, EventKind]:
    """Return the kinds of events by id, in the order of the table."""
    return {
        raw["id"]: EventKind(
            raw["id"],
            raw["name"],
            raw["kind"],
            tuple(_rule(row) for row in raw["rows"]),
            raw["after"],
            COMMON_PRACTICE if raw["mark"] == "C" else FROM_MEMORY,
        )
        for raw in _raw()["events"]
    }


def _rule(row: dict[str, Any]) -> ExposureRule:
    novice = (row["novice_near"], row["novice_far"]) if "novice_near" in row else None
    share = (row["share_low"], row["share_high"])
    return ExposureRule(row["what"], row["near"], row["far"], share, row["instead"], novice, row.get("novice_skip", False))


def last_session_days_out(kinds: Sequence[str]) -> tuple[int, int]:
    """Return how many days before the contest the last session of any size lies: nearest and farthest, for event kinds."""
    table: dict[str, list[int]] = _raw()["last_session"]
    known = event_kinds()
    rows = [table[known[k].kind] for k in kinds if k in known] or [[2, 4]]  # [J]
    return max(r[0] for r in rows), max(r[1] for r in rows)


def drop_uncontested_days_out() -> tuple[int, int]:
    """Return when a lift that is not contested makes room: days before the contest, common practice."""
    near, far = _raw()["drop_uncontested_days"]
    return near, far


def stagger(
    events: Sequence[Event],
    day: date,
    training_days: Sequence[int] = tuple(range(7)),
    spans: Sequence[Span] = (),
    weigh_in: date | None = None,
    *,
    is_novice: bool = False,
) -> tuple[Exposure, ...]:
    """Return the exposures of every event worked back from the contest, in order of days.

    Each is placed on a training weekday (Monday is 0) inside its window where there is one, away from travel and the day
    of the weigh-in, and no two hard exposures on neighbouring days while another day of the window is free. Raises
    `CoachError` for an unknown kind of event.
    """
    known = event_kinds()
    taken: list[date] = []
    found: list[Exposure] = []
    jobs: list[tuple[Event, ExposureRule, date, date, date]] = []
    for event in events:
        if event.kind not in known:
            raise CoachError(
                "There is no such kind of event.", where="events", accepted=", ".join(k.name for k in known.values())
            )
        at = day + timedelta(days=event.contest_day)
        for rule in known[event.kind].rows:
            if is_novice and rule.novice_skips:
                continue
            near, far = rule.novice_days if is_novice and rule.novice_days else (rule.near_days, rule.far_days)
            jobs.append((event, rule, at, at - timedelta(days=far), at - timedelta(days=near)))
    for event, rule, at, first, last in sorted(jobs, key=lambda j: ((j[4] - j[3]).days, j[3])):
        chosen, note = _place(first, last, training_days, spans, weigh_in, taken)
        taken.append(chosen)
        kind = known[event.kind]
        loads = (event.load_kg * rule.share_pct[0] / 100, event.load_kg * rule.share_pct[1] / 100) if event.load_kg else None
        found.append(
            Exposure(
                event=event.name or kind.name,
                what=rule.what,
                day=chosen,
                first=first,
                last=last,
                days_out=(at - chosen).days,
                share_pct=rule.share_pct,
                load_kg=loads,
                instead=rule.instead,
                note=note,
                source=kind.source,
            )
        )
    return tuple(sorted(found, key=lambda e: (e.day, e.event)))


def _place(
    first: date, last: date, training_days: Sequence[int], spans: Sequence[Span], weigh_in: date | None, taken: Sequence[date]
) -> tuple[date, str]:
    window = [first + timedelta(days=i) for i in range((last - first).days + 1)]

    def cost(day: date) -> tuple[int, int]:
        blocked = any(s.start <= day <= s.end and s.kind in (SpanKind.TRAVEL, SpanKind.AWAY, SpanKind.HOLIDAY) for s in spans)
        near = sum(1 for t in taken if abs((t - day).days) <= 1)
        value = 100 * (blocked or day == weigh_in) + 10 * (day.weekday() not in training_days) + BESIDE_HARD * near
        return value, -(day - first).days  # else as late as it may be: less time to lose it

    best = min(window, key=cost)
    value = cost(best)[0]
    if value >= 100:
        return best, "falls on travel or days away: do it before, lighter, or leave it out"
    if value >= 10:
        return best, "no training day lies in the window: move a session to it"
    return best, "beside another hard exposure" if value >= BESIDE_HARD else ""


@dataclass(frozen=True)
class ClassGap:
    """How far a body mass is from a class limit, in kg (above 0 is over), and what is said of it."""

    gap_kg: float
    is_large: bool
    words: str


def class_gap(mass_kg: float, limit_kg: float, days_to_go: int | None = None) -> ClassGap:
    """Return the gap to a class limit with a warning where it is large. Mass is recorded, never planned down."""
    gap = mass_kg - limit_kg
    large = gap > CLASS_GAP_PCT / 100 * limit_kg
    when = f" with {days_to_go} days to go" if days_to_go is not None and gap > 0 else ""
    if gap <= 0:
        return ClassGap(gap, False, f"{-gap:.1f} kg under the limit.")
    if not large:
        return ClassGap(gap, False, f"{gap:.1f} kg over the limit{when}.")
    words = f"{gap:.1f} kg over the limit{when}: a matter for licensed professionals. No weight cut is planned here."
    return ClassGap(gap, True, words)
