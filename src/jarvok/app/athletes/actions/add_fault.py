"""A technical fault is recorded, as the coach saw it."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Fault
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.limiter import fault_kinds


def run(who: Who, athlete: Athlete, exercise_id: str, fault: str, since: date) -> Fault:
    """Record a fault of a lift that can have it."""
    lift, kind = exercise(exercise_id), fault_kinds().get(fault)
    if kind is None:
        raise CoachError("There is no such fault.", where="fault")
    if not kind.can_be_of(lift.pattern, lift.kind):
        raise CoachError(
            f"{kind.name} is not a fault of the {lift.name.lower()}.", where="fault", accepted="Another lift or fault."
        )
    with acting(who, "add_fault", f"{lift.name}: {kind.name.lower()}", athlete=athlete):
        return Fault.objects.create(athlete=athlete, exercise_id=lift.id, fault=kind.id, since=since)
