"""A line is changed by one step of sets, repetitions or load, or to the usual one of a goal."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.actions import write_line
from jarvok.app.training.lookup import find_sheet, line_of
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.adjust import adjust
from jarvok.core.loading.goals import GOALS, line_for
from jarvok.core.loading.shorthand import write


def run(who: Who, athlete: Athlete, day: date, key: str, line: str, what: str, by: int) -> None:
    """Change a line by one step, in the terms it is written in."""
    _, sheet = find_sheet(athlete, day, key)
    found, goal = line_of(sheet, line), GOALS.get(what)
    text = line_for(goal, exercise(found.planned.exercise_id)) if goal else write(adjust(found.prescription, what, by))
    write_line.run(who, athlete, day, key, line, text, confirm=True)
