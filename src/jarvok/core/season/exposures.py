"""Last hard exposures worked back from a contest: what, when, at which share of the contest load, and what instead."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from functools import lru_cache
from importlib import resources
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import in_kg, in_unit
from jarvok.core.quantities.sentence import counted
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.working import COMMON_PRACTICE, Source

FROM_MEMORY = Source("M", "from memory")
CLASS_GAP_PCT = 2.0  # [J] a gap above this is more than a day's ordinary change of body mass
VERSION = 2  # [T] of a kept event
MOST_DAYS_EARLIER = 2  # [C] an exposure that cannot be on its days is done so much earlier, or left out
UNTRAINED, BESIDE_HARD = 10, 3  # [T] weights of a day without a session, and of one beside another hard exposure


@dataclass(frozen=True)
class ExposureRule:
    """One row: what is done, how many days out (nearest and farthest), at which share of the contest load in %.

    On a sheet it is `sets` of `reps` or `seconds`, or of what the event itself asks for; `exercise_ids` stand in where the
    row is not done with the event's own exercise.
    """

    what: str
    near_days: int
    far_days: int
    share_pct: tuple[float, float]
    instead: str
    novice_days: tuple[int, int] | None
    novice_skips: bool
    sets: int
    reps: int | None
    seconds: int | None
    exercise_ids: tuple[str, ...]
    takes_the_events_amount: bool


@dataclass(frozen=True)
class EventKind:
    """A kind of event with its last exposures, the farthest first, and what follows them.

    `lift` names what it belongs to (pull, squat, classic, or nothing), `exercise_ids` what it is done with where an event
    names no exercise of its own; `after_pct` is the most afterwards, in % of the contest load or the max (0: nothing).
    `amounts` are what such an event may say of itself: load, reps, metres, seconds.
    """

    id: str
    name: str
    kind: str
    rows: tuple[ExposureRule, ...]
    after: str
    source: Source
    lift: str
    exercise_ids: tuple[str, ...]
    after_pct: float
    amounts: tuple[str, ...]


class Standing(StrEnum):
    """How an athlete stands in an event: that decides how much of it is still trained."""

    USUAL = ""
    SURE = "sure"
    WORST = "worst"


STANDING_NAMES = {
    Standing.USUAL: "as usual",
    Standing.SURE: "sure: eased",
    Standing.WORST: "worst: no extra practice",
}


@dataclass(frozen=True)
class Event:
    """An event of a contest: its kind, a name of its own, the day (0 is the first), and the expected load in kg.

    `exercise_id` is what it is done with; `reps`, `distance_m` and `time_s` what it asks for (with a time, the repetitions
    are the score that wins, where it is known). `divisions` are the loads in kg of classes with implements of their own.
    """

    kind: str
    name: str = ""
    contest_day: int = 0
    load_kg: float | None = None
    exercise_id: str = ""
    reps: int | None = None
    distance_m: int | None = None
    time_s: int | None = None
    standing: Standing = Standing.USUAL
    divisions: tuple[tuple[str, float], ...] = ()

    def load_for(self, division: str) -> float | None:
        """The load in kg for a division, or the event's own where that one is not named."""
        return dict(self.divisions).get(division, self.load_kg)

    @property
    def pace_s(self) -> float | None:
        """Seconds a repetition at the score that wins in the time there is, or None where they are not both known."""
        return self.time_s / self.reps if self.time_s and self.reps else None

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> Event:
        """Return a kept event; what an earlier version did not know is left open."""
        return cls(
            raw["kind"],
            raw.get("name", ""),
            raw.get("contest_day", 0),
            raw.get("load_kg"),
            raw.get("exercise_id", ""),
            raw.get("reps"),
            raw.get("distance_m"),
            raw.get("time_s"),
            Standing(raw.get("standing", "")),
            tuple((str(name), float(kg)) for name, kg in raw.get("divisions", ())),
        )

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {
            "version": VERSION,
            "kind": self.kind,
            "name": self.name,
            "contest_day": self.contest_day,
            "load_kg": self.load_kg,
            "exercise_id": self.exercise_id,
            "reps": self.reps,
            "distance_m": self.distance_m,
            "time_s": self.time_s,
            "standing": self.standing.value,
            "divisions": [list(row) for row in self.divisions],
        }


DIVISION = re.compile(r"^(?P<name>.*?\S)\s+(?P<load>\d+(?:[.,]\d+)?)\s*(?P<unit>kg|lb)?$")


def typed_divisions(text: str, unit: str = "kg") -> tuple[tuple[str, float], ...]:
    """Return loads in kg by division from text such as "Open 200, Masters 160"; what names no unit is in `unit`.

    Raises `CoachError` for what cannot be read.
    """
    found: list[tuple[str, float]] = []
    for part in (p.strip() for p in re.split(r"[;\n]|,(?!\d)", text) if p.strip()):
        m = DIVISION.match(part)
        if m is None:
            raise CoachError(f"“{part}” is no division with its load.", where="events", accepted="Such as Open 200, Masters 160.")
        found.append((m["name"], in_kg(float(m["load"].replace(",", ".")), m["unit"] or unit)))
    return tuple(found)


def written_divisions(event: Event, unit: str = "kg") -> str:
    """Return the loads by division as they are typed, in `unit`."""
    return ", ".join(f"{name} {round(in_unit(kg, unit), 1):g}" for name, kg in event.divisions)


@dataclass(frozen=True)
class Exposure:
    """One exposure placed in the calendar. Loads in kg where the contest load is known; `first` and `last` bound the day.

    `id` names it within its contest; `is_left_out` says that no day could be found for it.
    """

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
    id: str
    rule: ExposureRule
    contested: Event
    contest_day: date
    is_left_out: bool = False


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
            raw["lift"],
            tuple(raw["exercises"]),
            float(raw["after_pct"]),
            tuple(raw["amounts"]),
        )
        for raw in _raw()["events"]
    }


def _rule(row: dict[str, Any]) -> ExposureRule:
    novice = (row["novice_near"], row["novice_far"]) if "novice_near" in row else None
    share = (row["share_low"], row["share_high"])
    return ExposureRule(
        row["what"],
        row["near"],
        row["far"],
        share,
        row["instead"],
        novice,
        row.get("novice_skip", False),
        row["sets"],
        row.get("reps"),
        row.get("seconds"),
        tuple(row.get("exercises", ())),
        row.get("amount") == "event",
    )


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


def _jobs(events: Sequence[Event], day: date, is_novice: bool) -> list[tuple[str, Event, ExposureRule, date, date, date]]:
    """Every exposure of the events: its id, event and rule, the event's day, and the first and last day of its window."""
    known = event_kinds()
    jobs = []
    for i, event in enumerate(events):
        if event.kind not in known:
            raise CoachError(
                "There is no such kind of event.", where="events", accepted=", ".join(k.name for k in known.values())
            )
        at = day + timedelta(days=event.contest_day)
        for j, rule in enumerate(known[event.kind].rows):
            if is_novice and rule.novice_skips:
                continue
            near, far = rule.novice_days if is_novice and rule.novice_days else (rule.near_days, rule.far_days)
            jobs.append((f"{i + 1}.{j + 1}", event, rule, at, at - timedelta(days=far), at - timedelta(days=near)))
    return jobs


def stagger(
    events: Sequence[Event],
    day: date,
    training_days: Sequence[int] = tuple(range(7)),
    spans: Sequence[Span] = (),
    weigh_in: date | None = None,
    *,
    is_novice: bool = False,
    dates: frozenset[date] | None = None,
    division: str = "",
) -> tuple[Exposure, ...]:
    """Return the exposures of every event worked back from the contest, in order of days.

    Each is placed on a training day inside its window where there is one (on one of `dates`, or on a training weekday,
    Monday is 0), away from travel and the day of the weigh-in, and no two hard exposures on neighbouring days while another
    day of the window is free. Where no day of the window can be, it is done up to two days earlier, else left out. Raises
    `CoachError` for an unknown kind of event.
    """
    taken: list[date] = []
    found: list[Exposure] = []
    jobs = _jobs(events, day, is_novice)
    place = _Placing(training_days, spans, weigh_in, taken, dates, day)
    for name, event, rule, at, first, last in sorted(jobs, key=lambda j: ((j[5] - j[4]).days, j[4])):
        chosen, note = place.best(first, last)
        if chosen is not None:
            taken.append(chosen)
        kind = event_kinds()[event.kind]
        load_kg = event.load_for(division)
        loads = (load_kg * rule.share_pct[0] / 100, load_kg * rule.share_pct[1] / 100) if load_kg else None
        found.append(
            Exposure(
                event=event.name or kind.name,
                what=rule.what,
                day=chosen or last,
                first=first,
                last=last,
                days_out=(at - (chosen or last)).days,
                share_pct=rule.share_pct,
                load_kg=loads,
                instead=rule.instead,
                note=note,
                source=kind.source,
                id=name,
                rule=rule,
                contested=event,
                contest_day=day,
                is_left_out=chosen is None,
            )
        )
    return tuple(sorted(found, key=lambda e: (e.day, e.event)))


@dataclass(frozen=True)
class _Placing:
    """What decides on which day of its window an exposure lies."""

    training_days: Sequence[int]
    spans: Sequence[Span]
    weigh_in: date | None
    taken: Sequence[date]
    dates: frozenset[date] | None
    contest_day: date

    def best(self, first: date, last: date) -> tuple[date | None, str]:
        """The best day of a window with what is to be said of it, or None where none can be."""
        window = [first + timedelta(days=i) for i in range((last - first).days + 1)]
        free = [d for d in window if not self._is_blocked(d)]
        if not free:
            earlier = (first - timedelta(days=i) for i in range(1, MOST_DAYS_EARLIER + 1))
            day = next((d for d in earlier if not self._is_blocked(d)), None)
            words = "travel, days away, the weigh-in or the competition itself on its days"
            return (day, f"{words}: done {(first - day).days} d earlier") if day is not None else (None, f"{words}: left out")
        chosen = min(free, key=lambda d: (self._cost(d), -(d - first).days))  # else late: less time to lose it
        if not self._trains(chosen):
            return chosen, "no training day lies in the window: move a session to it"
        return chosen, "beside another hard exposure" if self._neighbours(chosen) else ""

    def _is_blocked(self, day: date) -> bool:
        off = (SpanKind.TRAVEL, SpanKind.AWAY, SpanKind.HOLIDAY, SpanKind.ILL)
        return (
            day == self.weigh_in or day >= self.contest_day or any(s.start <= day <= s.end for s in self.spans if s.kind in off)
        )

    def _trains(self, day: date) -> bool:
        return day in self.dates if self.dates is not None else day.weekday() in self.training_days

    def _neighbours(self, day: date) -> int:
        return sum(1 for t in self.taken if abs((t - day).days) <= 1)

    def _cost(self, day: date) -> int:
        return UNTRAINED * (not self._trains(day)) + BESIDE_HARD * self._neighbours(day)


@dataclass(frozen=True)
class ClassGap:
    """How far a body mass is from a class limit, in kg (above 0 is over), and what is said of it."""

    gap_kg: float
    is_large: bool
    words: str


def class_gap(mass_kg: float, limit_kg: float, days_to_go: int | None = None, *, unit: str = "kg") -> ClassGap:
    """Return the gap to a class limit, said in a unit, with a warning where it is large. Mass is recorded, never planned down."""
    gap = mass_kg - limit_kg
    by = f"{in_unit(abs(gap), unit):.1f} {unit}"
    large = gap > CLASS_GAP_PCT / 100 * limit_kg
    when = f", {counted(days_to_go, 'day')} before the competition" if days_to_go is not None and gap > 0 else ""
    if gap <= 0:
        return ClassGap(gap, False, f"{by} under the limit.")
    if not large:
        return ClassGap(gap, False, f"{by} over the limit{when}.")
    words = f"{by} over the limit{when}: a matter for licensed professionals. No weight cut is planned here."
    return ClassGap(gap, True, words)
