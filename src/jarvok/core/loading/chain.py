"""From a load rule to an offer: the method as written, and the visible fallback where its facts are missing."""

from __future__ import annotations

from typing import NamedTuple, assert_never

from jarvok.core.loading.accommodating import CAUTION, nearest_pull, two_loads, with_pull
from jarvok.core.loading.methods import apre, linear, percent, reserve, rm_zone, set_rep_best, two_for_two, velocity
from jarvok.core.loading.prescription import (
    Apre,
    BestShare,
    Corrected,
    FixedLoad,
    LastPlus,
    LoadRule,
    Percent,
    PercentRange,
    Reserve,
    Rising,
    RmZone,
    Rpe,
    TodayPercent,
    TwoForTwo,
    VelocityTarget,
    VelocityZone,
    WithAttachment,
)
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.loading.tables import intensity_words
from jarvok.core.marks.effort import rir_for_rpe
from jarvok.core.quantities.mass import format_kg
from jarvok.core.working import COMMON_PRACTICE, Input


class Target(NamedTuple):
    """What a rule aims at beside a load: mean or peak velocity in m/s, and reps in reserve."""

    mps: tuple[float, float] | None = None
    is_peak: bool = False
    rir: float | None = None


def target_of(rule: LoadRule | None, state: LiftState) -> Target:
    """Return what a rule aims at, for the floor."""
    match rule:
        case VelocityTarget(low, high, peak):
            return Target((low, high), peak)
        case VelocityZone(zone):
            return Target(velocity.zone_target(zone, state.exercise))
        case Reserve(rir):
            return Target(rir=rir)
        case Rpe(rpe):
            return Target(rir=rir_for_rpe(rpe))
        case Corrected(_, by):
            return target_of(by, state)
        case Percent() | PercentRange() | TodayPercent() | FixedLoad() | Rising() | WithAttachment():
            return Target()
        case LastPlus() | TwoForTwo() | RmZone() | BestShare() | Apre() | None:
            return Target()
        case _:
            assert_never(rule)


def offer_for(rule: LoadRule | None, ask: Ask, state: LiftState) -> Offer:
    """Return what the rule puts on the bar in kg before rounding; the working's `missing` says why it fell back."""
    if rule is None or not state.exercise.is_loaded:
        return Offer(None, "as written", "no load is prescribed", COMMON_PRACTICE)
    match rule:
        case FixedLoad(load_kg):
            return Offer(load_kg, "as written", f"{format_kg(load_kg)} kg as written", COMMON_PRACTICE)
        case Percent(percents):
            return percent.offer(percents[0], state) or by_effort(percent.NO_MAX)
        case PercentRange(low, _):
            return percent.offer(low, state) or by_effort(percent.NO_MAX)
        case TodayPercent(pct):
            return _today(pct, state)
        case Corrected(start, _):
            return offer_for(start, ask, state)
        case Reserve(rir, beat_last):
            return _reserve(ask, rir, f"{rir:g} in reserve", beat_last, state)
        case Rpe(rpe):
            return _reserve(ask, rir_for_rpe(rpe), f"RPE {rpe:g}", False, state)
        case VelocityTarget(low, high, peak):
            return _velocity(low, high, peak, state)
        case VelocityZone(zone):
            return _velocity(*velocity.zone_target(zone, state.exercise), False, state)
        case Rising():
            return _rising(rule, ask, state)
        case WithAttachment():
            return _attached(rule, ask, state)
        case LastPlus(step_kg):
            return linear.offer(state, step_kg) or _instead(ask, state, linear.NO_HISTORY)
        case TwoForTwo():
            return two_for_two.offer(ask.reps, state) or _instead(ask, state, linear.NO_HISTORY)
        case RmZone(low, high):
            return rm_zone.offer(low, high, state) or by_effort("no max and no earlier set in the zone")
        case BestShare(word, pct):
            return _of_best(word, pct, ask, state)
        case Apre(rm, number):
            return apre.offer(rm, number, state) or by_effort("no max in this lift: the first session finds the RM")
        case _:
            assert_never(rule)


USUAL_BEST_PCT = 90.0  # [J] where neither a word nor a share is written


def _of_best(word: str, pct: float | None, ask: Ask, state: LiftState) -> Offer:
    band = intensity_words()[word] if word else None
    low_pct, high_pct = (band.low_pct, band.high_pct) if band else (pct or USUAL_BEST_PCT, pct or USUAL_BEST_PCT)
    return set_rep_best.offer(ask, low_pct, high_pct, word, state) or by_effort("no best and no max in this lift")


def by_effort(*missing: str) -> Offer:
    """Return the end of the chain: no load, found by feel."""
    return Offer(None, "effort", "start light, felt effort 4 of 10, and grow by feel", COMMON_PRACTICE, missing=missing)


def _instead(ask: Ask, state: LiftState, missing: str) -> Offer:
    rir = state.rules["load.fallback_rir"]
    found = reserve.offer(ask, rir, f"{rir:g} in reserve", state)
    return found._replace(missing=(missing,)) if found is not None else by_effort(missing, percent.NO_MAX)


def _today(pct: float, state: LiftState) -> Offer:
    found = percent.offer_of_today(pct, state)
    if found is not None:
        return found
    gap = state.today.missing if state.today is not None and state.today.missing else ()
    missing = gap or ("no velocities yet today: four warm-up loads with the sensor say it",)
    by_max = percent.offer(pct, state)
    return by_max._replace(missing=missing) if by_max is not None else by_effort(*missing, percent.NO_MAX)


def _reserve(ask: Ask, rir: float, words: str, beat_last: bool, state: LiftState) -> Offer:
    found = reserve.offer(ask, rir, words, state)
    if found is None:
        if state.max_kg is None:
            return by_effort("no max in this lift: the first set finds the load")
        return by_effort(f"{ask.reps + rir:g} repetitions to failure is beyond any relation")
    last = state.last
    if not beat_last or last is None or last.top_kg is None or found.load_kg is None:
        return found
    holds = found.load_kg > last.top_kg
    text = f"{format_kg(last.top_kg)} kg, {last.day:%-d %b}"
    said = "heavier than last time, as wished" if holds else "not above last time: the reserve wins"
    return found._replace(rule=f"{found.rule}; {said}", inputs=(*found.inputs, Input("last time", text, last.ref)))


def _velocity(low: float, high: float, peak: bool, state: LiftState) -> Offer:
    own = velocity.offer_own(low, high, peak, state)
    if own is not None:
        return own
    return velocity.offer_general(low, high, peak, state) or by_effort(*velocity.own_gap(state), "no max in this lift")


def _rising(rule: Rising, ask: Ask, state: LiftState) -> Offer:
    start = offer_for(rule.start, ask, state)
    if start.load_kg is None:
        return start
    step, how = rule.step_kg, "as written"
    if step is None:
        if state.max_kg is None or ask.sets < 2:
            return start
        step = max(0.0, (state.equation.load_kg(state.max_kg, min(15, ask.reps)) - start.load_kg) / (ask.sets - 1))
        how = f"so that round {ask.sets} is a {ask.reps}RM"
    load = start.load_kg + step * ask.position
    return start._replace(load_kg=load, rule=f"{start.rule}, + {step:.1f} kg a round {how}; round {ask.position + 1}")


def _attached(rule: WithAttachment, ask: Ask, state: LiftState) -> Offer:
    bar = offer_for(rule.bar, ask, state)
    if bar.load_kg is None:
        return bar
    if rule.extra_is_pct and state.max_kg is None:
        return by_effort(percent.NO_MAX)
    extra = rule.extra / 100 * (state.max_kg or 0.0) if rule.extra_is_pct else rule.extra
    pull = nearest_pull(state.pulls, rule.attachment, extra)
    both = with_pull(bar.load_kg, pull) if pull is not None else two_loads(bar.load_kg, extra, rule.attachment)
    here = f", here {pull.words}" if pull is not None else ""
    ends = f"{both.bottom_kg:.1f} kg at the bottom, {both.top_kg:.1f} kg at the top"
    said = f"{extra:.1f} kg of {rule.attachment}{here}: {ends}"
    return bar._replace(
        rule=f"{bar.rule}; {said}", bottom_kg=both.bottom_kg, top_kg=both.top_kg, caution=CAUTION[rule.attachment]
    )
