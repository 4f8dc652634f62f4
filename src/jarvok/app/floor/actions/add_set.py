"""One set more than was told."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import ChangeKind, SessionChange, SetKind, TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import floor_lines, read_session, steps_of
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.floor.next_step import StepSet
from jarvok.core.library.exercises import exercise

MOST_MORE = 10  # [T]


def run(who: Who, session: TrainingSession, line_id: int) -> None:
    """Add one more set like the last of a line; where several are done as one step, one more of that step."""
    with acting(who, "add_set", "one set more", athlete=session.athlete) as act:
        check_open(session)
        session = read_session(session.pk)
        lines = floor_lines(session)
        at = next((i for i, x in enumerate(lines) if x.line.pk == line_id), None)
        if at is None or not lines[at].line.planned:
            raise CoachError("This line is not in the session.", where="line_id")
        line = lines[at].line
        if lines[at].pain:
            raise Conflict(f"{line.slot} is away today: pain, {lines[at].pain}.")
        if sum(1 for s in lines[at].sets if s.is_added) >= MOST_MORE:
            raise CoachError(f"{MOST_MORE} more sets is the most.", where="line_id", accepted="Write another line.")
        act.words = f"{exercise(line.exercise_id).name}: one set more"
        last = StepSet(at, False, len(line.planned))
        step = next((s for s in steps_of(session, lines) if last in s.sets), None)
        several = step is not None and step.is_one_tap
        held = dict.fromkeys(s.line for s in step.sets) if step is not None and several else {at: None}
        for place in held:
            SessionChange.objects.create(
                line=lines[place].line, kind=ChangeKind.ADD, set_kind=SetKind.WORK, number=len(lines[place].sets) + 1,
                step=step.id if step is not None else "", at=clock.now(),
            )  # fmt: skip
        tell(session, "changed", {"line_id": line.pk})
