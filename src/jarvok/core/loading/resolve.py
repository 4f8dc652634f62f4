"""The one way to set a load: a prescription, an athlete's state in one lift and a day give kilograms with a working.

The rule as written is tried first; where a fact is missing the chain goes velocity, percent, rep-max, effort, and the
working says so. `Resolution.method` names the rule that gave the load in the end.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from jarvok.core.library.exercises import Exercise
from jarvok.core.loading.prescription import (
    FixedLoad,
    LoadRule,
    Percent,
    PercentRange,
    Prescription,
    Reserve,
    Rpe,
    SetGroup,
    VelocityTarget,
)
from jarvok.core.marks.effort import rir_for_rpe
from jarvok.core.marks.equations import DEFAULT_EQUATION, Equation
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.quantities.mass import format_kg
from jarvok.core.quantities.plates import Barbell, FixedSteps, Implement, build
from jarvok.core.velocity.profile import Profile, general_share_for_velocity
from jarvok.core.velocity.zones import LOSS_LIMIT_PCT
from jarvok.core.working import COMMON_PRACTICE, Input, Source, Working

OUTSIDE_PROFILE = 0.10  # [J] a load more than 10 % of the max outside the tested loads is said to be extrapolated
DEFAULT_STOP_PCT = LOSS_LIMIT_PCT["strength"]


@dataclass(frozen=True)
class LiftState:
    """What is known of one athlete in one exercise on one day.

    `related_max_from` names the lift a max was inferred from, when it is not the exercise's own.
    """

    exercise: Exercise
    implement: Implement | None = None
    max: CurrentMax | None = None
    related_max_from: str = ""
    related_ratio: float = 1.0
    profile: Profile | None = None
    equation: Equation = field(default=DEFAULT_EQUATION)

    @property
    def max_kg(self) -> float | None:
        """The max to plan from in kg, own or inferred."""
        return self.max.value_kg * self.related_ratio if self.max else None


@dataclass(frozen=True)
class ResolvedSet:
    """One set for one athlete. Loads in kg, velocities in m/s; None where the set has none.

    `wanted_kg` is the load before it was rounded to what can be built.
    """

    index: int
    reps: int | None
    or_more: bool
    seconds: int | None
    metres: int | None
    per_side: bool
    load_kg: float | None
    wanted_kg: float | None
    per_side_kg: tuple[float, ...]
    share_of_max: float | None
    target_mps: tuple[float, float] | None
    target_is_peak: bool
    target_rir: float | None
    stop_loss_pct: float | None
    method: str
    working: Working | None


@dataclass(frozen=True)
class _Wanted:
    load_kg: float | None
    method: str
    rule: str
    source: Source
    inputs: tuple[Input, ...] = ()
    missing: tuple[str, ...] = ()
    caution: str = ""


def default_implement(exercise: Exercise) -> Implement | None:
    """Return the usual implement of an exercise in a furnished room; None for unloaded ones."""
    match exercise.implement:
        case "barbell":
            return Barbell(bar_kg=exercise.bar_kg)
        case "dumbbell" | "kettlebell":
            return FixedSteps(4.0, 50.0, 2.0)
        case "cable" | "belt":
            return FixedSteps(2.5, 100.0, 2.5)
        case _:
            return None


def resolve(prescription: Prescription, state: LiftState) -> tuple[ResolvedSet, ...]:
    """Return every set of the line with its load, plates and working, in order."""
    found: list[ResolvedSet] = []
    cache: dict[tuple[LoadRule | None, float | None, int | None], tuple[_Wanted, ResolvedSet]] = {}
    for group in prescription.groups:
        for position in range(group.sets):
            rule = _rule_of_set(group, position)
            key = (rule, None, group.reps)
            if key in cache:
                first = cache[key][1]
                found.append(_numbered(first, len(found)))
                continue
            wanted = _wanted(rule, group, state)
            resolved = _finish(wanted, rule, group, state, prescription, len(found))
            cache[key] = (wanted, resolved)
            found.append(resolved)
    return tuple(found)


def _numbered(first: ResolvedSet, index: int) -> ResolvedSet:
    values = dict(first.__dict__)
    values["index"] = index
    return ResolvedSet(**values)


def _rule_of_set(group: SetGroup, position: int) -> LoadRule | None:
    match group.load:
        case Percent(percents) if len(percents) > 1:
            return Percent((percents[min(position, len(percents) - 1)],))
        case PercentRange(low, high):
            step = position / (group.sets - 1) if group.sets > 1 else 0.0
            return Percent((round(low + (high - low) * step, 1),))
        case rule:
            return rule


def _wanted(rule: LoadRule | None, group: SetGroup, state: LiftState) -> _Wanted:
    if rule is None or not state.exercise.is_loaded:
        return _Wanted(None, "as written", "no load is prescribed", COMMON_PRACTICE)
    match rule:
        case FixedLoad(load_kg):
            return _Wanted(load_kg, "as written", f"{format_kg(load_kg)} kg as written", COMMON_PRACTICE)
        case VelocityTarget():
            return _by_velocity(rule, group, state)
        case Percent(percents):
            return _by_percent(percents[0], group, state)
        case Reserve(rir):
            return _by_reserve(rir, f"{rir:g} in reserve", group, state)
        case Rpe(rpe):
            return _by_reserve(rir_for_rpe(rpe), f"RPE {rpe:g}", group, state)
        case PercentRange(low, _):
            return _by_percent(low, group, state)


def _max_input(state: LiftState) -> tuple[Input, ...]:
    if state.max is None:
        return ()
    name = "max today"
    text = state.max.working.result
    if state.related_max_from:
        text += f" in the {state.related_max_from}, times {state.related_ratio:g}"
    best = state.max.evidence[0]
    return (Input(name, text), Input("mostly from", best.words, best.mark.ref), *_newest(state.max))


def _newest(current: CurrentMax) -> tuple[Input, ...]:
    newest = max(current.evidence, key=lambda e: e.mark.day)
    if newest is current.evidence[0]:
        return ()
    return (Input("newest", newest.words, newest.mark.ref),)


def _by_velocity(rule: VelocityTarget, group: SetGroup, state: LiftState) -> _Wanted:
    middle = (rule.low_mps + rule.high_mps) / 2
    span = _span(rule)
    profile = state.profile
    if profile is not None and profile.is_sound and rule.peak == (state.exercise.velocity == "peak"):
        load = profile.load_kg(middle)
        low, high = profile.loads_kg
        outside = OUTSIDE_PROFILE * (state.max_kg or high)
        caution = ""
        if not low - outside <= load <= high + outside:
            load = min(max(load, low - outside), high + outside)
            caution = f"{span} lies outside the loads tested ({format_kg(low)}–{format_kg(high)} kg); held at their edge."
        days = sorted(p.day for p in profile.points)
        return _Wanted(
            load,
            "velocity",
            f"load at {middle:.2f} m/s on the own line" if not caution else "edge of the tested loads",
            Source("fact", "own load–velocity profile"),
            (
                Input(
                    "profile",
                    f"{len(profile.points)} points, R² {profile.r_squared:.2f}, {days[0]:%-d %b} to {days[-1]:%-d %b}",
                    profile.points[-1].ref,
                ),
                Input("target", span),
            ),
            caution=caution,
        )
    gap = profile.quality if profile is not None and profile.quality else ("no load–velocity profile in this lift yet",)
    share = None if rule.peak else general_share_for_velocity(state.exercise, middle)
    if share is not None and state.max_kg is not None:
        anchor = state.exercise.v1rm
        assert anchor is not None
        return _Wanted(
            share * state.max_kg,
            "percent",
            f"{middle:.2f} m/s is about {100 * share:.0f} % by the general relation of this lift",
            anchor.source,
            _max_input(state),
            missing=gap,
        )
    if state.max_kg is not None and group.reps is not None:
        pct = 30.0 if rule.peak or state.exercise.kind == "ballistic" else 60.0
        return _Wanted(
            pct / 100 * state.max_kg,
            "percent",
            f"about {pct:.0f} % stands in: this lift has no general velocity relation",
            Source("J", "Jarvok's default"),
            _max_input(state),
            missing=gap,
        )
    return _by_effort((*gap, "no max in this lift"))


def _span(rule: VelocityTarget) -> str:
    ends = f"{rule.low_mps:.2f}" if rule.low_mps == rule.high_mps else f"{rule.low_mps:.2f}–{rule.high_mps:.2f}"
    return f"{ends} m/s {'peak' if rule.peak else 'mean'}"


def _by_percent(pct: float, group: SetGroup, state: LiftState) -> _Wanted:
    if state.max_kg is None:
        return _by_effort(("no max in this lift: enter a tested or rep-max mark",))
    return _Wanted(
        pct / 100 * state.max_kg,
        "percent",
        f"{pct:g} % of {state.max_kg:.1f} kg",
        COMMON_PRACTICE,
        _max_input(state),
        caution="The max moves daily; repetitions at a percentage differ by athlete.",
    )


def _by_reserve(rir: float, words: str, group: SetGroup, state: LiftState) -> _Wanted:
    if state.max_kg is None:
        return _by_effort(("no max in this lift: the first set finds the load",))
    reps = group.reps or 1
    to_failure = reps + rir
    if to_failure > 15:
        return _by_effort((f"{to_failure:g} repetitions to failure is beyond any relation",))
    load = state.equation.load_kg(state.max_kg, to_failure)
    return _Wanted(
        load,
        "reps in reserve",
        f"{reps} reps with {words} is a {to_failure:g}RM: {state.max_kg:.1f} / {state.equation.ratio(to_failure):.3f}",
        state.equation.source,
        _max_input(state),
        caution="Unreliable above 12 repetitions or beyond 4 in reserve." if to_failure > 12 or rir > 4 else "",
    )


def _by_effort(missing: tuple[str, ...]) -> _Wanted:
    return _Wanted(
        None,
        "effort",
        "start light, felt effort 4 of 10, and grow by feel",
        COMMON_PRACTICE,
        missing=missing,
    )


def _finish(
    wanted: _Wanted,
    rule: LoadRule | None,
    group: SetGroup,
    state: LiftState,
    prescription: Prescription,
    index: int,
) -> ResolvedSet:
    implement = state.implement or default_implement(state.exercise)
    load_kg, rounding = wanted.load_kg, ""
    sides: tuple[float, ...] = ()
    if load_kg is not None and implement is not None:
        built = build(round(load_kg, 2), implement)
        rounding = f"{load_kg:.1f} to {format_kg(built.load_kg)} kg, the nearest that can be built"
        load_kg, sides = built.load_kg, built.per_side_kg
    target = (rule.low_mps, rule.high_mps) if isinstance(rule, VelocityTarget) else None
    rir = rule.rir if isinstance(rule, Reserve) else rir_for_rpe(rule.rpe) if isinstance(rule, Rpe) else None
    working = None
    if state.exercise.is_loaded and rule is not None:
        working = Working(
            result=f"{format_kg(load_kg)} kg" if load_kg is not None else "by feel",
            rule=wanted.rule,
            source=wanted.source,
            inputs=wanted.inputs,
            rounding=rounding,
            others=_others(wanted.method, group, state, implement, load_kg),
            missing=wanted.missing,
            caution=wanted.caution,
        )
    measured = state.exercise.motion is not None
    return ResolvedSet(
        index=index,
        reps=group.reps,
        or_more=group.or_more,
        seconds=group.seconds,
        metres=group.metres,
        per_side=group.per_side,
        load_kg=load_kg,
        wanted_kg=wanted.load_kg,
        per_side_kg=sides,
        share_of_max=load_kg / state.max_kg if load_kg is not None and state.max_kg else None,
        target_mps=target,
        target_is_peak=isinstance(rule, VelocityTarget) and rule.peak,
        target_rir=rir,
        stop_loss_pct=(prescription.stop_loss_pct or DEFAULT_STOP_PCT) if measured else None,
        method=wanted.method,
        working=working,
    )


def _others(
    method: str, group: SetGroup, state: LiftState, implement: Implement | None, load_kg: float | None
) -> tuple[Input, ...]:
    """What the other rules would put on the bar for the same repetitions, as far as the facts allow."""
    said: list[Input] = []
    if state.max_kg and group.reps and group.reps <= 12 and method != "reps in reserve" and implement is not None:
        built = build(round(state.equation.load_kg(state.max_kg, min(15, group.reps + 2)), 2), implement)
        said.append(Input("2 in reserve", f"{format_kg(built.load_kg)} kg"))
    if load_kg is not None and state.profile is not None and state.profile.is_sound and method != "velocity":
        said.append(Input("velocity to expect", f"{state.profile.velocity_mps(load_kg):.2f} m/s by the own line"))
    if load_kg is not None and state.max_kg and method != "percent":
        said.append(Input("share of max", f"{100 * load_kg / state.max_kg:.0f} %"))
    return tuple(said)
