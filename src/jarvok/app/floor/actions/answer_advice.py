"""The coach answers what the application said after a set."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import AdviceRecord, TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import check_load_kg


def run(who: Who, session: TrainingSession, advice_id: int, accept: bool, load_kg: float | None) -> None:
    """Keep what the coach made of the advice: taken, or another load (or going on) instead."""
    with acting(who, "answer_advice", "advice taken" if accept else "advice answered otherwise", athlete=session.athlete):
        check_open(session)
        advice = AdviceRecord.objects.filter(pk=advice_id, line__session=session, taken_back_at__isnull=True).first()
        if advice is None:
            raise CoachError("This advice is not in the session.", where="advice")
        if advice.outcome in ("accepted", "overridden"):
            raise Conflict(f"This was answered already: {advice.outcome}.")
        advice.outcome = "accepted" if accept else "overridden"
        if accept:
            advice.chosen_load_kg = advice.load_kg
        elif load_kg is not None:
            advice.chosen_load_kg = check_load_kg(load_kg, "load_kg")
        advice.save()
        tell(session, "changed", {"line_id": advice.line_id})
