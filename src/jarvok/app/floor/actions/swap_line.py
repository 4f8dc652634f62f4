"""Another exercise is done in place of a line, for want of the bar or the kit."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.actions import stop_line
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import floor_lines, read_session
from jarvok.app.floor.replacing import as_told, put, swaps
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise


def run(who: Who, session: TrainingSession, line_id: int, exercise_id: str) -> None:
    """End a line and put another exercise in its place for the sets that are left, with its own load and warm-up.

    What was done of the line stays. Undo brings it back, as long as nothing was logged since.
    """
    with acting(who, "swap_line", "another exercise in its place", athlete=session.athlete) as act:
        check_open(session)
        session = read_session(session.pk)
        lines = floor_lines(session)
        at = next((i for i, x in enumerate(lines) if x.line.pk == line_id), None)
        if at is None:
            raise CoachError("This line is not in the session.", where="line_id")
        old, lift = lines[at], exercise(exercise_id)
        if old.ended:
            raise Conflict(f"{old.line.slot} was stopped already.")
        allowed = [e for e, _ in swaps(session, lines, old)]
        if lift.id not in allowed:
            names = "; ".join(exercise(e).name for e in allowed) or "nothing: no set of it is left"
            raise CoachError(f"{lift.name} cannot take its place here.", where="exercise_id", accepted=f"{names}.")
        words = f"{exercise(old.line.exercise_id).name}: {lift.name.lower()} in its place."
        new = as_told(session, old, lift)
        stop_line.end(session, old, words)
        put(session, lines, at, new)
        act.words = words
        tell(session, "changed", {"line_id": line_id})
