"""A session is changed: a line, a block, its name. From then on it is the coach's own and no longer follows the arrangement."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.written import documented, open_sheet, put
from jarvok.core.session.document import Document


def run(who: Who, athlete: Athlete, day: date, key: str, edit: Callable[[Document], Document], words: str) -> None:
    """Change a session; a change that changes nothing is none."""
    _, sheet = open_sheet(athlete, day, key)
    before = documented(sheet)
    after = edit(before)
    if after == before:
        return
    with acting(who, "edit_session", words, athlete=athlete):
        put(athlete, key, day, after, words)
