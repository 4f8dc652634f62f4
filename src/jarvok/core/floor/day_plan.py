"""What plan A, B or C makes of a session's lines on the day. The plan as written stays as it is. Common practice."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from math import ceil, floor

from jarvok.core.exercises import Exercise
from jarvok.core.floor.readiness import Plan
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.quantities.plates import Implement, build
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import DEFAULT_RULES, Rules

EASY_SETS, EASY_REPS, EASY_ROUNDS = 3, 5, 2  # [J] plan C: enough for technique, nothing to recover from


class Less(StrEnum):
    """The two ways of plan B."""

    FEWER = "fewer"
    BY_FEEL = "by_feel"


LESS_WORDS = {
    Less.FEWER: "a third of the sets less, the quality kept",
    Less.BY_FEEL: "the sets as written; the last warm-up and the reserve set the load",
}


@dataclass(frozen=True)
class DayLine:
    """A line on the day: its sets as they will be done, and what was changed or why it is left out, in words."""

    sets: tuple[ResolvedSet, ...]
    change: str = ""
    left_out: bool = False


@dataclass(frozen=True)
class Written:
    """A line as written: exercise, implement, resolved sets, whether it is a main lift, the max in kg if known."""

    exercise: Exercise
    implement: Implement | None
    sets: tuple[ResolvedSet, ...]
    is_main: bool
    max_kg: float | None = None


def day_lines(
    lines: Sequence[Written],
    plan: Plan,
    less: Less = Less.FEWER,
    removed: frozenset[str] = frozenset(),
    unwell: bool = False,
    rules: Rules = DEFAULT_RULES,
    spared: frozenset[str] = frozenset(),
    restricted: frozenset[str] = frozenset(),
) -> tuple[DayLine, ...]:
    """Return the lines as they will be done today, one for each written line, in order.

    `removed` are patterns, regions or tags that pain takes out, whatever the plan; unwell takes out everything.
    `spared` are those that practice has worked today: a third of their sets less, also on plan A. `restricted` are those of a
    restriction, where a session was not planned with it in mind.
    """
    off = {**dict.fromkeys(restricted, "left out: restriction"), **dict.fromkeys(removed, "left out: pain")}
    return tuple(_day_line(line, plan, less, off, unwell, rules, spared) for line in lines)


def _day_line(
    line: Written, plan: Plan, less: Less, off: Mapping[str, str], unwell: bool, rules: Rules, spared: frozenset[str]
) -> DayLine:
    lift = line.exercise
    if unwell:
        return DayLine((), "unwell: no training today", left_out=True)
    why = next((off[x] for x in (lift.pattern, lift.region, *lift.tags) if x in off), "")
    if why:
        return DayLine((), why, left_out=True)
    if plan is Plan.B and less is Less.FEWER:
        return _fewer(line, rules)
    if plan is Plan.C:
        return _easy(line, rules)
    if spared & {lift.pattern, lift.region, *lift.tags}:
        found = _fewer(line, rules)
        return replace(found, change=f"{found.change}: worked by practice today") if found.change else found
    return DayLine(line.sets)


def _fewer(line: Written, rules: Rules) -> DayLine:
    cut = floor(len(line.sets) * rules["readiness.cut_pct"] / 100 + 0.5)
    kept = max(1, len(line.sets) - cut)
    if kept >= len(line.sets):
        return DayLine(line.sets)
    return DayLine(line.sets[:kept], f"{kept} of {counted(len(line.sets), 'set')}")


def _easy(line: Written, rules: Rules) -> DayLine:
    lift = line.exercise
    if lift.kind in ("jump", "throw", "run", "ballistic", "conditioning", "carry"):
        return DayLine((), "left out: not on an easy day", left_out=True)
    is_light = lift.kind in ("hold", "drill") or lift.pattern == "trunk" or not lift.is_loaded
    if is_light:
        kept = line.sets[:EASY_ROUNDS]
        return DayLine(kept, f"{len(kept)} of {counted(len(line.sets), 'set')}" if len(kept) < len(line.sets) else "")
    if not line.is_main:
        return DayLine((), "left out: not on an easy day", left_out=True)
    sets = tuple(_light(s, line, rules) for s in line.sets[:EASY_SETS])
    return DayLine(sets, f"technique, at most {rules['readiness.easy_pct']:g} %")


def _light(item: ResolvedSet, line: Written, rules: Rules) -> ResolvedSet:
    most = rules["readiness.easy_pct"] / 100
    load = item.load_kg
    if load is not None:
        share = item.share_of_max or (load / line.max_kg if line.max_kg else None)
        wanted = load * most if share is None else load * min(1.0, most / share)
        if line.implement is not None:
            lightest = build(0.0, line.implement).load_kg
            built = build(round(wanted, 2), line.implement, cap_kg=max(wanted, lightest))
            item = item._replace(load_kg=built.load_kg, per_side_kg=built.per_side_kg)
        else:
            item = item._replace(load_kg=float(ceil(wanted)))
    reps = min(item.reps, EASY_REPS) if item.reps else item.reps
    return item._replace(reps=reps, or_more=False, target_mps=None, target_rir=None, working=None)
