"""Checks of effort: what is left in reserve, failure, doses of the zones, max effort, and the rest that work needs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from jarvok.core.checks.fixes import rewrite, with_groups
from jarvok.core.checks.flag import Flag, Severity
from jarvok.core.checks.plan_views import LineView, SessionView
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.shorthand import parse
from jarvok.core.running.classes import sprint_rest_s
from jarvok.core.session.rests import BETWEEN_JUMP_SETS, RESTS
from jarvok.core.week.dose import dose_zone
from jarvok.core.working import COMMON_PRACTICE, Source

HAFF = Source("P", "Haff & Triplett 2016")
PRILEPIN = Source("P", "Prilepin's chart, as commonly reprinted")
OWN = Source("J", "Jarvok's default")
LEAST_JUMP_REST_S = 60  # [J] below it a short set of jumps is clearly hurried
HEAVY_SHARE = 0.85  # [C]
TYPING_ERROR_SHARE = 1.25  # [J] no lift is done at so much of its own max
LIMIT_SHARE = 0.97  # [J] from here a lift is a limit lift
SHORT_SET = 5  # [C] repetitions of a set short of failure that builds strength
FEW_SETS = 4  # [J] what a fix leaves of too many sets
SHORT_REST = 0.75  # [J] a rest under this share of the usual one is short
REST_STEP_S = 30  # [T] rests are written in half minutes
LEFT_IN_RESERVE = parse("1 × 5, 2 in reserve").groups[0].load  # [C] rep sets short of failure


def reserve_range(view: SessionView) -> Iterator[Flag]:
    """Reps in reserve above 12 repetitions or beyond 4 in reserve."""
    for line in view.lines:
        for g in line.prescription.groups:
            if g.load is not None and g.load.unreliable(g.reps or 0):
                why = "Athletes cannot count reps in reserve reliably above 12 repetitions or beyond 4 in reserve."
                yield Flag("rir-range", Severity.NOTE, f"{line.slot}: a rough guide only.", why, COMMON_PRACTICE, view.at(line))
                break


def failure_in_power_work(view: SessionView) -> Iterator[Flag]:
    """Sets to failure in fast work."""
    for line in view.lines:
        if (
            line.is_to_failure
            and line.exercise.kind in ("jump", "throw", "classic", "ballistic", "run")
            and not line.prescription.until_miss
        ):
            why = "Fast work ends when speed falls, long before failure."
            plain = with_groups(line, *(_short_of_failure(g) for g in line.prescription.groups))
            yield Flag(
                "failure-power",
                Severity.THINK,
                "To failure in fast work.",
                why,
                COMMON_PRACTICE,
                view.at(line),
                fix=rewrite(line, plain),
            )


def _short_of_failure(g: SetGroup) -> SetGroup:
    """The set with as many repetitions as written and no more; a load that ends at failure becomes one with some left."""
    ends = g.load is not None and g.load.is_to_failure
    return replace(g, or_more=False, load=LEFT_IN_RESERVE if ends else g.load)


def dose_outside_the_zone(view: SessionView) -> Iterator[Flag]:
    """A weightlifting lift with more or fewer lifts than its intensity zone holds; light weeks may hold fewer."""
    for line in view.lines:
        loads = [g.load for g in line.prescription.groups if isinstance(g.load, Percent)]
        if line.exercise.kind != "classic" or not line.is_main or len(loads) != len(line.prescription.groups):
            continue
        top = max(max(load.percents) for load in loads)
        zone = dose_zone(top)
        lifts = line.reps
        if lifts > zone.total[1] or max(g.reps or 0 for g in line.prescription.groups) > zone.reps[1]:
            why = (
                f"{lifts} lifts at {top:g} %: {zone.total[0]}–{zone.total[1]} in sets of "
                f"{zone.reps[0]}–{zone.reps[1]}, best {zone.best}."
            )
            reps = min(zone.reps[1], max(g.reps or 1 for g in line.prescription.groups))
            fewer = SetGroup(max(1, zone.best // reps), reps, load=Percent((top,)))
            yield Flag(
                "dose-high",
                Severity.THINK,
                "Too many lifts at this percentage.",
                why,
                PRILEPIN,
                view.at(line),
                fix=rewrite(line, with_groups(line, fewer)),
            )


def is_limit_work(line: LineView) -> bool:
    """Whether a line goes to the limit: built to it, to failure under a load, or near the max by its share."""
    return line.is_max_effort or (line.is_to_failure and line.exercise.is_loaded) or (line.share or 0) >= LIMIT_SHARE


def short_of_the_limit(line: LineView) -> Prescription:
    """Return the line in repetitions short of failure: for those whom limit work is not open to."""
    sets = SetGroup(min(FEW_SETS, line.total_sets), SHORT_SET, load=LEFT_IN_RESERVE)
    return replace(with_groups(line, sets), until_miss=False, drops=None)


def max_effort_safety(view: SessionView) -> Iterator[Flag]:
    """Max-effort and failure sets: the safety line, and a caution for those they are not open to."""
    for line in view.lines:
        if not is_limit_work(line):
            continue
        if (line.share or 0) > TYPING_ERROR_SHARE:
            title = f"{100 * (line.share or 0):.0f} % of the max."
            yield Flag(
                "typing-error", Severity.CAUTION, title, "Likely a slip of the hand: look at the load.", OWN, view.at(line)
            )
            continue
        if not view.may_max:
            why = f"{view.why_not_max}. Rep sets short of failure build the same athlete."
            yield Flag(
                "max-closed",
                Severity.CAUTION,
                "No max effort for this athlete today.",
                why,
                COMMON_PRACTICE,
                view.at(line),
                fix=rewrite(line, short_of_the_limit(line)),
            )
        else:
            why = "Spotters or safeties, collars, a clear platform. Without a spotter stop one short."
            yield Flag("max-safety", Severity.NOTE, "Near the limit.", why, COMMON_PRACTICE, view.at(line))


def rest_for_the_goal(view: SessionView) -> Iterator[Flag]:
    """A written rest too short for the goal; speed work with little rest is a method of its own."""
    for line in view.lines:
        rest_s = line.prescription.rest_s
        if rest_s is None or line.style.is_shared:
            continue
        least, wanted_s, goal = 0.0, 0, ""
        if line.is_heavy and (line.share or 0) >= HEAVY_SHARE:
            least, goal = RESTS["strength"].least_s, RESTS["strength"].words
            wanted_s = RESTS["strength"].least_s
        elif line.exercise.running == "speed" and line.exercise.cost == "high" and line.metres:
            far = max(g.metres or 0 for g in line.prescription.groups)
            least, goal = SHORT_REST * sprint_rest_s(far), "sprints: about 1 min per 10 m"
            wanted_s = sprint_rest_s(far)
        elif line.exercise.kind == "jump" and line.exercise.cost == "high" and not line.prepares:
            least, goal = LEAST_JUMP_REST_S, BETWEEN_JUMP_SETS.words
            wanted_s = BETWEEN_JUMP_SETS.least_s
        if rest_s < least:
            why = f"{rest_s // 60}:{rest_s % 60:02d} of rest. For {goal}."
            longer = replace(line.prescription, rest_s=-(-wanted_s // REST_STEP_S) * REST_STEP_S)
            yield Flag(
                "rest",
                Severity.NOTE,
                "The rest is short for the goal.",
                why,
                HAFF,
                view.at(line),
                fix=rewrite(line, longer),
            )
