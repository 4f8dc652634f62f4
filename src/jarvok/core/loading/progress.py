"""Progress without a percentage: beat last week, longer holds, more contacts."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from jarvok.core.exercises import Exercise
from jarvok.core.loading.prescription import SetGroup
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.past import PastSession
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Source

# most contacts of a session by years of training: beginner, intermediate, advanced (Haff & Triplett 2016, from memory);
# where one ends and the next begins is [J]
CONTACT_CAPS: tuple[tuple[float, str, int], ...] = (
    (1.0, "a beginner", 100),
    (3.0, "an intermediate", 120),
    (float("inf"), "an advanced athlete", 140),
)
GROWING_KINDS = ("strength", "accessory", "hold")  # jumps and throws grow in quality, never by longer sets


@dataclass(frozen=True)
class Target:
    """What beats the last session: an amount, its unit (`s`, `contacts`, `reps`, `kg`), words and their source."""

    amount: float
    unit: str
    words: str
    source: Source = COMMON_PRACTICE


def next_hold_s(last: PastSession, planned_s: int, state: LiftState) -> Target:
    """Return the seconds to hold: the last ones plus a step when every hold was met, else the last again.

    How long the holds of the last session were is read from its line: a hold logged as done was held as written.
    """
    step_s = state.rules["load.hold_step_s"]
    met = all(s.reps >= 1 for s in last.sets)
    if met:
        return Target(planned_s + step_s, "s", f"{planned_s} s were held in every set: {planned_s + step_s:g} s beats it")
    return Target(planned_s, "s", f"not every hold of {planned_s} s was met: the same again")


def next_contacts(last_contacts: int | None, cap: int, rules: Rules = DEFAULT_RULES) -> Target:
    """Return the contacts of the next session: a share more than the last, never above the session's `cap`."""
    if last_contacts is None:
        return Target(cap, "contacts", f"up to {cap}: no earlier session")
    grown = round(last_contacts * (1 + rules["load.contacts_step_pct"] / 100))
    words = f"{last_contacts} last time, {grown} now" if grown <= cap else f"{last_contacts} last time, capped at {cap}"
    return Target(min(cap, grown), "contacts", words)


def contacts_of(lines: Iterable[tuple[Exercise, Sequence[SetGroup]]]) -> int:
    """Return the ground contacts that lines of jumps plan: repetitions of every set, both sides of a one-legged jump."""
    return sum(group.all_reps for lift, groups in lines if lift.kind == "jump" for group in groups)


def last_contacts(histories: Iterable[tuple[Exercise, Sequence[PastSession]]], before: date) -> tuple[date, int] | None:
    """Return the newest day before `before` with jumps and its contacts, from the past of each jump exercise."""
    by_day: dict[date, int] = {}
    for lift, history in histories:
        sides = 2 if lift.per_side else 1
        for session in history:
            if session.day < before:
                by_day[session.day] = by_day.get(session.day, 0) + sides * sum(s.reps for s in session.sets)
    day = max(by_day, default=None)
    return (day, by_day[day]) if day is not None else None


def contacts_words(planned: int, last: tuple[date, int] | None, training_age_years: float, rules: Rules = DEFAULT_RULES) -> str:
    """Return what a session's foot contacts are beside the last ones, the usual growth and the cap of the athlete's level."""
    _, level, cap = next(row for row in CONTACT_CAPS if training_age_years < row[0])
    target = next_contacts(last[1] if last else None, cap, rules)
    before = f"{last[1]} on {said_day(last[0])}" if last else "No jump history: start low"
    if target.amount >= cap:
        return f"{before}. {cap} is the ceiling for {level}; it is no target."
    return f"{before}. {target.amount:g} is the ceiling now, {cap} for {level}; neither is a target."


def beat_last(last: PastSession, state: LiftState) -> tuple[Target, Target | None]:
    """Return what beats a session in at least one set: one more repetition, or a little more load (None unloaded)."""
    best = max(last.sets, key=lambda s: ((s.load_kg or 0.0), s.reps))
    reps = Target(best.reps + 1, "reps", f"{best.reps + 1} reps in one set")
    if not best.load_kg:
        return reps, None
    load = best.load_kg * (1 + state.rules["load.beat_load_pct"] / 100)
    return reps, Target(load, "kg", f"{load:.1f} kg in one set, {state.rules['load.beat_load_pct']:g} % more")


def to_beat(group: SetGroup, state: LiftState) -> str:
    """Return in words what beats last time in a line without a percentage, or nothing where there is none to beat."""
    past = state.beside(group.load.hangs if group.load is not None else "").history
    last = past[-1] if past else None
    paced = group.load is not None and group.load.carries_progress
    if last is None or not last.sets or state.exercise.kind not in GROWING_KINDS or paced:
        return ""
    if group.seconds is not None:
        target = next_hold_s(last, _seconds_written(last) or group.seconds, state)
        return f"to beat last time: {target.amount:g} s"
    if group.metres is not None or group.reps is None:
        return ""
    reps, load = beat_last(last, state)
    or_load = f" or {load.amount:.1f} kg" if load is not None else ""
    return f"to beat last time: {reps.amount:g} reps{or_load} in one set"


def _seconds_written(last: PastSession) -> int | None:
    found = re.search(r"×\s*(\d+)\s*s\b", last.text)
    return int(found.group(1)) if found else None
