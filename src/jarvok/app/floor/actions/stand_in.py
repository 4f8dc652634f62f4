"""Another exercise takes the place of a line that pain has ended."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import floor_lines, read_session
from jarvok.app.floor.pains import felt_in
from jarvok.app.floor.replacing import by_feel, choices, is_replaced, put
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.floor.pain import area_words, loads
from jarvok.core.library.exercises import exercise


def run(who: Who, session: TrainingSession, line_id: int, exercise_id: str) -> None:
    """Put an exercise that does not load what hurts in the place of an ended line, for the sets that are left, by feel."""
    with acting(who, "stand_in", "another exercise in its place", athlete=session.athlete) as act:
        check_open(session)
        session = read_session(session.pk)
        lines = floor_lines(session)
        at = next((i for i, x in enumerate(lines) if x.line.pk == line_id), None)
        if at is None:
            raise CoachError("This line is not in the session.", where="line_id")
        old = lines[at]
        if is_replaced(lines, old):
            raise Conflict(f"{old.line.slot} is replaced already.")
        allowed, lift = choices(session, lines, old), exercise(exercise_id)
        if lift.id not in allowed:
            areas = [f.area for f in felt_in(session, [x.line.pk for x in lines]) if loads(f.area, lift)]
            why = f"it loads: {', '.join(area_words(a) for a in areas)}" if areas else "it is none of those that fit here"
            names = "; ".join(exercise(e).name for e in allowed) or "nothing: pain has not ended this line"
            raise CoachError(f"{lift.name} cannot take its place: {why}.", where="exercise_id", accepted=f"{names}.")
        act.words = f"{lift.name} in place of {exercise(old.line.exercise_id).name.lower()}"
        put(session, lines, at, by_feel(session, old, lift))
        tell(session, "changed", {"line_id": line_id})
