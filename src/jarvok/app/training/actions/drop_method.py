"""A method picked for a block is taken back."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.training.lookup import find_sheet, line_of
from jarvok.app.training.sheets import choice_for
from jarvok.core.library.exercises import exercise


def run(who: Who, athlete: Athlete, day: date, key: str, line: str) -> None:
    """Take a block's method back: its lines are as proposed again."""
    _, sheet = find_sheet(athlete, day, key)
    choice = choice_for(athlete, line_of(sheet, line).planned.exercise_id, day)
    if choice is None:
        raise Conflict("No method is picked for this block.")
    with acting(who, "drop_method", f"{exercise(choice.exercise_id).name} as proposed again", athlete=athlete):
        choice.withdrawn_at = clock.now()
        choice.save()
