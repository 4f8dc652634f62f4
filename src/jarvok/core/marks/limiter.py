"""What limits a lift: five questions, the evidence for each, and what would change it. Guidance, all common practice.

The front squat is the worked case; the same questions serve for any main lift with its more loadable relative.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from importlib import resources
from typing import Literal

from jarvok.core.marks.past import PastSession
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Source

HEAVY_SINGLE_SHARE = 0.90  # common practice
LIMIT_SHARE = 0.95  # common practice
TAIL_DAYS = 10  # a limit lift leaves a tail of 7 to 10 days, common practice

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
class LiftFacts:
    """What is known of a limited lift: its max and its more loadable relative's in kg, faults, past sessions.

    `usual_share` is the usual share of the relative (0-1); `new_to_position` whether the lifter is new to the position;
    `singles_on` the days on which a single was tested.
    """

    lift: str
    max_kg: float
    relative: str
    relative_kg: float | None
    usual_share: float
    band: tuple[float, float]
    faults: tuple[FaultKind, ...]
    history: Sequence[PastSession]
    new_to_position: bool
    singles_on: tuple[date, ...] = ()
    rules: Rules = DEFAULT_RULES


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
    answers = [_strength(facts), _mobility(facts), _posture(facts), _skill(facts, day), _fatigue(facts, day)]
    return tuple(sorted(answers, key=lambda a: ORDER[a.verdict]))


def _share(facts: LiftFacts) -> float | None:
    return facts.max_kg / facts.relative_kg if facts.relative_kg else None


def _strength(facts: LiftFacts) -> Answer:
    share = _share(facts)
    suggests = (f"push the {facts.relative} first, it can be loaded more; it shows in the {facts.lift} after 3 to 4 weeks",)
    if share is None:
        return Answer("Leg strength", "not recorded", f"no max in the {facts.relative} to compare with", suggests)
    words = f"{100 * share:.0f} % of the {facts.relative}, usual {100 * facts.band[0]:.0f}–{100 * facts.band[1]:.0f} %"
    verdict: Verdict = "likely" if share > facts.band[1] else "possible" if share > facts.usual_share else "unlikely"
    said = f"the {facts.relative} is {'well' if verdict == 'unlikely' else 'not far enough'} ahead"
    return Answer("Leg strength", verdict, f"{words}: {said}", suggests)


def _of(facts: LiftFacts, question: str) -> tuple[FaultKind, ...]:
    return tuple(f for f in facts.faults if f.limits == question)


def _mobility(facts: LiftFacts) -> Answer:
    found, share = _of(facts, "mobility"), _share(facts)
    suggests = tuple(dict.fromkeys(a for f in found for a in f.addresses)) or ("daily mobility work for the position",)
    if found:
        return Answer("Mobility", "likely", "recorded: " + ", ".join(f.name.lower() for f in found), suggests)
    if share is not None and share < facts.band[0] and facts.new_to_position:
        words = f"{100 * share:.0f} % of a strong {facts.relative} in a lifter new to the position"
        return Answer("Mobility", "possible", words, suggests)
    return _not_recorded("Mobility", facts, "no restricted range is recorded", suggests)


def _not_recorded(question: str, facts: LiftFacts, words: str, suggests: tuple[str, ...]) -> Answer:
    """Nothing recorded says nothing; it is unlikely only where somebody has looked at the lift and recorded other faults."""
    if facts.faults:
        return Answer(question, "unlikely", f"{words}, other faults of the lift are", suggests)
    return Answer(question, "not recorded", f"{words}: look at the lift and record what you see", suggests)


def _posture(facts: LiftFacts) -> Answer:
    found = _of(facts, "posture")
    suggests = tuple(dict.fromkeys(a for f in found for a in f.addresses)) or ("strict rows and trunk work",)
    if found:
        return Answer("Posture", "likely", "recorded: " + ", ".join(f.name.lower() for f in found), suggests)
    return _not_recorded("Posture", facts, "no rounding or dropping chest is recorded", suggests)


def _skill(facts: LiftFacts, day: date) -> Answer:
    weeks = facts.rules["limiter.singles_weeks"]
    found = _of(facts, "skill")
    tested = sum(1 for tested_on in facts.singles_on if 0 <= (day - tested_on).days <= 7 * weeks)
    singles = tested + sum(
        1
        for session in facts.history
        if 0 <= (day - session.day).days <= 7 * weeks
        for item in session.sets
        if item.load_kg and item.reps == 1 and item.load_kg >= HEAVY_SINGLE_SHARE * facts.max_kg
    )
    suggests: tuple[str, ...] = ("bring singles in about 20 % earlier in the block than for other lifts",)
    suggests += tuple(dict.fromkeys(a for f in found for a in f.addresses))
    words = f"{singles} {'single' if singles == 1 else 'singles'} at 90 % or more in {weeks:g} weeks"
    if found:
        return Answer("Skill", "likely", "recorded: " + ", ".join(f.name.lower() for f in found) + f"; {words}", suggests)
    if not facts.history and not tested:
        return Answer("Skill", "not recorded", "no session and no single of the lift is recorded", suggests)
    return Answer("Skill", "possible" if singles < facts.rules["limiter.enough_singles"] else "unlikely", words, suggests)


def _fatigue(facts: LiftFacts, day: date) -> Answer:
    suggests = ("leave limit lifts out in season and in the last weeks; singles around 80 % and triples are fine",)
    limit = [
        s.day
        for s in facts.history
        if 0 <= (day - s.day).days <= TAIL_DAYS and any((i.load_kg or 0) >= LIMIT_SHARE * facts.max_kg for i in s.sets)
    ]
    if limit:
        ago = (day - max(limit)).days
        return Answer("Timing of fatigue", "likely", f"a limit lift {ago} days ago; its tail lasts 7 to 10 days", suggests)
    return Answer("Timing of fatigue", "unlikely", f"no lift at 95 % or more in the last {TAIL_DAYS} days", suggests)
