"""Side by side: one prescription for one athlete, written and loaded by each of the eight methods."""

from __future__ import annotations

from dataclasses import replace
from typing import NamedTuple

from jarvok.core.equations import MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.experience import is_novice
from jarvok.core.loading.methods import METHOD_BY_KEY, METHODS
from jarvok.core.loading.methods.apre import Apre
from jarvok.core.loading.methods.reserve import reserve_at
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.resolve import ResolvedSet, resolve
from jarvok.core.loading.rule import Intent, LoadRule, Method
from jarvok.core.loading.state import LiftState
from jarvok.core.quantities.mass import to_a_tenth
from jarvok.core.quantities.plates import unit_of
from jarvok.core.rules import Rules


class Compared(NamedTuple):
    """One method's answer: the line as it writes it, its sets, and why it could not speak by its own facts."""

    method: Method
    line: Prescription | None
    sets: tuple[ResolvedSet, ...]
    is_current: bool
    speaks: bool
    missing: tuple[str, ...]
    remark: str = ""


def method_of(rule: LoadRule | None) -> str:
    """Return the key of the method a load rule belongs to, or an empty string."""
    return rule.method if rule is not None else ""


def intent_of(line: Prescription, state: LiftState, as_written: tuple[ResolvedSet, ...] | None = None) -> Intent:
    """Return what a line means, whatever method wrote it. Raises `CoachError` for lines without loaded repetitions.

    `as_written` are the sets of the line when the caller has resolved them already.
    """
    group = next((g for g in line.groups if g.reps and g.load is not None), None)
    if group is None or group.reps is None or not state.exercise.is_loaded:
        raise CoachError(
            f"{state.exercise.name} has no loaded repetitions here.",
            where="slot",
            accepted="Lines with sets, repetitions and a load can be compared.",
        )
    share = group.load.share_meant if group.load is not None else None
    if as_written is None:
        as_written = resolve(line, state, with_others=False)
    first = next((s for s in as_written if s.load_kg), None)
    if share is None and first is not None and first.share_of_max:
        share = first.share_of_max
    if isinstance(group.load, Apre):
        return Intent(group.load.rm, 1 / state.equation.ratio(group.load.rm), 0.0)
    if first is not None and first.target_rir is not None:
        return Intent(group.reps, share, first.target_rir)
    return Intent(group.reps, share, reserve_at(share, group.reps, state) if share else 2.0)


def express(line: Prescription, method_key: str, state: LiftState, intent: Intent | None = None) -> Prescription | None:
    """Return the line as another method would write it, as hard as it is; None when the method cannot write it."""
    intent = intent or intent_of(line, state)
    current = next((g for g in line.groups if g.load is not None), line.groups[0])
    if method_of(current.load) == method_key:
        return line
    method = METHOD_BY_KEY.get(method_key)
    if method is None:
        raise CoachError("There is no such method.", where="method")
    if method.lay_out is not None:
        return replace(line, groups=method.lay_out(intent), every_s=None, until_miss=False)
    if intent.share is None and intent.reps + intent.rir <= MOST_REPS:
        intent = intent._replace(share=1 / state.equation.ratio(intent.reps + intent.rir))
    rule = method.express(intent, state)
    if rule is None:
        return None
    sets, high = sum(g.sets for g in line.groups), intent.reps + method.reps_above if method.reps_above else None
    group = SetGroup(sets, reps=intent.reps, reps_high=high, per_side=current.per_side, load=rule)
    return replace(line, groups=(group,), until_miss=False)


def compare(line: Prescription, state: LiftState) -> tuple[Compared, ...]:
    """Return the line by each of the eight methods, in the order of the handbook's table."""
    as_written = resolve(line, state, with_others=False)
    intent = intent_of(line, state, as_written)
    current = method_of(next((g.load for g in line.groups if g.load is not None), None))
    found: list[Compared] = []
    for method in METHODS:
        written = express(line, method.key, state, intent)
        if written is None:
            found.append(Compared(method, None, (), False, False, (method.cannot(state),)))
            continue
        # what the others would say stands in the other rows
        sets = as_written if written is line else resolve(written, state, with_others=False)
        speaks = any(s.method == method.spoken and s.load_kg is not None for s in sets)
        missing = next((s.working.missing for s in sets if s.working and s.working.missing), ())
        remark = _remark(method, sets, intent, state.rules)
        found.append(Compared(method, written, sets, method.key == current, speaks, missing, remark))
    return tuple(found)


def _remark(method: Method, sets: tuple[ResolvedSet, ...], intent: Intent, rules: Rules) -> str:
    """Say when a method that looks back puts on clearly more or less than the line means."""
    share = max((s.share_of_max for s in sets if s.share_of_max), default=None)
    if share is None or intent.share is None or not method.may_miss_the_meaning:
        return ""
    if 100 * abs(share - intent.share) < rules["load.far_from_meant_pct"]:
        return ""
    word = "heavier" if share > intent.share else "lighter"
    shares = f"{100 * share:.0f} % of the max, not {100 * intent.share:.0f}"
    return f"{word.capitalize()} than meant: {shares}. Based on the last session only; this week's plan is not in it."


def suggest(line: Prescription, state: LiftState) -> tuple[str, str]:
    """Return the method to lean on for this athlete and lift today, and why. The coach decides. [J]"""
    answers = {c.method.key: c for c in compare(line, state)}
    if is_novice(state.training_age_years, state.rules):
        key = "linear" if answers["linear"].speaks else "percent"
        return key, "A beginner progresses on small steps; reps in reserve are not yet to be trusted."
    if answers["velocity"].speaks:
        return "velocity", "The velocity profile is reliable, so the velocity of the day sets the load."
    fresh_pct = state.rules["load.fresh_error_pct"]
    if (
        state.max is not None
        and 100 * state.max.error_kg / (state.max.value_kg + state.body_kg) <= fresh_pct
        and not state.related_max_from
    ):
        unit = unit_of(state.implement)
        known = f"The max is known to ± {to_a_tenth(state.max.error_kg, unit)} {unit}"
        return "percent", f"{known}; correct by reps in reserve on the floor."
    if state.max_kg is not None:
        return "reserve", "The max is not well known; reserve corrects itself from set to set."
    return ("linear", "No max yet: last load plus a step.") if answers["linear"].speaks else ("reserve", "Nothing is known yet.")
