"""A jump, a split or a device's velocity is taken out of its set, or put back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.events import tell
from jarvok.app.floor.measured_again import measuring
from jarvok.app.floor.seen import place_of, reading_of, words_of_reading


def run(who: Who, session: TrainingSession, reading_id: int, is_out: bool) -> None:
    """Leave a measurement out of everything (a step off the mat was no jump), or count it again. It stays on record."""
    with acting(who, "take_out_reading", athlete=session.athlete) as act:
        reading = reading_of(session, reading_id)
        act.words = f"{words_of_reading(reading.values)} {'taken out' if is_out else 'put back'}"
        reading.taken_out_at = (reading.taken_out_at or clock.now()) if is_out else None
        with measuring(session, (reading.line_id or 0, *place_of(reading))):
            reading.save(update_fields=["taken_out_at"])
        tell(session, "changed", {"line_id": reading.line_id})
