"""What is known of an athlete beside loads: faults, sides, build, style, past sports, goals, what tests have found."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from importlib import resources
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercises, own_in_use
from jarvok.core.marks.limiter import fault_kinds


class Because(StrEnum):
    """Where a wish comes from; in the order in which places are given out."""

    FAULT = "fault"
    LIMITER = "limiter"
    SIDE = "side"
    GOAL = "goal"
    STYLE = "style"
    BUILD = "build"
    SPORT = "sport"
    PAST = "past"
    FINDING = "finding"


BECAUSE_NAMES = {
    Because.FAULT: "technical fault",
    Because.LIMITER: "what limits a lift",
    Because.SIDE: "side difference",
    Because.GOAL: "goal",
    Because.STYLE: "style",
    Because.BUILD: "build",
    Because.SPORT: "trouble spot of the sport",
    Because.PAST: "past sport",
    Because.FINDING: "own test",
}


@dataclass(frozen=True)
class LiftFault:
    """A fault on record: the exercise it was seen in, and which fault."""

    exercise_id: str
    fault: str


@dataclass(frozen=True)
class StrengthLimit:
    """A lift that strength limits, by its ratio: the id among the limited lifts, and the evidence in words."""

    lift: str
    evidence: str


@dataclass(frozen=True)
class SideGap:
    """A difference between sides over the flag: what it was seen in, its region, the weaker side, and by how many per cent."""

    exercise_id: str
    region: str
    weaker: str
    behind_pct: float


@dataclass(frozen=True)
class Finding:
    """What a test of the athlete's own has found and the coach kept: jumps a set of an exercise."""

    exercise_id: str
    reps: int


@dataclass(frozen=True)
class FastLoad:
    """A lift done fast and the share of its max that was still fast in its last wave, in %; `words` say where from."""

    exercise_id: str
    pct: float
    words: str


@dataclass(frozen=True)
class LeadIn:
    """How sprints are the day after a lead-in day beside those after a day off: faster or slower, and where from in words."""

    is_faster: bool
    words: str


@dataclass(frozen=True)
class Known:
    """Everything known of an athlete that chooses exercises. `traits` are ids of the table; `declined` ids of needs that the
    coach does not want for this athlete.
    """

    sport: str = ""
    traits: frozenset[str] = frozenset()
    faults: tuple[LiftFault, ...] = ()
    sides: tuple[SideGap, ...] = ()
    stronger_side: str = ""
    findings: tuple[Finding, ...] = ()
    declined: frozenset[str] = frozenset()
    limits: tuple[StrengthLimit, ...] = ()
    moved: tuple[Preference, ...] = ()  # variations of which it was found that they moved their lifts
    fast: tuple[FastLoad, ...] = ()
    lead_in: LeadIn | None = None


@dataclass(frozen=True)
class Need:
    """Small work a week should hold `times` times, from `exercises` or `roles`, `first` before all others.

    `words` say why; `prepares` puts it into the warm-up; `before_match` keeps it so many days off a match; one that
    `may_miss` is not missed where the room has nothing for it; `unless_varied` is wanted only where the fault of that name
    has changed no lift of the week.
    """

    id: str
    because: Because
    words: tuple[str, ...]
    times: int
    text: str
    exercises: tuple[str, ...] = ()
    roles: tuple[str, ...] = ()
    first: str = ""
    prepares: bool = False
    before_match: int = 0
    may_miss: bool = False
    unless_varied: str = ""


@dataclass(frozen=True)
class Preference:
    """Exercises that come forward where a place is open, and why."""

    because: Because
    exercises: frozenset[str]
    words: str


@dataclass(frozen=True)
class Trait:
    """Something a coach may tick of an athlete; `sports` are the families of sports it belongs to, none: all."""

    id: str
    kind: Because
    name: str
    sports: tuple[str, ...]
    needs: tuple[Need, ...]
    prefers: tuple[Preference, ...]


@dataclass(frozen=True)
class SportFamily:
    """Sports with the same trouble spots."""

    id: str
    name: str
    sports: frozenset[str]
    needs: tuple[Need, ...]
    prefers: tuple[Preference, ...]


def _need(row: Mapping[str, Any], because: Because) -> Need:
    return Need(
        row["id"],
        because,
        (row["words"],),
        row["times"],
        row["text"],
        tuple(row.get("exercises", ())),
        tuple(row.get("roles", ())),
        row.get("first", ""),
        row.get("prepares", False),
        row.get("before_match", 0),
        row.get("may_miss", False),
    )


def _asked(row: Mapping[str, Any], because: Because) -> tuple[tuple[Need, ...], tuple[Preference, ...]]:
    needs = tuple(_need(n, because) for n in row["needs"])
    return needs, tuple(Preference(because, frozenset(p["exercises"]), p["words"]) for p in row["prefers"])


@lru_cache(maxsize=1)
def _tables() -> tuple[tuple[SportFamily, ...], dict[str, Trait]]:
    raw = json.loads(resources.files("jarvok.core.chooser").joinpath("data/traits.json").read_text("utf-8"))
    sports = tuple(SportFamily(s["id"], s["name"], frozenset(s["sports"]), *_asked(s, Because.SPORT)) for s in raw["sports"])
    traits = {
        t["id"]: Trait(t["id"], Because(t["kind"]), t["name"], tuple(t.get("sports", ())), *_asked(t, Because(t["kind"])))
        for t in raw["traits"]
    }
    return sports, traits


def family_of(sport: str) -> SportFamily | None:
    """Return the family of a sport, or None where nothing is known of it."""
    return next((f for f in _tables()[0] if sport.strip().lower() in f.sports), None)


def traits() -> dict[str, Trait]:
    """Return what a coach may tick of an athlete, by id."""
    return _tables()[1]


CONTRARY = (("long_legs", "short_legs"), ("long_arms", "short_arms"))


def check_traits(ticked: Sequence[str]) -> None:
    """Raise `CoachError` for something that cannot be ticked, or two things that exclude each other."""
    unknown = [t for t in ticked if t not in traits()]
    if unknown:
        names = ", ".join(t.name for t in traits().values())
        raise CoachError("That cannot be ticked of an athlete.", where="traits", accepted=names)
    for one, other in CONTRARY:
        if {one, other} <= set(ticked):
            words = f"{traits()[one].name} and {traits()[other].name.lower()} exclude each other."
            raise CoachError(words, where="traits", accepted="One of them.")


FAULTY_KINDS = frozenset({"strength", "classic", "ballistic", "jump", "throw", "run"})


def lifts_with_faults() -> tuple[tuple[Exercise, tuple[str, ...]], ...]:
    """Return the exercises a fault can be recorded for, main lifts first, each with the ids of its faults."""
    return _lifts_with_faults(own_in_use())


@lru_cache(maxsize=4)
def _lifts_with_faults(own: tuple[Exercise, ...]) -> tuple[tuple[Exercise, tuple[str, ...]], ...]:
    rows = [e for e in exercises().values() if e.same_lift == e.id and e.kind in FAULTY_KINDS]
    rows.sort(key=lambda e: (bool(e.variation_of) or e.kind not in ("strength", "classic"), e.name))
    found = ((e, tuple(k.id for k in fault_kinds().values() if k.can_be_of(e.pattern, e.kind))) for e in rows)
    return tuple(row for row in found if row[1])


def traits_for(sport: str) -> tuple[Trait, ...]:
    """Return the traits that an athlete of a sport can be asked about."""
    family = family_of(sport)
    return tuple(t for t in traits().values() if not t.sports or (family is not None and family.id in t.sports))
