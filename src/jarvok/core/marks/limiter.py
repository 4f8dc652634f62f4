"""What limits a lift: five questions, the evidence for each, and what would change it. Guidance, all common practice.

Each main lift has the five questions in its own words, held against its own relative.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from importlib import resources
from typing import Literal

from jarvok.core.marks.past import PastSession
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Source

HEAVY_SINGLE_SHARE = 0.90  # common practice
LIMIT_SHARE = 0.95  # common practice
PER_CENT = 100  # [T]

Verdict = Literal["likely", "possible", "not recorded", "unlikely"]
ORDER: dict[Verdict, int] = {"likely": 0, "possible": 1, "not recorded": 2, "unlikely": 3}


@dataclass(frozen=True)
class FaultKind:
    """A technical fault: its words, the patterns (and kinds, where named) of lifts it belongs to, the question it speaks to,
    and what addresses it.
    """

    id: str
    name: str
    patterns: tuple[str, ...]
    limits: str
    addresses: tuple[str, ...]
    kinds: tuple[str, ...] = ()

    def can_be_of(self, pattern: str, kind: str) -> bool:
        """Whether a lift of that pattern and kind can have it."""
        return pattern in self.patterns and (not self.kinds or kind in self.kinds)


@dataclass(frozen=True)
class Answer:
    """One question's verdict, the evidence in words, and what would change it."""

    question: str
    verdict: Verdict
    evidence: str
    suggests: tuple[str, ...]
    source: Source = COMMON_PRACTICE


@dataclass(frozen=True)
class Relative:
    """What a lift is held against, and the usual share of it: target, lowest and highest (0-1)."""

    exercise_id: str
    target: float
    low: float
    high: float


@dataclass(frozen=True)
class LimitedLift:
    """A main lift with its own five questions: whose max stands for it, its relatives, how many days a limit lift is felt,
    small work a week takes where strength limits, and what each question suggests.
    """

    id: str
    name: str
    measured_by: tuple[str, ...]
    relatives: tuple[Relative, ...]
    tail_days: int
    strength_name: str
    work: tuple[str, ...]
    suggests: Mapping[str, tuple[str, ...]]


@dataclass(frozen=True)
class LiftFacts:
    """What is known of a limited lift: its max and its relative's in kg, faults, past sessions.

    `relative_kg` is None where no relative has a max; `relative` is then the one that is asked for. `new_to_position` says
    whether the lifter is new to the position; `singles_on` the days on which a single was tested.
    """

    lift: LimitedLift
    max_kg: float
    relative: Relative
    relative_name: str
    relative_kg: float | None
    faults: tuple[FaultKind, ...]
    history: Sequence[PastSession]
    new_to_position: bool
    singles_on: tuple[date, ...] = ()
    rules: Rules = DEFAULT_RULES


@lru_cache(maxsize=1)
def limited_lifts() -> dict[str, LimitedLift]:
    """Return the lifts that have questions of their own, by id."""
    raw = json.loads(resources.files("jarvok.core.marks").joinpath("data/limiters.json").read_text("utf-8"))
    return {
        r["id"]: LimitedLift(
            r["id"], r["name"], tuple(r["measured_by"]),
            tuple(Relative(x["exercise"], *(part / PER_CENT for part in x["share"])) for x in r["relatives"]),
            r["tail_days"], r["strength"]["name"], tuple(r["work"]),
            {"strength": tuple(r["strength"]["does"]), **{k: tuple(r[k]) for k in ("mobility", "posture", "skill", "fatigue")}},
        )
        for r in raw["lifts"]
    }  # fmt: skip


def relative_of(lift: LimitedLift, known: Iterable[str]) -> tuple[Relative, bool]:
    """Return the first relative that has a max, or the first of all; and whether it has one."""
    have = frozenset(known)
    found = next((r for r in lift.relatives if r.exercise_id in have), None)
    return (found, True) if found is not None else (lift.relatives[0], False)


@lru_cache(maxsize=1)
def fault_kinds() -> dict[str, FaultKind]:
    """Return the faults a coach may record, by id."""
    raw = json.loads(resources.files("jarvok.core.marks").joinpath("data/faults.json").read_text("utf-8"))
    return {
        f["id"]: FaultKind(f["id"], f["name"], tuple(f["patterns"]), f["limits"], tuple(f["addresses"]), tuple(f["kinds"]))
        for f in raw["faults"]
    }


def limits(facts: LiftFacts, day: date) -> tuple[Answer, ...]:
    """Return the five questions answered, most likely limiter first."""
    answers = [
        strength(facts),
        _by_fault(facts, "Mobility"),
        _by_fault(facts, "Posture"),
        _skill(facts, day),
        _fatigue(facts, day),
    ]
    return tuple(sorted(answers, key=lambda a: ORDER[a.verdict]))


def _share(facts: LiftFacts) -> float | None:
    return facts.max_kg / facts.relative_kg if facts.relative_kg else None


def strength(facts: LiftFacts) -> Answer:
    """Return whether strength limits: the relative is not far enough ahead, or does not keep up."""
    share, band, name = _share(facts), facts.relative, facts.lift.strength_name
    suggests = tuple(s.format(relative=facts.relative_name) for s in facts.lift.suggests["strength"])
    if share is None:
        return Answer(name, "not recorded", f"no max in the {facts.relative_name} to compare with", suggests)
    words = f"{100 * share:.0f} % of the {facts.relative_name}, usual {100 * band.low:.0f}–{100 * band.high:.0f} %"
    verdict: Verdict = "likely" if share > band.high else "possible" if share > band.target else "unlikely"
    said = f"the {facts.relative_name} is {'well' if verdict == 'unlikely' else 'not far enough'} ahead"
    if band.target > 1:  # held against a lift that takes less
        said = f"the {facts.relative_name} {'keeps up' if verdict == 'unlikely' else 'does not keep up'}"
    return Answer(name, verdict, f"{words}: {said}", suggests)


def _of(facts: LiftFacts, question: str) -> tuple[FaultKind, ...]:
    return tuple(f for f in facts.faults if f.limits == question)


UNSEEN = {"Mobility": "no restricted range is recorded", "Posture": "no rounding or dropping chest is recorded"}


def _by_fault(facts: LiftFacts, question: str) -> Answer:
    """Mobility and posture are seen, not measured: by faults on record, or by a strong relative in a newcomer's position."""
    key = question.lower()
    found, share = _of(facts, key), _share(facts)
    suggests = tuple(dict.fromkeys((*(a for f in found for a in f.addresses), *facts.lift.suggests[key])))
    if found:
        return Answer(question, "likely", "recorded: " + ", ".join(f.name.lower() for f in found), suggests)
    if question == "Mobility" and share is not None and share < facts.relative.low and facts.new_to_position:
        words = f"{100 * share:.0f} % of a strong {facts.relative_name} in a lifter new to the position"
        return Answer(question, "possible", words, suggests)
    return _not_recorded(question, facts, UNSEEN[question], suggests)


def _not_recorded(question: str, facts: LiftFacts, words: str, suggests: tuple[str, ...]) -> Answer:
    """Nothing recorded says nothing; it is unlikely only where somebody has looked at the lift and recorded other faults."""
    if facts.faults:
        return Answer(question, "unlikely", f"{words}, other faults of the lift are", suggests)
    return Answer(question, "not recorded", f"{words}: look at the lift and note what you see", suggests)


def _skill(facts: LiftFacts, day: date) -> Answer:
    weeks = facts.rules["limiter.singles_weeks"]
    found = _of(facts, "skill")
    tested = sum(1 for tested_on in facts.singles_on if 0 <= (day - tested_on).days <= 7 * weeks)
    singles = tested + sum(
        1
        for session in facts.history
        if 0 <= (day - session.day).days <= 7 * weeks and not session.hung
        for item in session.sets
        if item.load_kg and item.reps == 1 and item.load_kg >= HEAVY_SINGLE_SHARE * facts.max_kg
    )
    suggests = tuple(dict.fromkeys((*facts.lift.suggests["skill"], *(a for f in found for a in f.addresses))))
    words = f"{singles} {'single' if singles == 1 else 'singles'} at 90 % or more in {weeks:g} weeks"
    if found:
        return Answer("Skill", "likely", "recorded: " + ", ".join(f.name.lower() for f in found) + f"; {words}", suggests)
    if not facts.history and not tested:
        return Answer("Skill", "not recorded", "no session and no single of the lift is recorded", suggests)
    return Answer("Skill", "possible" if singles < facts.rules["limiter.enough_singles"] else "unlikely", words, suggests)


def _fatigue(facts: LiftFacts, day: date) -> Answer:
    tail = facts.lift.tail_days
    suggests = facts.lift.suggests["fatigue"]
    limit = [
        s.day
        for s in facts.history
        if 0 <= (day - s.day).days <= tail and not s.hung and any((i.load_kg or 0) >= LIMIT_SHARE * facts.max_kg for i in s.sets)
    ]
    limit += [tested_on for tested_on in facts.singles_on if 0 <= (day - tested_on).days <= tail]
    if limit:
        ago = (day - max(limit)).days
        return Answer(
            "Timing of fatigue", "likely", f"max effort {counted(ago, 'day')} ago; it is felt for up to {tail} days", suggests
        )
    if not facts.history and not facts.singles_on:
        return Answer("Timing of fatigue", "not recorded", "no session and no single of the lift is recorded", suggests)
    return Answer("Timing of fatigue", "unlikely", f"no lift at 95 % or more in the last {tail} days", suggests)
