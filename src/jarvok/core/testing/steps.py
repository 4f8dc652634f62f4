"""The next step of a guided test, from the attempts so far: loads, repetitions, rests, and when it is over.

Ramp to a 1RM: common practice with Jarvok's step sizes; rests and attempts at the top: Haff & Triplett 2016, from memory.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core import experience
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.mass import said_mass
from jarvok.core.quantities.plates import Barbell, build, unit_of
from jarvok.core.testing.choice import TestKind
from jarvok.core.testing.ramps import Felt, estimated_max_kg, known_ramp, last_step_kg, next_by_felt, step_cap_kg

MOST_TOP_ATTEMPTS = 5  # a max within 3 to 5 top attempts, Haff & Triplett 2016 from memory
TOP_FELT = 9.0  # [J] a single that is a top attempt, whatever was thought of the max
REP_AIMS = {TestKind.REP_MAX: (6, 8, 10), TestKind.CONSERVATIVE: (10, 12, 15)}
REP_WARM_UPS: tuple[tuple[float, int], ...] = ((0.50, 8), (0.70, 5), (0.85, 3))  # of the aimed load: common practice, [J]
PROFILE_LOADS: tuple[tuple[float, int], ...] = ((0.35, 3), (0.50, 3), (0.62, 2), (0.74, 2), (0.84, 1))  # [J] spans 49 points
HIGHEST_RIR, MOST_TO_FAILURE = 4.0, 10.0  # [J] an early stop is kept as a set only where the count means something


@dataclass(frozen=True)
class Attempt:
    """One set of a test as it was done: load in kg, repetitions, felt effort 1-10, form, a miss, velocity in m/s."""

    load_kg: float
    reps: int
    felt: float | None = None
    form_broke: bool = False
    missed: bool = False
    velocity_mps: float | None = None


@dataclass(frozen=True)
class Step:
    """What comes next: load in kg, repetitions (`or_more`: as many as form allows), rest before it in s, and why."""

    load_kg: float
    per_side_kg: tuple[float, ...]
    reps: int
    or_more: bool
    rest_s: int
    why: str
    is_top: bool


@dataclass(frozen=True)
class Result:
    """The end of a test: the mark it writes (None: nothing worth keeping), in words."""

    kind: MarkKind | None
    load_kg: float
    reps: int
    rir: float
    words: str


def is_novice(state: LiftState) -> bool:
    """Whether the athlete takes a novice's steps."""
    return experience.is_novice(state.training_age_years or 0.0, state.rules)


def _top_rest_s(state: LiftState) -> int:
    return int(state.rules["test.top_rest_s"])


def _warm_rest_s(state: LiftState) -> int:
    return int(state.rules["test.warm_rest_s"])


def next_step(kind: TestKind, attempts: Sequence[Attempt], state: LiftState, wants_to_stop: bool = False) -> Step | Result:
    """Return the next step of a test, or its result when it is over."""
    if kind in REP_AIMS:
        return _rep_test(kind, attempts, state, wants_to_stop)
    if kind is TestKind.LOAD_VELOCITY:
        return _profile_test(attempts, state, wants_to_stop)
    return _single_test(kind, attempts, state, wants_to_stop)


def _empty_kg(state: LiftState) -> float:
    return build(0.0, state.implement).load_kg if state.implement is not None else 0.0


def _step(
    load_kg: float, reps: int, rest_s: int, why: str, state: LiftState, *, or_more: bool = False, top: bool = False
) -> Step:
    built = build(round(load_kg, 2), state.implement) if state.implement is not None else None
    return Step(built.load_kg if built else load_kg, built.per_side_kg if built else (), reps, or_more, rest_s, why, top)


def ramp(state: LiftState) -> tuple[Step, ...]:
    """Return the warm-up ramp of a test for a known max: the bar first, plates left on it where they can be, caps kept."""
    top_kg, novice = state.max_kg, is_novice(state)
    if top_kg is None:
        return ()
    found: list[Step] = []
    for item in known_ramp(state, novice):
        if not found:
            start = "the empty bar" if isinstance(state.implement, Barbell) else "the lightest"
            found.append(_step(item.load_kg, item.reps, 0, start, state))
            continue
        here = found[-1].load_kg
        cap_kg = step_cap_kg(
            here, top_kg, is_upper=state.is_upper, is_novice=novice, novice_step_kg=state.rules["test.novice_step_kg"]
        )
        words = f"inserted: no step over {said_mass(cap_kg, unit_of(state.implement), whole=not novice)}"
        if item.share:
            words = f"{100 * item.load_kg / top_kg:.0f} % of {said_mass(top_kg, unit_of(state.implement), whole=True)}"
        rest_s = _warm_rest_s(state) if item.load_kg < HEAVY_SHARE * top_kg else _top_rest_s(state)
        found.append(_step(item.load_kg, item.reps, rest_s, words, state))
    return tuple(found)


HEAVY_SHARE = 0.85  # [J] from here the rest is a long one


def _good(attempts: Sequence[Attempt]) -> list[Attempt]:
    return [a for a in attempts if not a.form_broke and not a.missed and a.reps >= 1]


def _single_test(kind: TestKind, attempts: Sequence[Attempt], state: LiftState, stop: bool) -> Step | Result:
    last = attempts[-1] if attempts else None
    if stop or (last is not None and (last.form_broke or last.missed)):
        return _single_result(kind, attempts, state)
    planned = ramp(state)
    heaviest = last.load_kg if last else 0.0
    ahead = next((s for s in planned if s.load_kg > heaviest), None) if not _is_top(attempts, planned) else None
    if last is None:
        return planned[0] if planned else _step(_empty_kg(state), 10, 0, "no max known: start from effort", state)
    if ahead is not None and (last.felt is None or last.felt < 9):
        return ahead
    tops = [a for a in attempts if a.reps == 1 and (a.felt or 0) >= TOP_FELT]
    if planned and len(tops) >= MOST_TOP_ATTEMPTS:
        return _single_result(kind, attempts, state)
    return _grow(attempts, state, bool(planned))


def _is_top(attempts: Sequence[Attempt], planned: Sequence[Step]) -> bool:
    return bool(planned) and bool(attempts) and attempts[-1].load_kg >= planned[-1].load_kg


def _grow(attempts: Sequence[Attempt], state: LiftState, known: bool) -> Step:
    """The next load by felt effort, within the caps. Where a max is known its ramp is over, and steps are those of the top."""
    novice, last = is_novice(state), attempts[-1]
    felt = last.felt if last.felt is not None else (8.0 if known else 4.0)
    rows = [Felt(a.load_kg, a.felt) for a in attempts[:-1] if a.felt is not None] + [Felt(last.load_kg, felt)]
    found = next_by_felt(rows, state, novice)
    load_kg, reps = found.load_kg, found.reps
    if known:
        most_kg = last.load_kg + last_step_kg(max(state.max_kg or 0.0, last.load_kg), novice)
        load_kg, reps = _within(min(load_kg, most_kg), last.load_kg, state), 1
    rest_s = _top_rest_s(state) if felt >= LONG_REST_FELT else _warm_rest_s(state)
    why = f"felt {felt:g} of 10: up {said_mass(load_kg - last.load_kg, unit_of(state.implement))}" if known else found.why
    return _step(load_kg, reps, rest_s, why, state, top=reps == 1)


LONG_REST_FELT = 7.0  # [J]


def _within(most_kg: float, here_kg: float, state: LiftState) -> float:
    """The heaviest load up to a limit, or the smallest step there is."""
    if state.implement is None:
        return most_kg
    at = build(round(most_kg, 2), state.implement, cap_kg=max(most_kg, _empty_kg(state))).load_kg
    return at if at > here_kg else build(here_kg, state.implement).above_kg or here_kg


def _single_result(kind: TestKind, attempts: Sequence[Attempt], state: LiftState) -> Result:
    good = _good(attempts)
    if not good:
        return Result(None, 0.0, 0, 0.0, "Nothing was lifted with good technique.")
    best = max(good, key=lambda a: (a.load_kg, a.reps))
    last = attempts[-1]
    load = said_mass(best.load_kg, unit_of(state.implement))
    if last.form_broke or kind is TestKind.TECHNICAL_SINGLE:
        if best.reps > 1 and not last.form_broke:
            return Result(None, best.load_kg, best.reps, 0.0, f"No single was reached; {load} × {best.reps} stands as warm-up.")
        return Result(MarkKind.TECHNICAL_MAX, best.load_kg, 1, 0.0, f"Technical 1RM {load}: the heaviest with good technique.")
    if last.missed or (best.felt is not None and best.felt >= 10):
        return Result(MarkKind.ONE_RM, best.load_kg, 1, 0.0, f"1RM {load}.")
    rir = 10.0 - (best.felt or 0.0)
    if best.felt is not None and rir <= HIGHEST_RIR and best.reps + rir <= MOST_TO_FAILURE:
        words = f"Stopped at {load} × {best.reps} with about {rir:g} in reserve: kept as that, not as a max."
        return Result(MarkKind.SET_RIR, best.load_kg, best.reps, rir, words)
    return Result(None, best.load_kg, best.reps, 0.0, f"Stopped at {load}, too light to say anything about a max.")


def _rep_test(kind: TestKind, attempts: Sequence[Attempt], state: LiftState, stop: bool) -> Step | Result:
    low, aim, high = REP_AIMS[kind]
    tops = attempts[len(REP_WARM_UPS) :]
    if tops and (stop or tops[-1].form_broke or low <= tops[-1].reps <= high):
        return _rep_result(tops[-1], low, high, state)
    if stop:
        return Result(None, 0.0, 0, 0.0, "Stopped before the test set.")
    guess = state.equation.load_kg(state.max_kg, aim) if state.max_kg else None
    if len(attempts) < len(REP_WARM_UPS):
        share, reps = REP_WARM_UPS[len(attempts)]
        if guess is not None:
            return _step(
                share * guess,
                reps,
                _warm_rest_s(state) if attempts else 0,
                f"{100 * share:.0f} % of the target load",
                state,
            )
        if not attempts:
            return _step(_empty_kg(state), 10, 0, "no max known: start from effort", state)
        return _step(_by_felt(attempts, state, share, aim), reps, _warm_rest_s(state), "grown by felt effort", state)
    if not tops:
        load = guess if guess is not None else _by_felt(attempts, state, 1.0, aim)
        why = f"aimed at {aim}: {state.equation.name}" if guess is not None else f"grown by felt effort, aimed at {aim}"
        return _step(load, aim, _top_rest_s(state), why + "; as many as form allows", state, or_more=True, top=True)
    last = tops[-1]
    relation = state.equation
    load = last.load_kg * relation.ratio(min(15, max(1, last.reps))) / relation.ratio(aim)
    if last.reps > high:
        load = max(load, last.load_kg + 1.0)
    return _step(load, aim, 300, f"{last.reps} lay outside {low} to {high}: once more, rested", state, or_more=True, top=True)


def _by_felt(attempts: Sequence[Attempt], state: LiftState, share: float, aim: int = 1) -> float:
    """The load for a share of the most that is likely for `aim` repetitions, by what was felt; within the cap of a step."""
    felt = [Felt(a.load_kg, a.felt if a.felt is not None else UNSAID) for a in attempts]
    estimate, here_kg, novice = estimated_max_kg(felt), attempts[-1].load_kg, is_novice(state)
    wanted = share * (state.equation.load_kg(estimate, aim) if aim > 1 else estimate)
    cap_kg = step_cap_kg(
        here_kg, estimate, is_upper=state.is_upper, is_novice=novice, novice_step_kg=state.rules["test.novice_step_kg"]
    )
    return _within(min(wanted, here_kg + cap_kg), here_kg, state)


UNSAID = 4.0  # [J] felt effort where nobody said one


def _rep_result(last: Attempt, low: int, high: int, state: LiftState) -> Result:
    reps = max(0, last.reps)
    if reps < 1:
        return Result(None, last.load_kg, 0, 0.0, "No repetition with good technique.")
    note = "" if low <= reps <= high else f", outside {low} to {high}: less sure"
    if reps > 15:
        return Result(None, last.load_kg, reps, 0.0, f"{reps} repetitions say too little about a max.")
    load = said_mass(last.load_kg, unit_of(state.implement))
    return Result(MarkKind.REP_MAX, last.load_kg, reps, 0.0, f"{reps}RM {load}{note}.")


def _profile_test(attempts: Sequence[Attempt], state: LiftState, stop: bool) -> Step | Result:
    measured = [a for a in attempts if a.velocity_mps is not None]
    if stop or len(attempts) >= len(PROFILE_LOADS):
        if not measured:
            return Result(None, 0.0, 0, 0.0, "No load was measured.")
        return Result(MarkKind.SET_VELOCITY, measured[-1].load_kg, measured[-1].reps, 0.0, f"{len(measured)} loads measured.")
    share, reps = PROFILE_LOADS[len(attempts)]
    why = f"load {len(attempts) + 1} of {len(PROFILE_LOADS)}, full intent"
    if state.max_kg is not None:
        return _step(
            share * state.max_kg,
            reps,
            _warm_rest_s(state) if attempts else 0,
            f"{why}: {100 * share:.0f} % of the max",
            state,
        )
    if not attempts:
        return _step(_empty_kg(state), 3, 0, why, state)
    return _step(_by_felt(attempts, state, share), reps, _warm_rest_s(state), f"{why}; grown by felt effort", state)
