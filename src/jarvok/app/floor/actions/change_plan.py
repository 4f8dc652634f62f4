"""The plan of the day changes in a running session."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.starting import DayPlan, write_lines
from jarvok.app.problems import Conflict
from jarvok.app.training.lookup import find_sheet


def run(who: Who, session: TrainingSession, word: DayPlan) -> None:
    """Change the day's plan of a running session in which no work has been logged yet."""
    with acting(who, "change_plan", f"plan {word.plan}", athlete=session.athlete):
        check_open(session)
        if SetRecord.objects.filter(line__session=session, taken_back_at__isnull=True).exists():
            raise Conflict("Sets are logged already: from here the advice after each set changes the day, or stop a lift.")
        week, sheet = find_sheet(session.athlete, session.day, session.key)
        session.lines.all().delete()
        session.plan, session.plan_reason = word.plan, word.reason[:200]
        session.save(update_fields=["plan", "plan_reason"])
        write_lines(session, sheet, week.book, word)
        tell(session, "changed", {"line_id": None})
