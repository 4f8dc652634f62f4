"""A session is changed: a line, a block, its name. From then on it is the coach's own and no longer follows the arrangement."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.edits import Edit, change_of
from jarvok.app.training.lookup import line_of
from jarvok.app.training.written import documented, held, open_sheet, put


def run(who: Who, athlete: Athlete, day: date, key: str, edit: Edit) -> str:
    """Change a session and return what was done in words; a change that changes nothing is none."""
    with held(athlete) as now:
        _, sheet = open_sheet(now, day, key)
        change, words = change_of(edit, line_of(sheet, edit.line).planned.slot if edit.line else "")
        before = documented(sheet)
        after = change(before)
        if after != before:
            with acting(who, "edit_session", words, athlete=now):
                put(now, key, day, after, words)
    return words
