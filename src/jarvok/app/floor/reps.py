"""A measured repetition of a session, found by its number."""

from __future__ import annotations

from jarvok.app.facts.floor.models import Rep, TrainingSession
from jarvok.core.errors import CoachError


def rep_of(session: TrainingSession, rep_id: int) -> Rep:
    """The repetition; raises `CoachError` for one of another session."""
    found = Rep.objects.select_related("line").filter(line__session=session, pk=rep_id).first()
    if found is None:
        raise CoachError("This repetition is not of this session.", where="rep")
    return found
