"""A lift is ended before its last set, because somebody says so."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import AdviceRecord, SetKind, TrainingSession
from jarvok.app.floor.done_sets import pending_advice_lapses
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import FloorLine, floor_line
from jarvok.app.problems import Conflict
from jarvok.app.shapes import working_out
from jarvok.core.errors import CoachError
from jarvok.core.floor.advice import Move
from jarvok.core.floor.stop_reasons import StopReason
from jarvok.core.library.exercises import exercise
from jarvok.core.working import COMMON_PRACTICE, Working

STOPPED = "stopped"  # by a person's word, not by an answer to advice


def run(who: Who, session: TrainingSession, line_id: int, reason: str) -> None:
    """End a line where it is; what was done of it stays. Undo brings it back, as long as nothing was logged since."""
    with acting(who, "stop_line", f"stopped: {reason}", athlete=session.athlete) as act:
        check_open(session)
        line = session.lines.filter(pk=line_id).first()
        if line is None:
            raise CoachError("This line is not in the session.", where="line_id")
        if reason not in set(StopReason):
            raise CoachError(f"“{reason}” is no reason.", where="reason", accepted=", ".join(StopReason))
        current = floor_line(line)
        if current.ended:
            raise Conflict(f"{line.slot} was stopped already.")
        words = f"{exercise(line.exercise_id).name}: {StopReason(reason).words}."
        act.words = words
        end(session, current, words)


def end(session: TrainingSession, current: FloorLine, words: str) -> None:
    """End a line by a person's word: nothing more of it comes up."""
    done = [s.number for s in current.sets if s.kind == SetKind.WORK and s.record is not None]
    pending_advice_lapses(current.line)
    working = Working("done", "stopped by a person's word", COMMON_PRACTICE, ())
    AdviceRecord.objects.create(
        line=current.line, after_number=max(done, default=0), move=Move.DONE, load_kg=None, sentence=words,
        working=working_out(working).dict(), outcome=STOPPED,
    )  # fmt: skip
    tell(session, "changed", {"line_id": current.line.pk})
