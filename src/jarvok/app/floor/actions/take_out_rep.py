"""A measured repetition is taken out of its set, or put back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.events import tell
from jarvok.app.floor.measured_again import measuring
from jarvok.app.floor.reps import rep_of


def run(who: Who, session: TrainingSession, rep_id: int, is_out: bool) -> None:
    """Leave a repetition out of everything (it was none, or not this athlete's), or count it again. It stays on record."""
    with acting(who, "take_out_rep", f"a repetition {'taken out' if is_out else 'put back'}", athlete=session.athlete):
        rep = rep_of(session, rep_id)
        rep.taken_out_at = (rep.taken_out_at or clock.now()) if is_out else None
        with measuring(session, (rep.line_id, rep.kind, rep.set_number)):
            rep.save(update_fields=["taken_out_at"])
        tell(session, "changed", {"line_id": rep.line_id})
