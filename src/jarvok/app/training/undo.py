"""What undo would take back: the newest step of the plan that still stands, whatever kind of change it was."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import QuerySet

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.training.models import LineEdit, SessionMove, WeekChoice, WrittenSession

STEPS = (WrittenSession, SessionMove, WeekChoice, LineEdit)
Step = WrittenSession | SessionMove | WeekChoice | LineEdit
# a line goes back to the proposal with these too: they are no step of their own
NO_STEPS = ("choose_method", "remove_added")


def _lines(ids: Sequence[int]) -> QuerySet[LineEdit]:
    lines = LineEdit.objects.filter(athlete_id__in=ids, undone_at__isnull=True, act__isnull=False)
    return lines.exclude(act__verb__in=NO_STEPS).select_related("act").order_by("-act_id", "-id")[:1]


_LINES = Objects(_lines)


def newest_step(athlete: Athlete) -> Step | None:
    """The newest step that stands; all but lines are read with the athlete's week already. Lines before acts had none."""
    rows: list[Step] = [*_LINES.of([athlete.pk])]
    others: list[Step] = [*athlete.written_sessions.all(), *athlete.session_moves.all(), *athlete.week_choices.all()]
    rows += [step for step in others if step.undone_at is None and step.act_id is not None]
    return max(rows, key=lambda r: (r.act_id or 0, r.pk), default=None)


def last_words(athlete: Athlete) -> str:
    """What undo would take back, or nothing."""
    step = newest_step(athlete)
    return step.act.words if step is not None and step.act is not None else ""
