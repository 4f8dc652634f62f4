"""A line is written as the coach types it."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit
from jarvok.app.training.actions import edit_session
from jarvok.app.training.edits import Edit, Op
from jarvok.app.training.lookup import line_of
from jarvok.app.training.written import open_sheet
from jarvok.core.loading.shorthand import parse, write


def run(who: Who, athlete: Athlete, day: date, key: str, line: str, text: str) -> None:
    """Keep a line as typed; an empty text goes back to the proposal. Raises when it cannot be read."""
    _, sheet = open_sheet(athlete, day, key)
    planned = line_of(sheet, line).planned
    written = write(parse(text)) if text.strip() else ""
    if sheet.planned.is_own:
        if written:
            edit_session.run(who, athlete, day, key, Edit(op=Op.WRITE, line=planned.line_id, text=written))
        return
    with acting(who, "write_line", f"line {planned.slot} written", athlete=athlete):
        LineEdit.objects.create(
            athlete=athlete,
            day=day,
            session_key=key,
            line_id=planned.line_id,
            slot=planned.slot,
            exercise_id=planned.exercise_id,
            text=written,
        )
