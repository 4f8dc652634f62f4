"""What a coach does with an athlete's marks."""

from __future__ import annotations

from datetime import date

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, MarkRecord, MaxDecision
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.problems import Conflict, NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.equations import MOST_REPS
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import max_from_mark
from jarvok.core.quantities.mass import check_load_kg, format_kg

TYPED_KINDS = (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.REP_MAX, MarkKind.AMRAP, MarkKind.SET_RIR)


@transaction.atomic
def add_mark(
    athlete: Athlete,
    exercise_id: str,
    kind: MarkKind,
    day: date,
    load_kg: float,
    reps: int,
    rir: float,
    note: str,
    confirm: bool,
) -> MarkRecord:
    lift = exercise(exercise_id)
    if not lift.is_loaded:
        raise CoachError(f"{lift.name} is not a loaded lift.", where="exercise_id", accepted="Choose a loaded lift.")
    if kind not in TYPED_KINDS:
        raise CoachError("This kind of mark comes from a sensor.", where="kind", accepted=", ".join(TYPED_KINDS))
    if day > clock.today():
        raise CoachError(f"{day:%-d %B %Y} is still to come.", where="day", accepted="Today or an earlier day is accepted.")
    if check_load_kg(load_kg, "load_kg") <= 0:
        raise CoachError("A mark needs a load above zero.", where="load_kg", accepted="0.5 to 600 kg are accepted.")
    if kind in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX):
        reps, rir = 1, 0.0
    if not 1 <= reps <= MOST_REPS:
        raise CoachError(
            f"{reps} repetitions say too little about a max.", where="reps", accepted=f"1 to {MOST_REPS} are accepted."
        )
    if not 0 <= rir <= 10:
        raise CoachError("Reps in reserve run from 0 to 10.", where="rir")
    book = LiftBook([athlete], clock.today())
    best = book.max(athlete.pk, exercise_id)
    improbable = 1 + book.rules["marks.improbable_pct"] / 100
    implied = max_from_mark(Mark("new", day, kind, load_kg, reps, rir), book.rules)
    if best is not None and implied is not None and implied > improbable * best.value_kg and not confirm:
        raise NeedsConfirmation(
            f"This says {implied:.0f} kg; the max so far is {best.value_kg:.0f} kg.",
            where="load_kg",
            accepted="Save it again to confirm.",
        )
    return MarkRecord.objects.create(
        athlete=athlete, exercise_id=exercise_id, kind=kind, day=day, load_kg=load_kg, reps=reps, rir=rir, note=note[:200]
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
    words = f"{format_kg(mark.load_kg)} kg"
    if mark.kind not in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX):
        words += f" × {mark.reps}"
    return words + (f", {mark.rir:g} in reserve" if mark.rir else "")
