"""A line of a sheet as the checks see it."""

from __future__ import annotations

from jarvok.app.training.sheets import SheetLine
from jarvok.core.checks.plan_views import LineView
from jarvok.core.library.exercises import exercise


def line_view(line: SheetLine, *, is_own: bool) -> LineView:
    """The line with its resolved sets; `is_own` where its whole session was written by a person."""
    return LineView(
        line.planned.slot,
        line.planned.block,
        exercise(line.planned.exercise_id),
        line.prescription,
        line.planned.is_main,
        line.planned.style,
        line.sets,
        max(0, line.prescription.total_sets - line.planned.prescription.total_sets) if line.edited else 0,
        line.choice is not None,
        line.planned.line_id,
        is_typed=line.edited or is_own,
    )
