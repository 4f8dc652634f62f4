"""A mark as it is typed: what can be, what is asked about, and how it reads."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import age_of
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.problems import NeedsConfirmation
from jarvok.core.equations import MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.experience import is_minor
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import checked, from_raw, words_of
from jarvok.core.marks.effort import rir_for_rpe
from jarvok.core.marks.mark import EVIDENCE, Mark, MarkKind
from jarvok.core.marks.performance import read
from jarvok.core.marks.readings import max_from_mark
from jarvok.core.quantities.mass import check_load_kg, format_mass

TYPED_KINDS = tuple(k for k in MarkKind if k not in (MarkKind.VELOCITY_MAX, MarkKind.SET_DONE))
SINGLES = (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX)
BY_REPS = (MarkKind.REP_MAX, MarkKind.AMRAP, MarkKind.SET_RIR)
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
    unit: str = "kg"  # as it was typed
    sets: int = 1
    reps: int = 1
    rir: float = 0.0
    rpe: float | None = None
    side: str = ""
    measures: dict[str, float] = field(default_factory=dict)
    conditions: dict[str, str] = field(default_factory=dict)
    note: str = ""
    confirm: bool = False


def check_fit(lift: Exercise, kind: MarkKind) -> None:
    """Raise `CoachError` when a mark of that kind does not belong to the exercise."""
    if kind in LOADED and not lift.is_loaded:
        raise CoachError(f"{lift.name} is not a loaded lift.", where="exercise_id", accepted="Choose a loaded lift.")
    if kind in FITS and lift.kind not in FITS[kind]:
        words = {"jump": "a jump", "hold": "a hold", "run": "a run"}[FITS[kind][0]]
        raise CoachError(f"{lift.name} is not {words}.", where="exercise_id", accepted=f"Choose {words}.")


def check_minor(athlete: Athlete, kind: MarkKind, day: date, reps: int = 1, rir: float = 0.0) -> None:
    """Raise `CoachError` for a true 1RM of a minor without supervision, whatever it is called."""
    age = age_of(athlete, day)
    is_single = kind is MarkKind.ONE_RM or (kind in BY_REPS and reps + rir <= 1)
    if is_single and is_minor(age) and not athlete.supervised:
        raise CoachError(
            "A true 1RM is not kept for somebody under 18 without supervision noted.",
            where="kind",
            accepted="A technical 1RM or a rep-max, or note the supervision under Details.",
        )


def checked_load(typed: TypedMark) -> tuple[float, int, float, int]:
    """Load in kg, repetitions, reps in reserve and sets, checked."""
    if check_load_kg(typed.load_kg, "load_kg") <= 0:
        raise CoachError("A result needs a load above zero.", where="load_kg", accepted="0.5 to 600 kg are accepted.")
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


def ask_when_improbable(
    athlete: Athlete, typed: TypedMark, load_kg: float, reps: int, rir: float, replaces: MarkRecord | None
) -> None:
    """Raise `NeedsConfirmation` when a mark says far more than is known, until it is confirmed."""
    book = LiftBook([athlete], clock.today(), without_mark=replaces.pk if replaces else None)
    best = book.max(athlete.pk, typed.exercise_id, checked(exercise(typed.exercise_id), typed.conditions))
    body_kg = book.body_kg(athlete.pk, exercise(typed.exercise_id).same_lift)
    implied = max_from_mark(Mark("new", typed.day, typed.kind, load_kg, reps, rir), book.rules, body_kg=body_kg)
    if best is None or implied is None or typed.confirm:
        return
    if implied + body_kg > (1 + book.rules["marks.improbable_pct"] / 100) * (best.value_kg + body_kg):
        raise NeedsConfirmation(
            f"This says {implied:.0f} kg; the e1RM is {best.value_kg:.0f} kg.",
            where="load_kg",
            accepted="Save it again to confirm.",
        )


def describe_mark(mark: MarkRecord) -> str:
    """A mark in a few words."""
    kind = MarkKind(mark.kind)
    reading = read(kind, mark.measures, mark.load_kg)
    if reading is not None:
        words = reading.words
    else:
        words = f"{format_mass(mark.load_kg, mark.unit)} {mark.unit}"
        if kind is MarkKind.SET_REP_BEST:
            words = f"{mark.sets} × {mark.reps} at {words}"
        elif kind not in SINGLES:
            words += f" × {mark.reps}"
    if mark.rir:
        words += f", {mark.rir:g} in reserve"
    words += f", {mark.side}" if mark.side else ""
    return words + (f", {words_of(under)}" if (under := from_raw(mark.conditions)) else "")
