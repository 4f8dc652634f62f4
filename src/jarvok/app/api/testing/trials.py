"""Trials over HTTP, the effort–velocity table, and what the trials left as an athlete's own."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.athletes.shapes import ChoiceOut
from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.testing.rows import TestRowOut, rows_of
from jarvok.app.api.who import who_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Trial
from jarvok.app.floor.earlier_sets import pairs_by_lift
from jarvok.app.once import once
from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut, shown_mass, working_out
from jarvok.app.testing import trials
from jarvok.app.testing.actions import add_try as add
from jarvok.app.testing.actions import end_trial as end
from jarvok.app.testing.actions import start_trial as start
from jarvok.app.testing.actions import take_back_try
from jarvok.app.testing.max_tests import day_of
from jarvok.app.testing.tries import tries_of
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.quantities.mass import format_mass, in_kg
from jarvok.core.quantities.plates import lifted_kg, unit_of
from jarvok.core.quantities.sentence import counted
from jarvok.core.testing.rest_test import USUAL_RESTS_S, Window, clock_words
from jarvok.core.testing.tried import Jumps, TrialKind, Tried
from jarvok.core.velocity.effort_table import effort_table
from jarvok.core.velocity.ladder import USUAL_TARGET_MPS, State, Try

router = Router(tags=["trials"])


class TrialKindOut(Schema):
    kind: str
    name: str
    how: str
    choices: list[ChoiceOut]
    usual_target_mps: float | None
    usual_rests_s: list[int]


class OwnDefaultOut(Schema):
    kind: str
    exercise: str
    words: str
    day: date


class TrialsOut(Schema):
    athlete_id: int
    athlete_name: str
    unit: str
    kinds: list[TrialKindOut]
    trials: list[TestRowOut]
    kept: list[OwnDefaultOut]


class StartTrial(Schema):
    """A trial as it is asked for: a load that is never passed in the room's unit as `set_most`, or in kg."""

    kind: str
    exercise_id: str
    target_mps: float | None = None
    set_most: float | None = None
    set_most_kg: float | None = None
    rests_s: list[int] = []
    heavy_set: str = ""
    own_error_cm: float | None = None
    rounds: int = 1


class TryNow(Schema):
    """A try as it was done: its load in the room's unit as `load`, or in kg."""

    number: int
    load: float | None = None
    load_kg: float | None = None
    velocity_mps: float | None = None
    form_held: bool = True
    heights_cm: list[float] = []


class EndTrial(Schema):
    keep: bool = True


class TrialTryOut(Schema):
    number: int
    load: float | None
    load_words: str
    velocity_mps: float | None
    form_held: bool
    passed: bool
    rest_s: int | None
    heights_cm: list[float]


class RestWindowOut(Schema):
    rest_s: int
    words: str
    mean_cm: float
    best_cm: float
    gain_cm: float
    beats_error: bool


class TrialOut(Schema):
    id: int
    athlete_id: int
    athlete_name: str
    kind: str
    name: str
    how: str
    exercise: str
    day: date
    caution: str
    asks_velocity: bool
    velocity_words: str
    target_mps: float | None
    record_words: str
    tries: list[TrialTryOut]
    sentence: str
    working: WorkingOut
    # of a ladder
    next_load: float | None
    next_words: str
    next_per_side_kg: list[float]
    unit: str
    next_per_side_words: list[str]
    confirm: bool
    crossing_load: float | None
    line_intercept_mps: float | None
    line_slope: float | None
    # of a rest test
    order: list[int]
    next_rest_s: int | None
    heavy_set: str
    baseline_cm: float | None
    error_cm: float | None
    windows: list[RestWindowOut]
    # of a jump test
    means_cm: list[float]
    kept_reps: int | None
    is_over: bool
    ended: bool
    outcome: str
    kept_words: str


class EffortRowOut(Schema):
    rpe: float
    velocity_mps: float


class EffortPairOut(Schema):
    day: date
    rpe: float
    velocity_mps: float


class EffortTableOut(Schema):
    exercise_id: str
    exercise: str
    velocity_words: str
    rows: list[EffortRowOut]
    pairs: list[EffortPairOut]
    spread_mps: float
    missing: list[str]
    is_open: bool


def _trial(trial_id: int) -> Trial:
    rows = Trial.objects.filter(kind__in=list(TrialKind)).select_related("athlete__squad", "athlete__kit")
    rows = rows.prefetch_related("entries")
    return get_object_or_404(rows, pk=trial_id)


def _in_unit(load_kg: float | None, unit: str) -> float | None:
    """A load in the room's unit, to a tenth."""
    return round(load_kg / in_kg(1.0, unit), 1) if load_kg is not None else None


def _words(load_kg: float | None, unit: str) -> str:
    return f"{format_mass(load_kg, unit)} {unit}" if load_kg is not None else ""


def _value_words(kind: str, value: float, unit: str = "kg") -> str:
    if kind == TrialKind.REST:
        return f"rest {clock_words(int(value))}"
    return f"{counted(value, 'jump')} a set" if kind == TrialKind.REPS else _words(value, unit)


def _rounded(value: float | None) -> float | None:
    return round(value, 2) if value is not None else None


def _try_out(number: int, tried: Tried, target_mps: float | None, unit: str) -> TrialTryOut:
    jumps = tried if isinstance(tried, Jumps) else Jumps(())
    one = tried if isinstance(tried, Try) else None
    load_kg, speed, held = (one.load_kg, one.velocity_mps, one.form_held) if one is not None else (None, None, True)
    return TrialTryOut(
        number=number,
        load=_in_unit(load_kg, unit),
        load_words=_words(load_kg, unit),
        velocity_mps=speed,
        form_held=held,
        passed=held and (target_mps is None or speed is None or speed >= target_mps),
        rest_s=jumps.rest_s,
        heights_cm=list(jumps.heights_cm),
    )


def _window_out(w: Window) -> RestWindowOut:
    return RestWindowOut(
        rest_s=w.rest_s,
        words=clock_words(w.rest_s),
        mean_cm=round(w.mean_cm, 1),
        best_cm=round(w.best_cm, 1),
        gain_cm=round(w.gain_cm, 1),
        beats_error=w.beats_error,
    )


def trial_out(trial_id: int) -> TrialOut:
    trial = _trial(trial_id)
    kind, found, lift = TrialKind(trial.kind), trials.standing(trial), exercise(trial.exercise_id)
    ladder, rest, reps = found.ladder, found.rest, found.reps
    loaded = kind in (TrialKind.LADDER, TrialKind.SINGLE)
    unit = "kg"
    if loaded:
        unit = unit_of(trials.state_of(trial).implement)
    shown = shown_mass(ladder.load_kg if ladder else None, ladder.per_side_kg if ladder else (), unit)
    target = trial.asked.get("target_mps")
    result = ladder or rest or reps
    assert result is not None
    over = (ladder is not None and ladder.state is State.ENDED) or (kind is TrialKind.REST and found.next_rest_s is None)
    return TrialOut(
        id=trial.pk,
        athlete_id=trial.athlete_id,
        athlete_name=trial.athlete.name,
        kind=kind,
        name=trials.NAMES[kind],
        how=trials.HOW[kind],
        exercise=lift.name,
        day=day_of(trial),
        caution=trials.SAFETY if loaded else trials.LANDING,
        asks_velocity=kind is TrialKind.LADDER,
        velocity_words="m/s peak" if lift.velocity == "peak" else "m/s mean",
        target_mps=target,
        record_words=_words(trials.record_of(trial), unit) if loaded else "",
        tries=[_try_out(i, tried, target, unit) for i, tried in enumerate(tries_of(trial), start=1)],
        sentence=found.sentence,
        working=working_out(result.working),
        next_load=_in_unit(ladder.load_kg if ladder else None, unit),
        next_words=_words(ladder.load_kg if ladder else None, unit),
        next_per_side_kg=list(ladder.per_side_kg) if ladder else [],
        unit=unit,
        next_per_side_words=shown["per_side_words"],
        confirm=ladder is not None and ladder.state is State.CONFIRM,
        crossing_load=_in_unit(ladder.crossing_kg if ladder else None, unit),
        line_intercept_mps=ladder.line[0] if ladder and ladder.line else None,
        line_slope=ladder.line[1] * in_kg(1.0, unit) if ladder and ladder.line else None,
        order=trial.asked.get("order", []),
        next_rest_s=found.next_rest_s,
        heavy_set=trial.asked.get("heavy_set", ""),
        baseline_cm=round(rest.baseline_cm, 1) if rest and rest.baseline_cm is not None else None,
        error_cm=_rounded(rest.error_cm if rest else reps.error_cm if reps else None),
        windows=[_window_out(w) for w in (rest.windows if rest else ())],
        means_cm=[round(m, 1) for m in (reps.means_cm if reps else ())],
        kept_reps=reps.kept_reps if reps else None,
        is_over=over,
        ended=trial.ended_at is not None,
        outcome=trial.outcome,
        kept_words=_value_words(kind, found.value, unit) if found.value is not None else "",
    )


@router.get("/athletes/{int:athlete_id}/trials", response={200: TrialsOut, **ERRORS})
def read_trials(request: HttpRequest, athlete_id: int) -> TrialsOut:
    athlete = get_object_or_404(Athlete.objects.select_related("kit"), pk=athlete_id)
    unit = kit_of(athlete.kit).unit
    loaded = [ChoiceOut(id=e.id, name=e.name) for e in exercises().values() if e.is_loaded and e.motion is not None]
    singles = [ChoiceOut(id=e.id, name=e.name) for e in exercises().values() if e.kind in ("strength", "classic")]
    jumps = [ChoiceOut(id=e.id, name=e.name) for e in trials.jumps_to_try()]
    choices = {TrialKind.LADDER: loaded, TrialKind.SINGLE: singles, TrialKind.REST: jumps, TrialKind.REPS: jumps}
    return TrialsOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        unit=unit,
        kinds=[
            TrialKindOut(
                kind=k,
                name=trials.NAMES[k],
                how=trials.HOW[k],
                choices=choices[k],
                usual_target_mps=USUAL_TARGET_MPS if k is TrialKind.LADDER else None,
                usual_rests_s=list(USUAL_RESTS_S) if k is TrialKind.REST else [],
            )
            for k in TrialKind
        ],
        trials=rows_of(athlete),
        kept=[
            OwnDefaultOut(
                kind=d.kind, exercise=exercise(d.exercise_id).name, words=_value_words(d.kind, d.value, unit), day=d.at.date()
            )
            for d in trials.own_defaults(athlete_id).values()
        ],
    )


@router.post("/athletes/{int:athlete_id}/trials", response={200: TrialOut, **ERRORS})
def start_trial(request: HttpRequest, athlete_id: int, payload: StartTrial, idempotency_key: IdempotencyKey) -> TrialOut:
    rows = Athlete.objects.select_related("squad", "kit").prefetch_related("restrictions")
    athlete = get_object_or_404(rows, pk=athlete_id)

    def do() -> dict[str, Any]:
        asked = payload.dict(exclude={"kind", "exercise_id", "set_most"})
        if payload.set_most is not None:
            asked["set_most_kg"] = in_kg(payload.set_most, kit_of(athlete.kit).unit)
        return {"trial": start.run(who_of(request), athlete, payload.kind, payload.exercise_id, asked).pk}

    return trial_out(once(idempotency_key, {"athlete": athlete_id, **payload.dict()}, do)["trial"])


@router.get("/trials/{int:trial_id}", response={200: TrialOut, **ERRORS})
def read_trial(request: HttpRequest, trial_id: int) -> TrialOut:
    return trial_out(trial_id)


def _write(key: str, trial_id: int, body: dict[str, Any], act: Any) -> TrialOut:
    trial = _trial(trial_id)

    def do() -> dict[str, Any]:
        act(trial)
        return {"trial": trial_id}

    once(key, {"trial": trial_id, **body}, do)
    return trial_out(trial_id)


@router.post("/trials/{int:trial_id}/tries", response={200: TrialOut, **ERRORS})
def add_try(request: HttpRequest, trial_id: int, payload: TryNow, idempotency_key: IdempotencyKey) -> TrialOut:
    data = payload.dict(exclude={"number", "load"})

    def act(trial: Trial) -> None:
        if payload.load is not None:
            data["load_kg"] = lifted_kg(payload.load, trials.state_of(trial).implement)
        add.run(who_of(request), trial, payload.number, data)

    return _write(idempotency_key, trial_id, payload.dict(), act)


@router.post("/trials/{int:trial_id}/undo", response={200: TrialOut, **ERRORS})
def undo_try(request: HttpRequest, trial_id: int, idempotency_key: IdempotencyKey) -> TrialOut:
    return _write(idempotency_key, trial_id, {"undo": True}, lambda t: take_back_try.run(who_of(request), t))


@router.post("/trials/{int:trial_id}/end", response={200: TrialOut, **ERRORS})
def end_trial(request: HttpRequest, trial_id: int, payload: EndTrial, idempotency_key: IdempotencyKey) -> TrialOut:
    return _write(idempotency_key, trial_id, payload.dict(), lambda t: end.run(who_of(request), t, payload.keep))


@router.get("/athletes/{int:athlete_id}/effort", response={200: list[EffortTableOut], **ERRORS})
def read_effort(request: HttpRequest, athlete_id: int) -> list[EffortTableOut]:
    """The effort–velocity table of every lift with paired sets."""
    athlete = get_object_or_404(Athlete.objects.select_related("squad", "kit"), pk=athlete_id)
    rules = LiftBook([athlete], clock.today()).rules
    found: list[EffortTableOut] = []
    for lift_id, pairs in sorted(pairs_by_lift(athlete_id, clock.today()).items(), key=lambda x: -len(x[1])):
        lift = exercise(lift_id)
        table = effort_table(pairs, rules)
        found.append(
            EffortTableOut(
                exercise_id=lift.id,
                exercise=lift.name,
                velocity_words="m/s peak" if lift.velocity == "peak" else "m/s mean",
                rows=[EffortRowOut(rpe=r, velocity_mps=v) for r, v in table.rows],
                pairs=[EffortPairOut(day=p.day, rpe=p.rpe, velocity_mps=round(p.velocity_mps, 3)) for p in table.pairs],
                spread_mps=round(table.spread_mps, 3),
                missing=list(table.missing),
                is_open=table.is_open,
            )
        )
    return found
