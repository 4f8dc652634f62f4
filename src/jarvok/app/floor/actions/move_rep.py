"""A measured repetition is given to another set of the session."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.done_sets import line_and_set
from jarvok.app.floor.events import tell
from jarvok.app.floor.measured_again import measuring
from jarvok.app.floor.reps import rep_of
from jarvok.app.problems import Conflict
from jarvok.core.library.exercises import exercise


def run(who: Who, session: TrainingSession, rep_id: int, line_id: int, kind: str, number: int) -> None:
    """Give a repetition to another set of the same lift: it takes that set's load."""
    with acting(who, "move_rep", f"a repetition moved to set {number}", athlete=session.athlete):
        rep = rep_of(session, rep_id)
        line, item = line_and_set(session, line_id, kind, number)
        if exercise(line.exercise_id).same_lift != exercise(rep.line.exercise_id).same_lift:
            raise Conflict(f"A repetition of {exercise(rep.line.exercise_id).name.lower()} is none of {line.slot}.")
        was = (rep.line_id, rep.kind, rep.set_number)
        rep.line, rep.kind, rep.set_number = line, kind, number
        rep.load_kg = item.record.load_kg if item.record is not None else item.planned_load_kg
        with measuring(session, was, (line_id, kind, number)):
            rep.save(update_fields=["line", "kind", "set_number", "load_kg"])
        for changed in dict.fromkeys((was[0], line.pk)):
            tell(session, "changed", {"line_id": changed})
