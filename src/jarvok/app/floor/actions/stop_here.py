"""A session ends after its main work: what is left of it is stopped."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.actions import stop_line
from jarvok.app.floor.events import check_open
from jarvok.app.floor.lines import floor_lines, read_session
from jarvok.app.floor.what_is_left import is_left
from jarvok.app.problems import Conflict
from jarvok.core.floor.stop_reasons import StopReason
from jarvok.core.library.exercises import exercise


def run(who: Who, session: TrainingSession) -> None:
    """Stop every line with something left. What was done stays; undo brings them back one after another."""
    with acting(who, "stop_here", "stopped after the main work", athlete=session.athlete):
        check_open(session)
        lines = [x for x in floor_lines(read_session(session.pk)) if not x.ended and any(is_left(s) for s in x.sets)]
        if not lines:
            raise Conflict("Nothing of this session is left.")
        for line in lines:
            stop_line.end(session, line, f"{exercise(line.line.exercise_id).name}: {StopReason.ENOUGH.words}.")
