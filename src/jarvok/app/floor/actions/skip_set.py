"""A set is passed over."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import ChangeKind, SessionChange, TrainingSession
from jarvok.app.floor.done_sets import line_and_set
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import floor_lines, logged_step, read_session, set_at
from jarvok.app.problems import Conflict
from jarvok.core.floor.next_step import StepSet
from jarvok.core.library.exercises import exercise


def run(who: Who, session: TrainingSession, line_id: int, kind: str, number: int) -> None:
    """Pass over a set, with all of its step that is not done: it was told and not done. Undo brings it back."""
    with acting(who, "skip_set", f"set {number} passed over", athlete=session.athlete) as act:
        check_open(session)
        line, item = line_and_set(session, line_id, kind, number)
        if item.record is not None or item.is_skipped:
            raise Conflict(f"Set {number} of {line.slot} was {'passed over' if item.is_skipped else 'logged'} already.")
        act.words = f"{exercise(line.exercise_id).name}: {'warm-up' if kind == 'ramp' else 'set'} {number} passed over"
        whole = read_session(session.pk)
        step = logged_step(whole, line, kind, number)
        places = step.sets if step is not None else (StepSet(line.order, kind == "ramp", number),)
        lines = floor_lines(whole)
        for place in places:
            found = set_at(lines, place)
            if found is None or found.record is not None or found.over:
                continue
            SessionChange.objects.create(
                line=lines[place.line].line, kind=ChangeKind.SKIP, set_kind=found.kind, number=found.number,
                step=step.id if step is not None else "", at=clock.now(),
            )  # fmt: skip
        tell(session, "changed", {"line_id": line.pk})
