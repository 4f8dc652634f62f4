"""What undo would take back: the newest step of the plan that still stands, whatever kind of change it was."""

from __future__ import annotations

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit, SessionMove, WeekChoice, WrittenSession

STEPS = (WrittenSession, SessionMove, WeekChoice, LineEdit)
Step = WrittenSession | SessionMove | WeekChoice | LineEdit
# a line goes back to the proposal with these too: they are no step of their own
NO_STEPS = ("choose_method", "remove_added")


def newest_step(athlete: Athlete) -> Step | None:
    """The newest step that stands; all but lines are read with the athlete's week already. Lines before acts had none."""
    lines = LineEdit.objects.filter(athlete=athlete, undone_at__isnull=True, act__isnull=False)
    edit = lines.exclude(act__verb__in=NO_STEPS).select_related("act").order_by("-act_id", "-id").first()
    rows: list[Step] = [edit] if edit is not None else []
    others: list[Step] = [*athlete.written_sessions.all(), *athlete.session_moves.all(), *athlete.week_choices.all()]
    rows += [step for step in others if step.undone_at is None and step.act_id is not None]
    return max(rows, key=lambda r: (r.act_id or 0, r.pk), default=None)


def last_words(athlete: Athlete) -> str:
    """What undo would take back, or nothing."""
    step = newest_step(athlete)
    return step.act.words if step is not None and step.act is not None else ""
