"""A measured repetition is taken out of its set, put back, or given to another set of the session."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import Rep, TrainingSession
from jarvok.app.floor.done_sets import line_and_set
from jarvok.app.floor.events import tell
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise


def _rep(session: TrainingSession, rep_id: int) -> Rep:
    found = Rep.objects.select_related("line").filter(line__session=session, pk=rep_id).first()
    if found is None:
        raise CoachError("This repetition is not of this session.", where="rep")
    return found


def take_out(who: Who, session: TrainingSession, rep_id: int) -> None:
    """Leave a repetition out of everything: it was none, or not this athlete's. It stays on record and can be put back."""
    with acting(who, "take_out_rep", "a repetition taken out", athlete=session.athlete):
        rep = _rep(session, rep_id)
        rep.taken_out_at = rep.taken_out_at or clock.now()
        rep.save(update_fields=["taken_out_at"])
        tell(session, "changed", {"line_id": rep.line_id})


def put_back(who: Who, session: TrainingSession, rep_id: int) -> None:
    """Count a repetition again that was taken out."""
    with acting(who, "put_back_rep", "a repetition put back", athlete=session.athlete):
        rep = _rep(session, rep_id)
        rep.taken_out_at = None
        rep.save(update_fields=["taken_out_at"])
        tell(session, "changed", {"line_id": rep.line_id})


def move(who: Who, session: TrainingSession, rep_id: int, line_id: int, kind: str, number: int) -> None:
    """Give a repetition to another set of the same kind of lift: it takes that set's load."""
    with acting(who, "move_rep", f"a repetition moved to set {number}", athlete=session.athlete):
        rep = _rep(session, rep_id)
        line, item = line_and_set(session, line_id, kind, number)
        if exercise(line.exercise_id).same_lift != exercise(rep.line.exercise_id).same_lift:
            raise Conflict(f"A repetition of {exercise(rep.line.exercise_id).name.lower()} is none of {line.slot}.")
        before = rep.line_id
        rep.line, rep.kind, rep.set_number = line, kind, number
        rep.load_kg = item.record.load_kg if item.record is not None else item.planned_load_kg
        rep.save(update_fields=["line", "kind", "set_number", "load_kg"])
        for changed in dict.fromkeys((before, line.pk)):
            tell(session, "changed", {"line_id": changed})
