"""What a coach does with an athlete's marks."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, MarkRecord, MaxDecision
from jarvok.app.athletes.queries import LiftBook, age_of
from jarvok.app.problems import Conflict, NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import Exercise, exercise
from jarvok.core.marks.effort import rir_for_rpe
from jarvok.core.marks.equations import MOST_REPS
from jarvok.core.marks.mark import EVIDENCE, Mark, MarkKind
from jarvok.core.marks.performance import check_measures, read
from jarvok.core.marks.working_max import max_from_mark
from jarvok.core.quantities.mass import check_load_kg, format_kg
from jarvok.core.testing.choice import ADULT_AGE

TYPED_KINDS = tuple(k for k in MarkKind if k is not MarkKind.VELOCITY_MAX)
SINGLES = (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX)
LOADED = (*EVIDENCE, MarkKind.SET_VELOCITY, MarkKind.VELOCITY_BEST, MarkKind.SET_REP_BEST)
FITS: dict[MarkKind, tuple[str, ...]] = {  # which kinds of exercise a mark of its own kind belongs to
    MarkKind.JUMP: ("jump",),
    MarkKind.DROP_JUMP: ("jump",),
    MarkKind.HOLD: ("hold",),
    MarkKind.SPRINT: ("run",),
}
SIDES = ("", "left", "right")


@dataclass(frozen=True)
class TypedMark:
    """A mark as it was typed."""

    exercise_id: str
    kind: MarkKind
    day: date
    load_kg: float = 0.0
    sets: int = 1
    reps: int = 1
    rir: float = 0.0
    rpe: float | None = None
    side: str = ""
    measures: dict[str, float] = field(default_factory=dict)
    note: str = ""
    confirm: bool = False


@transaction.atomic
def add_mark(athlete: Athlete, typed: TypedMark, replaces: MarkRecord | None = None) -> MarkRecord:
    """Store a mark, or a corrected one in place of `replaces`, which is withdrawn and kept."""
    lift, kind = exercise(typed.exercise_id), typed.kind
    if kind not in TYPED_KINDS:
        raise CoachError("This kind of mark comes from a sensor.", where="kind", accepted=", ".join(TYPED_KINDS))
    if typed.day > clock.today():
        raise CoachError(f"{typed.day:%-d %B %Y} is still to come.", where="day", accepted="Today or an earlier day is accepted.")
    if typed.side not in SIDES:
        raise CoachError("A side is left or right.", where="side", accepted="left, right or none")
    if replaces is not None and replaces.withdrawn_at is not None:
        raise Conflict("This mark has been withdrawn already.")
    _check_fit(lift, kind)
    _check_minor(athlete, kind, typed.day)
    measures = check_measures(kind, typed.measures)
    load_kg, reps, rir, sets = _check_load(typed) if kind in LOADED else (0.0, 1, 0.0, 1)
    if kind in EVIDENCE and not typed.side:
        _ask_when_improbable(athlete, typed, load_kg, reps, rir, replaces)
    if replaces is not None:
        withdraw_mark(replaces)
    return MarkRecord.objects.create(
        athlete=athlete, exercise_id=lift.id, kind=kind, day=typed.day, load_kg=load_kg, sets=sets, reps=reps, rir=rir,
        side=typed.side, measures=measures, note=typed.note[:200], replaces=replaces,
    )  # fmt: skip


def _check_fit(lift: Exercise, kind: MarkKind) -> None:
    if kind in LOADED and not lift.is_loaded:
        raise CoachError(f"{lift.name} is not a loaded lift.", where="exercise_id", accepted="Choose a loaded lift.")
    if kind in FITS and lift.kind not in FITS[kind]:
        words = {"jump": "a jump", "hold": "a hold", "run": "a run"}[FITS[kind][0]]
        raise CoachError(f"{lift.name} is not {words}.", where="exercise_id", accepted=f"Choose {words}.")


def _check_minor(athlete: Athlete, kind: MarkKind, day: date) -> None:
    age = age_of(athlete, day)
    if kind is MarkKind.ONE_RM and age is not None and age < ADULT_AGE and not athlete.supervised:
        raise CoachError(
            "A true 1RM is not kept for somebody under 18 without supervision noted.",
            where="kind",
            accepted="A technical max or a rep-max, or note the supervision in the record.",
        )


def _check_load(typed: TypedMark) -> tuple[float, int, float, int]:
    """Load in kg, repetitions, reps in reserve and sets, checked."""
    if check_load_kg(typed.load_kg, "load_kg") <= 0:
        raise CoachError("A mark needs a load above zero.", where="load_kg", accepted="0.5 to 600 kg are accepted.")
    if typed.kind in SINGLES:
        return typed.load_kg, 1, 0.0, 1
    if not 1 <= typed.reps <= MOST_REPS:
        raise CoachError(
            f"{typed.reps} repetitions say too little about a max.", where="reps", accepted=f"1 to {MOST_REPS} are accepted."
        )
    if not 1 <= typed.sets <= 30:
        raise CoachError(f"{typed.sets} sets cannot be.", where="sets", accepted="1 to 30 are accepted.")
    rir = rir_for_rpe(typed.rpe) if typed.rpe is not None else typed.rir
    if not 0 <= rir <= 10:
        raise CoachError("Reps in reserve run from 0 to 10.", where="rir")
    return typed.load_kg, typed.reps, rir if typed.kind is MarkKind.SET_RIR else 0.0, typed.sets


def _ask_when_improbable(
    athlete: Athlete, typed: TypedMark, load_kg: float, reps: int, rir: float, replaces: MarkRecord | None
) -> None:
    book = LiftBook([athlete], clock.today(), without_mark=replaces.pk if replaces else None)
    best = book.max(athlete.pk, typed.exercise_id)
    implied = max_from_mark(Mark("new", typed.day, typed.kind, load_kg, reps, rir), book.rules)
    if best is None or implied is None or typed.confirm:
        return
    if implied > (1 + book.rules["marks.improbable_pct"] / 100) * best.value_kg:
        raise NeedsConfirmation(
            f"This says {implied:.0f} kg; the max so far is {best.value_kg:.0f} kg.",
            where="load_kg",
            accepted="Save it again to confirm.",
        )


@transaction.atomic
def withdraw_mark(mark: MarkRecord) -> None:
    if mark.withdrawn_at is not None:
        raise Conflict("This mark has been withdrawn already.")
    mark.withdrawn_at = clock.now()
    mark.save()


@transaction.atomic
def decide_rise(athlete: Athlete, exercise_id: str, day: date, accepted: bool) -> None:
    """Accept a proposed rise, or leave the marks of its day out."""
    current = LiftBook([athlete], clock.today()).max(athlete.pk, exercise_id)
    if current is None or current.proposal is None or current.proposal.day != day:
        raise Conflict("This rise no longer waits for a decision.")
    MaxDecision.objects.create(athlete=athlete, exercise_id=exercise_id, day=day, accepted=accepted)


def describe_mark(mark: MarkRecord) -> str:
    kind = MarkKind(mark.kind)
    reading = read(kind, mark.measures, mark.load_kg)
    if reading is not None:
        words = reading.words
    else:
        words = f"{format_kg(mark.load_kg)} kg"
        if kind is MarkKind.SET_REP_BEST:
            words = f"{mark.sets} × {mark.reps} at {words}"
        elif kind not in SINGLES:
            words += f" × {mark.reps}"
    if mark.rir:
        words += f", {mark.rir:g} in reserve"
    return words + (f", {mark.side}" if mark.side else "")
