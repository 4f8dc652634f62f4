"""The one way to set a load: a prescription, an athlete's state in one lift and a day give kilograms with a working.

The rule as written is tried first; where a fact is missing the chain goes velocity, percent, reps in reserve, effort,
and the working says so. `ResolvedSet.method` names the rule that gave the load in the end.
"""

from __future__ import annotations

from dataclasses import replace
from typing import NamedTuple

from jarvok.core.equations import MOST_REPS
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.methods.reserve import HIGHEST_RELIABLE_REPS
from jarvok.core.loading.prescription import Drops, Prescription, SetGroup
from jarvok.core.loading.rule import LoadRule, Target, by_effort
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.mass import format_kg
from jarvok.core.quantities.plates import Barbell, BuiltLoad, Implement, build, build_within, unit_of
from jarvok.core.working import COMMON_PRACTICE, Input, Working

CLOSE_KG = 0.05  # [J] a wanted load this near to a buildable one needs no word


class ResolvedSet(NamedTuple):
    """One set for one athlete. Loads in kg, velocities in m/s; None where the set has none.

    `wanted_kg` is the load before it was rounded to what can be built; `bottom_kg` and `top_kg` are set where bands or
    chains are on.
    """

    set_index: int
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
    bottom_kg: float | None = None
    top_kg: float | None = None
    unit: str = "kg"  # printed on the plates
    drops_kg: tuple[float, ...] = ()  # loads it goes on with at once, one after another

    @property
    def volume_kg(self) -> float:
        """Load times repetitions in kg, both sides counted."""
        return (self.load_kg or 0.0) * (self.reps or 0) * (2 if self.per_side else 1)


def resolve(prescription: Prescription, state: LiftState, *, with_others: bool = True) -> tuple[ResolvedSet, ...]:
    """Return every set of the line with its load, plates and working, in order.

    `with_others` adds to each working what other rules would say of the same repetitions.
    """
    if state.implement is None:
        state = replace(state, implement=implement_for(state.exercise))
    state = state.beside(next((g.load.hangs for g in prescription.groups if g.load is not None and g.load.hangs), ""))
    found: list[ResolvedSet] = []
    total = prescription.total_sets
    for group in prescription.groups:
        if group.load is None or not group.load.varies:
            first = _resolve_set(group.load, group, 0, total, state, prescription, with_others)
            found += [_numbered(first, len(found) + i) for i in range(group.sets)]
            continue
        known: dict[LoadRule, ResolvedSet] = {}
        for position in range(group.sets):
            rule = group.load.of_set(position, group.sets)
            each = known.get(rule)
            if each is None or rule.depends_on_place:
                each = known[rule] = _resolve_set(rule, group, position, total, state, prescription, with_others)
            found.append(_numbered(each, len(found)))
    if prescription.drops is not None and found and found[-1].load_kg:
        found[-1] = found[-1]._replace(drops_kg=dropped_kg(found[-1].load_kg, prescription.drops, state.implement))
    return tuple(found)


def dropped_kg(load_kg: float, drops: Drops, implement: Implement | None) -> tuple[float, ...]:
    """Return the loads in kg a set goes on with, each so much lighter than the one before, as they can be built."""
    found: list[float] = []
    for _ in range(drops.count):
        load_kg *= 1 - drops.pct / 100
        found.append(build(round(load_kg, 2), implement).load_kg if implement is not None else round(load_kg, 1))
    return tuple(found)


def _numbered(first: ResolvedSet, index: int) -> ResolvedSet:
    """The same set with another number."""
    return first if first.set_index == index else ResolvedSet(index, *first[1:])


def ask_of(group: SetGroup, position: int, total_sets: int) -> Ask:
    """Return what one set asks of a loading method."""
    sets = group.sets if group.sets > 1 or total_sets == 1 else total_sets
    return Ask(group.reps or 1, sets, position)


def _offer(rule: LoadRule | None, ask: Ask, state: LiftState) -> Offer:
    if rule is None or not state.exercise.is_loaded:
        return Offer(None, "as written", "no load is prescribed", COMMON_PRACTICE)
    found = rule.offer(ask, state)
    if found.load_kg is not None and found.load_kg < 0:
        return by_effort(f"{found.rule}: bodyweight alone is more")
    return found


def _resolve_set(
    rule: LoadRule | None,
    group: SetGroup,
    position: int,
    total: int,
    state: LiftState,
    line: Prescription,
    with_others: bool,
) -> ResolvedSet:
    offer = _offer(rule, ask_of(group, position, total), state)
    built = _built(offer, state)
    load_kg = built.load_kg if built is not None else offer.load_kg
    target = rule.target(state) if rule is not None else Target()
    working = None
    if state.exercise.is_loaded and rule is not None:
        others = _others(offer.method, group, state, load_kg) if with_others else ()
        working = _working(offer, built, load_kg, others)
        if unit_of(state.implement) == "lb":
            working = working.in_pounds()
    measured = state.exercise.motion is not None
    shift = load_kg - offer.load_kg if load_kg is not None and offer.load_kg is not None else 0.0
    return ResolvedSet(
        set_index=0,
        reps=group.reps,
        or_more=group.or_more,
        seconds=group.seconds,
        metres=group.metres,
        per_side=group.per_side,
        load_kg=load_kg,
        wanted_kg=offer.load_kg,
        per_side_kg=built.per_side_kg if built is not None else (),
        share_of_max=state.share_of(load_kg) if load_kg is not None else None,
        target_mps=target.mps,
        target_is_peak=target.is_peak,
        target_rir=target.rir,
        stop_loss_pct=(line.stop_loss_pct or state.rules["velocity.stop_loss_pct"]) if measured else None,
        method=offer.method,
        working=working,
        bottom_kg=None if offer.bottom_kg is None else offer.bottom_kg + shift,
        top_kg=None if offer.top_kg is None else offer.top_kg + shift,
        unit=state.implement.unit if isinstance(state.implement, Barbell) else "kg",
    )


def _built(offer: Offer, state: LiftState) -> BuiltLoad | None:
    if offer.load_kg is None or state.implement is None:
        return None
    wanted_kg = round(offer.load_kg, 2)
    if offer.within_kg is None:
        return build(wanted_kg, state.implement)
    low, high = offer.within_kg
    return build_within(wanted_kg, state.implement, low, high, (low + high) / 2)


def _working(offer: Offer, built: BuiltLoad | None, load_kg: float | None, others: tuple[Input, ...]) -> Working:
    return Working(
        result=f"{format_kg(load_kg)} kg" if load_kg is not None else "by feel",
        rule=offer.rule,
        source=offer.source,
        inputs=offer.inputs,
        rounding=rounding_words(offer.load_kg, built),
        others=others,
        missing=offer.missing,
        caution=offer.caution,
    )


def rounding_words(wanted_kg: float | None, built: BuiltLoad | None) -> str:
    """Say how a wanted load became one that can be built, with both neighbours where it cannot be built itself."""
    if wanted_kg is None or built is None:
        return ""
    if abs(wanted_kg - built.load_kg) <= CLOSE_KG:
        return f"{wanted_kg:.1f} kg can be built as it is"
    other = built.above_kg if wanted_kg > built.load_kg else built.below_kg
    beside = f"; on the other side {format_kg(other)} kg" if other is not None else ""
    return f"{wanted_kg:.1f} to {format_kg(built.load_kg)} kg, the nearest that can be built{beside}"


def _others(method: str, group: SetGroup, state: LiftState, load_kg: float | None) -> tuple[Input, ...]:
    """What other rules say of the same repetitions, as far as the facts allow."""
    said: list[Input] = []
    implement: Implement | None = state.implement
    if (
        state.max_kg
        and group.reps
        and group.reps <= HIGHEST_RELIABLE_REPS
        and method != "reps in reserve"
        and implement is not None
    ):
        built = build(round(state.equation.load_kg(state.max_kg, min(MOST_REPS, group.reps + 2)), 2), implement)
        said.append(Input("if set by 2 in reserve instead", f"{format_kg(built.load_kg)} kg"))
    if load_kg is not None and state.profile is not None and state.profile.is_sound and method != "velocity":
        said.append(Input("velocity to expect", f"{state.profile.velocity_mps(load_kg):.2f} m/s by the own line"))
    share = state.share_of(load_kg) if load_kg is not None else None
    if share is not None and method != "percent":
        said.append(Input("share of max", f"{100 * share:.0f} %"))
    return tuple(said)
