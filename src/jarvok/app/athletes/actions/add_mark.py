"""A mark is kept, or a corrected one in place of a wrong one."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import withdraw_mark
from jarvok.app.athletes.typed_marks import (
    LOADED,
    SIDES,
    TYPED_KINDS,
    TypedMark,
    ask_when_improbable,
    check_fit,
    check_minor,
    checked_load,
)
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import checked
from jarvok.core.marks.mark import EVIDENCE
from jarvok.core.marks.performance import check_measures
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, typed: TypedMark, replaces: MarkRecord | None = None) -> MarkRecord:
    """Store a mark, or a corrected one in place of `replaces`, which is withdrawn and kept."""
    lift, kind = exercise(typed.exercise_id), typed.kind
    if kind not in TYPED_KINDS:
        raise CoachError("This kind of result comes from a sensor.", where="kind", accepted=", ".join(TYPED_KINDS))
    if typed.day > clock.today():
        raise CoachError(
            f"{said_day(typed.day, year=True, is_long=True)} is still to come.",
            where="day",
            accepted="Today or an earlier day is accepted.",
        )
    if typed.side not in SIDES:
        raise CoachError("A side is left or right.", where="side", accepted="left, right or none")
    if replaces is not None and replaces.withdrawn_at is not None:
        raise Conflict("This result has been deleted already.")
    check_fit(lift, kind)
    measures = check_measures(kind, typed.measures)
    under = dict(checked(lift, typed.conditions))
    load_kg, reps, rir, sets = checked_load(typed) if kind in LOADED else (0.0, 1, 0.0, 1)
    check_minor(athlete, kind, typed.day, reps, rir)
    if kind in EVIDENCE and not typed.side:
        ask_when_improbable(athlete, typed, load_kg, reps, rir, replaces)
    with acting(who, "add_mark", f"{lift.name} {'corrected' if replaces else 'added'}", athlete=athlete):
        if replaces is not None:
            withdraw_mark.run(who, replaces)
        return MarkRecord.objects.create(
            athlete=athlete, exercise_id=lift.id, kind=kind, day=typed.day, load_kg=load_kg, unit=typed.unit,
            sets=sets, reps=reps, rir=rir, side=typed.side, measures=measures, conditions=under,
            note=typed.note[:200], replaces=replaces,
        )  # fmt: skip
