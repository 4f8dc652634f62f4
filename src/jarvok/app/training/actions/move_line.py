"""A line of one session is put into the session of another day."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.training.lookup import line_of
from jarvok.app.training.written import documented, free_key, held, open_sheet, put
from jarvok.core.errors import CoachError
from jarvok.core.season.model import monday_of
from jarvok.core.session.document import Document
from jarvok.core.session.line_changes import add_line, drop_line, take_line


def run(who: Who, athlete: Athlete, day: date, key: str, line: str, to: date) -> None:
    """Put a line into the session of another day of the week, or into a new one there."""
    with held(athlete) as now:
        week, sheet = open_sheet(now, day, key)
        if monday_of(to) != monday_of(day):
            raise CoachError("That day lies in another week.", where="to", accepted="A day of this week.")
        if to >= week.week.competition_day:
            raise CoachError("That day is the competition's or after it.", where="to", accepted="A day before it.")
        if to == day:
            return
        document = documented(sheet)
        planned = line_of(sheet, line).planned
        taken = take_line(document, planned.line_id)
        words = f"{planned.slot} moved to {to:%A}"
        target = next((s for s in week.sheets if s.planned.day == to), None)
        if target is not None and target.started is not None:
            raise Conflict(f"The session of {to:%A} has been started; what was told stays.")
        with acting(who, "move_line", words, athlete=now):
            put(now, key, day, drop_line(document, planned.line_id), words)
            if target is not None:
                put(now, target.planned.key, to, add_line(documented(target), taken, planned.block), words)
            else:
                put(now, free_key(week, now), to, add_line(Document("Own session", ()), taken, planned.block), words)
