"""After each set: up, same, down or done, with the reason in a sentence. The decision stays the coach's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from jarvok.core.equations import MOST_REPS
from jarvok.core.floor.advice import Advice, DoneSet, Move, Trouble
from jarvok.core.floor.ladder_next import by_ladder, ladder_of
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.methods import apre
from jarvok.core.loading.methods.apre import Apre
from jarvok.core.loading.methods.reserve import reserve_at
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.loading.state import LiftState
from jarvok.core.loading.tables import apre_protocols
from jarvok.core.marks.effort import SOURCE as EFFORT_SOURCE
from jarvok.core.quantities.mass import said_mass
from jarvok.core.quantities.plates import build, build_within, unit_of
from jarvok.core.velocity.profile import general_slope_mps_per_kg
from jarvok.core.velocity.zones import LOSS_SOURCE, velocity_loss_pct
from jarvok.core.working import COMMON_PRACTICE, Input, Source, Working


def what_next(
    planned: ResolvedSet,
    done: Sequence[DoneSet],
    sets_left: int,
    state: LiftState,
    coming: ResolvedSet | None = None,
    line: Prescription | None = None,
) -> Advice:
    """Return the advice after the last of `done`, the work sets of one exercise today, said in the unit of the room.

    `planned` is the set just done as it was prescribed, `coming` the next one, `line` the whole prescription;
    `sets_left` counts the sets still written. Raises ValueError when nothing has been done.
    """
    found = _advised(planned, done, sets_left, state, coming, line)
    in_lb = unit_of(state.implement or implement_for(state.exercise)) == "lb"
    return replace(found, working=found.working.in_pounds()) if in_lb else found


def _advised(
    planned: ResolvedSet,
    done: Sequence[DoneSet],
    sets_left: int,
    state: LiftState,
    coming: ResolvedSet | None,
    line: Prescription | None,
) -> Advice:
    if not done:
        raise ValueError("advice needs at least one set")
    last = done[-1]
    protocol = _apre_of(line, len(done))
    stops = (
        (_stop_for_trouble,)
        if protocol is not None or ladder_of(line) is not None
        else (_stop_for_trouble, _stop_for_misses, _stop_for_drop)
    )
    for rule in stops:  # a set to failure is not a miss
        advice = rule(planned, done, state)
        if advice is not None:
            return advice
    ladder = ladder_of(line)
    if ladder is not None and (advice := by_ladder(ladder, done, sets_left, state)) is not None:
        return advice
    if protocol is not None and (advice := _by_apre(protocol, done, state, coming)) is not None:
        return advice
    if line is not None and line.until_miss and _missed(last):
        return _done(f"Missed at {_said(last.load_kg or 0, state)}: stop here.", "until you miss", COMMON_PRACTICE, ())
    if sets_left <= 0:
        return _done("All sets done.", "every set of the line is done", COMMON_PRACTICE, ())
    if last.load_kg is None:
        return Advice(Move.SAME, None, "Same again.", Working("same", "unloaded work goes on as written", COMMON_PRACTICE))
    for adjust in (_after_miss, _by_velocity_target, _by_reserve, _by_loss):
        advice = adjust(planned, done, state)
        if advice is not None:
            return _to_coming(advice, planned, coming, last.load_kg, state)
    same = _same(last.load_kg, state, "On plan.", "nothing in the set asks for a change", COMMON_PRACTICE, ())
    return _to_coming(same, planned, coming, last.load_kg, state)


def _to_coming(advice: Advice, planned: ResolvedSet, coming: ResolvedSet | None, last_kg: float, state: LiftState) -> Advice:
    """Where the plan itself changes the load, carry the advice over to the load that comes next."""
    if coming is None or not coming.load_kg or not planned.load_kg or not advice.load_kg or coming.load_kg == planned.load_kg:
        return advice
    wanted = coming.load_kg * advice.load_kg / planned.load_kg
    implement = state.implement or implement_for(state.exercise)
    load = build(round(wanted, 2), implement).load_kg if implement else round(wanted, 1)
    text = _said(load, state)
    how = "as written" if load == coming.load_kg else f"written {_said(coming.load_kg, state)}, changed like the last set"
    move = Move.UP if load > last_kg else Move.DOWN if load < last_kg else Move.SAME
    working = advice.working._replace(
        result=text,
        rounding="",
        inputs=(*advice.working.inputs, Input("next as written", _said(coming.load_kg, state))),
    )
    return Advice(move, load, f"{advice.why} Next {text}, {how}.", working, advice.why)


def _apre_of(line: Prescription | None, number: int) -> Apre | None:
    rules = [group.load for group in line.groups] if line is not None else []
    rule = rules[number - 1] if number <= len(rules) else None
    return rule if isinstance(rule, Apre) else None


def _by_apre(rule: Apre, done: Sequence[DoneSet], state: LiftState, coming: ResolvedSet | None) -> Advice | None:
    """Set 3 decides set 4, set 4 the next session; the warm sets lead to the next as written."""
    last = done[-1]
    if not last.load_kg:
        return None
    protocol = apre_protocols()[rule.rm]
    if rule.number < apre.FAILURE_SET:
        if coming is None or not coming.load_kg:
            return None
        text = _said(coming.load_kg, state)
        working = Working(text, "the protocol's next set", protocol.source)
        return Advice(Move.UP, coming.load_kg, f"Warm set done. Next {text}.", working, "Warm set done.")
    change = apre.adjustment(protocol, last.reps, last.load_kg, state)
    inputs = (Input("done", f"{_said(last.load_kg, state)} × {last.reps}"), Input("table", change.words))
    asks = " Too few repetitions for the table: your call." if change.asks else ""
    if rule.number == apre.FAILURE_SET:
        return _change(
            last, last.load_kg + change.kg, state, f"{last.reps} done.{asks}", "set 3 decides set 4", protocol.source, inputs
        )
    text = _said(round(last.load_kg + change.kg, 1), state)
    return _done(
        f"All sets done. Next session works with {text}.{asks}", "set 4 decides the next session", protocol.source, inputs
    )


def _done(sentence: str, rule: str, source: Source, inputs: tuple[Input, ...]) -> Advice:
    return Advice(Move.DONE, None, sentence, Working("done", rule, source, inputs))


def _same(load_kg: float, state: LiftState, why: str, rule: str, source: Source, inputs: tuple[Input, ...]) -> Advice:
    text = _said(load_kg, state)
    return Advice(Move.SAME, load_kg, f"{why} Same again: {text}.", Working(text, rule, source, inputs), why)


def _stop_for_trouble(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    trouble = done[-1].trouble
    if trouble is Trouble.PAIN:
        return _done(
            "Stop this lift for today. Pain is looked at by a licensed professional, not trained through.",
            "pain ends the movement for the day",
            COMMON_PRACTICE,
            (),
        )
    if trouble is Trouble.FORM_BROKE and len([d for d in done if d.trouble is Trouble.FORM_BROKE]) >= 2:
        return _done("Technique broke twice. Stop this lift.", "technique broke twice", COMMON_PRACTICE, ())
    return None


def _missed(item: DoneSet) -> bool:
    return item.planned_reps is not None and item.reps < item.planned_reps and item.trouble is not Trouble.PAIN


def _stop_for_misses(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    if _missed(done[-1]) and sum(map(_missed, done)) >= 2:
        return _done(
            "Repetitions missed twice: stop this lift here.",
            "the target was missed in two sets",
            COMMON_PRACTICE,
            tuple(Input("missed", f"{d.reps} of {d.planned_reps} at {_said(d.load_kg or 0, state)}") for d in done if _missed(d)),
        )
    return None


def _stop_for_drop(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    last = done[-1]
    earlier = [max(d.velocities_mps) for d in done[:-1] if d.velocities_mps and d.load_kg == last.load_kg]
    if not last.velocities_mps or not earlier:
        return None
    best_before, best_now = max(earlier), max(last.velocities_mps)
    drop = 100 * (best_before - best_now) / best_before
    limit = state.rules["floor.session_drop_pct"]
    if drop < limit:
        return None
    return _done(
        f"Best rep is {drop:.0f} % under the day's best at this load. Enough of this lift.",
        f"session drop of {limit:g} % or more at the same load",
        Source("J", "limit is Jarvok's default"),
        (Input("best today", f"{best_before:.2f} m/s"), Input("best of this set", f"{best_now:.2f} m/s")),
    )


def _change(
    last: DoneSet, wanted_kg: float, state: LiftState, why: str, rule: str, source: Source, inputs: tuple[Input, ...]
) -> Advice:
    assert last.load_kg is not None
    down, up = state.rules["floor.step_down_pct"], state.rules["floor.step_up_pct"]
    low, high = (max(0.0, state.at_share(1 + by / 100, last.load_kg)) for by in (-down, up))
    bounded = min(max(wanted_kg, low), high)
    implement = state.implement or implement_for(state.exercise)
    load = build_within(round(bounded, 2), implement, low, high, last.load_kg).load_kg if implement else round(bounded, 1)
    if load == last.load_kg:
        return _same(load, state, why, rule, source, inputs)
    move = Move.UP if load > last.load_kg else Move.DOWN
    rounding = _said(round(wanted_kg, 1), state)
    if bounded != wanted_kg:
        rounding += f", held to {_said(round(bounded, 1), state)} (at most {up:g} % up, {down:g} % down)"
    text = _said(load, state)
    rounding += f", to {text} that can be built"
    verb = "Up to" if move is Move.UP else "Down to"
    return Advice(move, load, f"{why} {verb} {text}.", Working(text, rule, source, inputs, rounding), why)


def _after_miss(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    last, miss = done[-1], state.rules["floor.miss_pct"] / 100
    if last.trouble is Trouble.FORM_BROKE:
        assert last.load_kg is not None
        return _change(
            last,
            max(0.0, state.at_share(1 - miss, last.load_kg)),
            state,
            "Technique broke.",
            f"{100 * miss:g} % off when technique breaks",
            COMMON_PRACTICE,
            (),
        )
    if not _missed(last):
        return None
    assert last.load_kg is not None
    assert last.planned_reps is not None
    reachable = state.equation.ratio(max(1, last.reps)) / state.equation.ratio(last.planned_reps)
    wanted = max(0.0, state.at_share(min(reachable, 1 - miss), last.load_kg))
    return _change(
        last,
        wanted,
        state,
        f"{last.reps} of {last.planned_reps} reps.",
        f"the load that {state.equation.name} gives for {last.planned_reps}, at least {100 * miss:g} % less",
        state.equation.source,
        (Input("done", f"{_said(last.load_kg, state)} × {last.reps}"),),
    )


def _by_velocity_target(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    last = done[-1]
    if planned.target_mps is None or not last.velocities_mps or last.load_kg is None:
        return None
    low, high = planned.target_mps
    best = max(last.velocities_mps)
    unit = "m/s peak" if planned.target_is_peak else "m/s"
    inputs = (Input("best rep", f"{best:.2f} {unit}"), Input("target", f"{low:.2f}–{high:.2f} {unit}"))
    if low <= best <= high:
        return _same(
            last.load_kg,
            state,
            f"Best rep {best:.2f} {unit}, inside the target.",
            "best rep inside the target",
            COMMON_PRACTICE,
            inputs,
        )
    slope = (
        state.profile.slope_mps_per_kg
        if state.profile is not None
        else general_slope_mps_per_kg((state.max_kg or 2 * last.load_kg) + state.body_kg)
    )
    wanted = last.load_kg + ((low + high) / 2 - best) / slope
    word = "slower" if best < low else "faster"
    source = Source("fact", "own load–velocity line") if state.profile else Source("J", "general slope, Jarvok's default")
    return _change(
        last,
        wanted,
        state,
        f"Best rep {best:.2f} {unit}, {word} than {low:.2f}–{high:.2f}.",
        "moved along the line to the middle of the target",
        source,
        inputs,
    )


def _by_reserve(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    last = done[-1]
    if last.rir is None or last.load_kg is None or planned.reps is None:
        return None
    aimed = planned.target_rir
    if aimed is None and planned.share_of_max is not None and state.max_kg:
        aimed = reserve_at(planned.share_of_max, planned.reps, state)
    if aimed is None:
        return None
    inputs = (Input("left", f"{last.rir:g}"), Input("planned", f"{aimed:.1f}".rstrip("0").rstrip(".")))
    if abs(last.rir - aimed) < state.rules["floor.rir_tolerance"] or last.reps + last.rir > MOST_REPS:
        return _same(
            last.load_kg, state, f"{last.rir:g} in reserve, as planned.", "reserve within one of the plan", EFFORT_SOURCE, inputs
        )
    wanted = state.at_share(
        state.equation.ratio(last.reps + last.rir) / state.equation.ratio(min(MOST_REPS, planned.reps + aimed)), last.load_kg
    )
    word = "more" if last.rir > aimed else "less"
    rule = f"corrected by the difference in reserve ({state.equation.name})"
    if wanted > last.load_kg and not state.counts_reserve:
        wanted = min(wanted, _one_step_up(last.load_kg, state))
        rule += "; in the first year of lifting up by one step at most"
    return _change(
        last,
        wanted,
        state,
        f"{last.rir:g} in reserve, {word} than planned.",
        rule,
        EFFORT_SOURCE,
        inputs,
    )


def _one_step_up(load_kg: float, state: LiftState) -> float:
    implement = state.implement or implement_for(state.exercise)
    above_kg = build(load_kg, implement).above_kg if implement is not None else None
    return above_kg if above_kg is not None else load_kg


def _by_loss(planned: ResolvedSet, done: Sequence[DoneSet], state: LiftState) -> Advice | None:
    last = done[-1]
    if not last.velocities_mps or last.load_kg is None:
        return None
    loss = velocity_loss_pct(list(last.velocities_mps))
    limit = planned.stop_loss_pct or state.rules["velocity.stop_loss_pct"]
    inputs = [Input("loss", f"{loss:.0f} % of {limit:g} % allowed")]
    best = max(last.velocities_mps)
    profile = state.profile
    is_free = planned.bottom_kg is None  # the profile is of the lift with nothing on the bar
    if profile is not None and profile.is_sound and is_free and not planned.target_is_peak:
        expected, half = profile.velocity_mps(last.load_kg), profile.prediction_half_width_mps(last.load_kg)
        inputs.append(Input("usual at this load", f"{expected:.2f} ± {half:.2f} m/s"))
        if abs(best - expected) > half:
            wanted = last.load_kg + (expected - best) / profile.slope_mps_per_kg
            word = "faster" if best > expected else "slower"
            return _change(
                last,
                wanted,
                state,
                f"Best rep {best:.2f} m/s, {word} than usual here ({expected:.2f}).",
                "outside the athlete's own 95 % range at this load",
                Source("fact", "own load–velocity profile"),
                tuple(inputs),
            )
    if loss > limit:
        return _same(
            last.load_kg,
            state,
            f"Loss {loss:.0f} %, past the velocity stop: end the next set a rep earlier.",
            "velocity loss over the limit",
            LOSS_SOURCE,
            tuple(inputs),
        )
    return _same(
        last.load_kg,
        state,
        f"Best rep {best:.2f} m/s, loss {loss:.0f} %: on pace.",
        "velocity where it usually is, loss inside the limit",
        LOSS_SOURCE,
        tuple(inputs),
    )


def _said(load_kg: float, state: LiftState) -> str:
    """A load as it is said in the athlete's room."""
    return said_mass(load_kg, unit_of(state.implement or implement_for(state.exercise)))
