"""Taking back what a coach did to the plan, one step at a time, whatever kind of change it was."""

from __future__ import annotations

from uuid import uuid4

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.training.models import LineEdit, SessionMove, WeekChoice, WrittenSession

KINDS = (WrittenSession, SessionMove, WeekChoice, LineEdit)
Step = WrittenSession | SessionMove | WeekChoice | LineEdit


def new_batch() -> str:
    """A mark that ties together what one action wrote."""
    return uuid4().hex


def _last(athlete: Athlete) -> Step | None:
    """The newest step; all but lines are read with the athlete's week already."""
    edit = LineEdit.objects.filter(athlete=athlete, undone_at__isnull=True).exclude(batch="").order_by("-at", "-id").first()
    rows: list[Step] = [edit] if edit is not None else []
    others: list[Step] = [*athlete.written_sessions.all(), *athlete.session_moves.all(), *athlete.week_choices.all()]
    rows += [step for step in others if step.undone_at is None and step.batch]
    return max(rows, key=lambda r: (r.at, r.pk), default=None)


def words_of(step: Step) -> str:
    """What a step did, in words."""
    match step:
        case WrittenSession():
            return step.words
        case SessionMove():
            return f"session {step.session_key} moved"
        case WeekChoice():
            return "week arranged anew"
        case LineEdit():
            return f"line {step.slot} written"


def last_words(athlete: Athlete) -> str:
    """What undo would take back, or nothing."""
    step = _last(athlete)
    return words_of(step) if step is not None else ""


@transaction.atomic
def undo(athlete: Athlete) -> str:
    """Take back the last change of the plan, for everybody it was made for; return what it was."""
    step = _last(athlete)
    if step is None:
        raise Conflict("There is nothing to take back.")
    for kind in KINDS:
        kind.objects.filter(batch=step.batch, undone_at__isnull=True).update(undone_at=clock.now())
    return words_of(step)
