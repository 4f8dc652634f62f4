"""A jump, a split or a device's velocity is given to another set of the session."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.floor.done_sets import line_and_set
from jarvok.app.floor.events import tell
from jarvok.app.floor.measured_again import measuring
from jarvok.app.floor.seen import place_of, reading_of, words_of_reading
from jarvok.app.problems import Conflict
from jarvok.core.library.exercises import exercise


def run(who: Who, session: TrainingSession, reading_id: int, line_id: int, kind: str, number: int) -> None:
    """Give a measurement to another set of the same exercise."""
    with acting(who, "move_reading", athlete=session.athlete) as act:
        reading = reading_of(session, reading_id)
        line, _ = line_and_set(session, line_id, kind, number)
        was = reading.line
        if was is None or exercise(line.exercise_id).same_lift != exercise(was.exercise_id).same_lift:
            raise Conflict(f"{words_of_reading(reading.values).capitalize()} is none of {line.slot}.")
        is_velocity = "mps" in reading.values
        if kind != SetKind.WORK and not is_velocity:
            raise Conflict("Jumps and runs are kept with work sets only.")
        act.words = f"{words_of_reading(reading.values)} moved to set {number}"
        places = ((was.pk, *place_of(reading)), (line.pk, kind, number))
        reading.line, reading.set_number = line, number
        reading.values = {**reading.values, "kind": kind} if is_velocity else reading.values
        with measuring(session, *places):
            reading.save(update_fields=["line", "set_number", "values"])
        for changed in dict.fromkeys((was.pk, line.pk)):
            tell(session, "changed", {"line_id": changed})
