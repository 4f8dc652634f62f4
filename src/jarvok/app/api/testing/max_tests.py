"""Guided tests: who may do which, the next step, and the marks they write."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.athletes.shapes import ChoiceOut
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.testing.rows import TestRowOut, rows_of
from jarvok.app.api.who import who_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Trial
from jarvok.app.schema import Schema
from jarvok.app.shapes import shown_mass
from jarvok.app.testing import max_tests as services
from jarvok.app.testing.actions import end_test as end
from jarvok.app.testing.actions import log_attempt as log
from jarvok.app.testing.actions import start_test as start
from jarvok.app.testing.actions import undo_attempt as undo
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import KIND_NAMES
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.quantities.mass import format_mass, in_kg
from jarvok.core.quantities.plates import lifted_kg, unit_of
from jarvok.core.testing.choice import HOW, NAMES, TestKind
from jarvok.core.testing.steps import Result, Step, ramp
from jarvok.core.velocity.daily_max import daily_max
from jarvok.core.velocity.profile import LoadVelocity

router = Router(tags=["tests"])


class OfferOut(Schema):
    kind: str
    name: str
    how: str
    is_open: bool
    is_suggested: bool
    reasons: list[str]
    caution: str


class TestsOut(Schema):
    athlete_id: int
    athlete_name: str
    exercise_id: str
    exercise: str
    max_words: str
    choices: list[ChoiceOut]
    offers: list[OfferOut]
    tests: list[TestRowOut]


class StepOut(Schema):
    load_kg: float
    load: str
    per_side_kg: list[float]
    unit: str
    load_words: str
    per_side_words: list[str]
    reps: int
    or_more: bool
    rest_s: int
    why: str
    is_top: bool


class ResultOut(Schema):
    words: str
    mark: str


class AttemptOut(Schema):
    number: int
    load_kg: float
    load: str
    reps: int
    felt: float | None
    form_broke: bool
    missed: bool
    velocity_mps: float | None


class TestOut(Schema):
    id: int
    athlete_id: int
    athlete_name: str
    exercise: str
    kind: str
    name: str
    how: str
    caution: str
    day: date
    unit: str
    max_words: str
    asks_velocity: bool
    asks_felt: bool
    planned: list[StepOut]
    attempts: list[AttemptOut]
    next: StepOut | None
    result: ResultOut | None
    ended: bool
    outcome: str
    fit: list[str]
    fit_words: str


class StartTest(Schema):
    exercise_id: str
    kind: str
    has_pain: bool = False


class AttemptIn(Schema):
    """A set as it was done: its load as `load` in the unit of the kit it is lifted with, or in kg as `load_kg`."""

    number: int
    load: float | None = None
    load_kg: float = 0.0
    reps: int
    felt: float | None = None
    form_broke: bool = False
    missed: bool = False
    velocity_mps: float | None = None


def _step_out(step: Step, state: LiftState) -> StepOut:
    unit = unit_of(state.implement)
    shown = shown_mass(step.load_kg, step.per_side_kg, unit) | {"load": format_mass(step.load_kg, unit)}
    return StepOut(**{**step.__dict__, **shown, "per_side_kg": list(step.per_side_kg)})


def _max_words(current: CurrentMax | None, unit: str) -> str:
    """The max today with its error, in the room's unit."""
    if current is None:
        return ""
    each = in_kg(1.0, unit)
    return f"{current.value_kg / each:.1f} {unit} ± {current.error_kg / each:.1f}"


def _athlete(athlete_id: int) -> Athlete:
    rows = Athlete.objects.select_related("squad", "kit").prefetch_related("restrictions")
    return get_object_or_404(rows, pk=athlete_id)


def _test(test_id: int) -> Trial:
    rows = services.guided(Trial.objects.select_related("athlete__squad", "athlete__kit").prefetch_related("entries"))
    return get_object_or_404(rows, pk=test_id)


def _fit(test: Trial) -> tuple[list[str], str]:
    """What a load-velocity test still needs, and what it says so far."""
    day = services.day_of(test)
    points = [LoadVelocity(day, a.load_kg, a.velocity_mps) for a in services.attempts_of(test) if a.velocity_mps is not None]
    if not points:
        return [], ""
    state = services.state_of(test)
    found = daily_max(points, exercise(test.exercise_id), state.max_kg, state.rules)
    if found.load_kg is None:
        said = f"R² {found.profile.r_squared:.2f} so far." if found.profile else f"{len(points)} loads measured."
        return list(found.missing), said
    interval = found.interval_kg
    unit = unit_of(state.implement)
    low, high = (round(x / in_kg(1.0, unit)) for x in interval) if interval else (0, 0)
    band = f", 95 % between {low} and {high}" if interval else ""
    r2 = found.profile.r_squared if found.profile else 0.0
    return [], f"The line is sound (R² {r2:.2f}): the day's max is {found.load_kg / in_kg(1.0, unit):.1f} {unit}{band}."


def test_out(test_id: int) -> TestOut:
    test = _test(test_id)
    kind, state = TestKind(test.kind), services.state_of(test)
    coming = services.coming(test, state)
    caution = next(o.caution for o in services.offers(test.athlete, exercise(test.exercise_id), False) if o.kind is kind)
    fit, fit_words = _fit(test) if kind is TestKind.LOAD_VELOCITY else ([], "")
    single = kind in (TestKind.TRUE_MAX, TestKind.TECHNICAL_SINGLE)
    return TestOut(
        id=test.pk,
        athlete_id=test.athlete_id,
        athlete_name=test.athlete.name,
        exercise=exercise(test.exercise_id).name,
        kind=kind,
        name=NAMES[kind],
        how=HOW[kind],
        caution=caution,
        day=services.day_of(test),
        unit=unit_of(state.implement),
        max_words=_max_words(state.max, unit_of(state.implement)),
        asks_velocity=kind is TestKind.LOAD_VELOCITY,
        asks_felt=kind is not TestKind.LOAD_VELOCITY or state.max is None,
        planned=[_step_out(s, state) for s in ramp(state)] if single else [],
        attempts=[
            AttemptOut(number=i, load=format_mass(a.load_kg, unit_of(state.implement)), **a.__dict__)
            for i, a in enumerate(services.attempts_of(test), start=1)
        ],
        next=_step_out(coming, state) if isinstance(coming, Step) and test.ended_at is None else None,
        result=ResultOut(words=coming.words, mark=KIND_NAMES[coming.kind] if coming.kind else "")
        if isinstance(coming, Result)
        else None,
        ended=test.ended_at is not None,
        outcome=test.outcome,
        fit=fit,
        fit_words=fit_words,
    )


@router.get("/athletes/{int:athlete_id}/tests", response={200: TestsOut, **ERRORS})
def read_tests(request: HttpRequest, athlete_id: int, exercise_id: str = "", has_pain: bool = False) -> TestsOut:
    athlete = _athlete(athlete_id)
    book = LiftBook([athlete], clock.today())
    known = [lift for lift in book.lifts_of(athlete_id) if lift.same_lift == lift.id]
    lift = exercise(exercise_id) if exercise_id else (known[0] if known else exercise("back_squat"))
    current = book.max(athlete_id, lift.id)
    return TestsOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        exercise_id=lift.id,
        exercise=lift.name,
        max_words=_max_words(current, unit_of(implement_for(lift, kit_of(athlete.kit)))),
        choices=[ChoiceOut(id=e.id, name=e.name) for e in exercises().values() if e.is_loaded and e.same_lift == e.id],
        offers=[
            OfferOut(
                kind=o.kind,
                name=NAMES[o.kind],
                how=HOW[o.kind],
                is_open=o.is_open,
                is_suggested=o.is_suggested,
                reasons=list(o.reasons),
                caution=o.caution,
            )
            for o in services.offers(athlete, lift, has_pain)
        ],
        tests=rows_of(athlete),
    )


@router.post("/athletes/{int:athlete_id}/tests", response={200: TestOut, **ERRORS})
def start_test(request: HttpRequest, athlete_id: int, payload: StartTest) -> TestOut:
    return test_out(start.run(who_of(request), _athlete(athlete_id), payload.exercise_id, payload.kind, payload.has_pain).pk)


@router.get("/tests/{int:test_id}", response={200: TestOut, **ERRORS})
def read_test(request: HttpRequest, test_id: int) -> TestOut:
    return test_out(test_id)


@router.post("/tests/{int:test_id}/attempts", response={200: TestOut, **ERRORS})
def log_attempt(request: HttpRequest, test_id: int, payload: AttemptIn) -> TestOut:
    test, told = _test(test_id), payload.dict(exclude={"load"})
    if payload.load is not None:
        told["load_kg"] = lifted_kg(payload.load, services.state_of(test).implement)
    log.run(who_of(request), test, services.NewAttempt(**told))
    return test_out(test_id)


@router.post("/tests/{int:test_id}/undo", response={200: TestOut, **ERRORS})
def undo_attempt(request: HttpRequest, test_id: int) -> TestOut:
    undo.run(who_of(request), _test(test_id))
    return test_out(test_id)


@router.post("/tests/{int:test_id}/end", response={200: TestOut, **ERRORS})
def end_test(request: HttpRequest, test_id: int) -> TestOut:
    """End the test here and write its marks."""
    end.run(who_of(request), _test(test_id))
    return test_out(test_id)
