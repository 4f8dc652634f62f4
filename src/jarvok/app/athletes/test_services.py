"""What a coach does in a guided test: start it, log an attempt, take one back, end it with its marks."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, MarkRecord, MaxTest, TestAttempt
from jarvok.app.athletes.queries import LiftBook, age_of, restrictions_of
from jarvok.app.athletes.services import TypedMark, add_mark
from jarvok.app.floor.models import TrainingSession
from jarvok.app.problems import Conflict
from jarvok.app.seasons.queries import SeasonBook
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import Exercise, exercise
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.mass import check_load_kg
from jarvok.core.testing.choice import NAMES, TestedAthlete, TestKind, TestOffer, offers_for
from jarvok.core.testing.steps import Attempt, Result, Step, next_step

IN_SEASON_DAYS = 21  # [J] this near to a competition counts as in season
BREAK_DAYS = 21  # common practice: over three weeks away, ramp again from a reduced max


@dataclass(frozen=True)
class NewAttempt:
    number: int
    load_kg: float
    reps: int
    felt: float | None
    form_broke: bool
    missed: bool
    velocity_mps: float | None


def offers(athlete: Athlete, lift: Exercise, has_pain: bool) -> tuple[TestOffer, ...]:
    today = clock.today()
    goal = SeasonBook([athlete], today).goal(athlete.pk)
    hit = next((r for r in restrictions_of(athlete, today) if r.tag in (lift.pattern, lift.region, *lift.tags)), None)
    last = TrainingSession.objects.filter(athlete=athlete, day__lte=today).order_by("-day").values_list("day", flat=True).first()
    return offers_for(
        TestedAthlete(
            age=age_of(athlete, today),
            training_age_years=athlete.training_age_years,
            supervised=athlete.supervised,
            in_season=goal is not None and (goal.day - today).days <= IN_SEASON_DAYS,
            has_pain=has_pain,
            restriction=hit.words if hit else "",
            is_cleared=hit is not None and bool(hit.cleared_by),
            is_returning=last is not None and today - last > timedelta(days=BREAK_DAYS),
            can_measure=lift.motion is not None and lift.velocity == "mean",
        )
    )


@transaction.atomic
def start_test(athlete: Athlete, exercise_id: str, kind: str, has_pain: bool) -> MaxTest:
    lift = exercise(exercise_id)
    if not lift.is_loaded:
        raise CoachError(f"{lift.name} is not a loaded lift.", where="exercise_id", accepted="Choose a loaded lift.")
    if kind not in set(TestKind):
        raise CoachError("There is no such test.", where="kind", accepted=", ".join(NAMES.values()))
    offer = next(o for o in offers(athlete, lift, has_pain) if o.kind == kind)
    if not offer.is_open:
        raise CoachError(
            f"{NAMES[offer.kind]} is not open here: {'; '.join(offer.reasons)}.", where="kind", accepted="Another test."
        )
    running = athlete.tests.filter(ended_at__isnull=True).first()
    if running is not None:
        raise Conflict(f"A test of the {exercise(running.exercise_id).name.lower()} is still running. End it first.")
    return MaxTest.objects.create(athlete=athlete, exercise_id=exercise_id, kind=kind, day=clock.today(), started_at=clock.now())


def attempts_of(test: MaxTest) -> list[Attempt]:
    return [
        Attempt(a.load_kg, a.reps, a.felt, a.form_broke, a.missed, a.velocity_mps)
        for a in test.attempts.all()
        if a.taken_back_at is None
    ]


def state_of(test: MaxTest) -> LiftState:
    return LiftBook([test.athlete], test.day).state(test.athlete_id, test.exercise_id)


def coming(test: MaxTest, state: LiftState, *, stop: bool = False) -> Step | Result:
    return next_step(TestKind(test.kind), attempts_of(test), state, stop)


@transaction.atomic
def log_attempt(test: MaxTest, new: NewAttempt) -> None:
    """Store an attempt. The same number with the same content again changes nothing."""
    if test.ended_at is not None:
        raise Conflict("This test is over. Its record stays as it is.")
    check_load_kg(new.load_kg, "load_kg")
    if not 0 <= new.reps <= 60:
        raise CoachError(f"{new.reps} repetitions cannot be.", where="reps", accepted="0 to 60 are accepted.")
    if new.felt is not None and not 1 <= new.felt <= 10:
        raise CoachError("Felt effort runs from 1 to 10.", where="felt")
    if new.velocity_mps is not None and not 0.05 <= new.velocity_mps <= 5:
        raise CoachError("A bar velocity of 0.05 to 5 m/s is accepted.", where="velocity_mps")
    done = test.attempts.filter(number=new.number, taken_back_at__isnull=True).first()
    if done is not None:
        if (done.load_kg, done.reps) == (new.load_kg, new.reps):
            return
        raise Conflict(f"Set {new.number} is already logged: {done.load_kg:g} kg × {done.reps}.")
    if new.number != len(attempts_of(test)) + 1:
        raise Conflict("Another set was logged meanwhile. The page shows it now.")
    if test.kind == TestKind.LOAD_VELOCITY and new.velocity_mps is None and not new.missed:
        raise CoachError("This test needs the velocity of the fastest repetition.", where="velocity_mps")
    TestAttempt.objects.create(test=test, at=clock.now(), **new.__dict__)


@transaction.atomic
def undo_attempt(test: MaxTest) -> None:
    if test.ended_at is not None:
        raise Conflict("This test is over. Its record stays as it is.")
    last = test.attempts.filter(taken_back_at__isnull=True).last()
    if last is None:
        raise Conflict("Nothing has been logged yet.")
    last.taken_back_at = clock.now()
    last.save()


@transaction.atomic
def end_test(test: MaxTest) -> None:
    """End a test and write its marks: one, or one for each load of a load-velocity test."""
    if test.ended_at is not None:
        raise Conflict("This test is over already.")
    result = coming(test, state_of(test))
    if isinstance(result, Step):
        result = coming(test, state_of(test), stop=True)
    assert isinstance(result, Result)
    note = f"test: {NAMES[TestKind(test.kind)]}"
    if result.kind is MarkKind.SET_VELOCITY:
        for a in attempts_of(test):
            if a.velocity_mps is not None:
                test.mark = _mark(test, TypedMark(test.exercise_id, MarkKind.SET_VELOCITY, test.day, a.load_kg, reps=a.reps,
                                                  measures={"velocity_mps": a.velocity_mps}, note=note))  # fmt: skip
    elif result.kind is not None:
        typed = TypedMark(test.exercise_id, result.kind, test.day, result.load_kg, reps=result.reps, rir=result.rir, note=note)
        test.mark = _mark(test, typed)
    test.ended_at, test.outcome = clock.now(), result.words[:200]
    test.save()


def _mark(test: MaxTest, typed: TypedMark) -> MarkRecord:
    return add_mark(test.athlete, TypedMark(**{**typed.__dict__, "confirm": True}))  # it was seen: nothing to ask
