"""A line, or a lift to the end of its phase, is loaded by another method."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit, MethodChoice
from jarvok.app.training.actions import write_line
from jarvok.app.training.lookup import line_of
from jarvok.app.training.written import open_sheet
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.compare import express
from jarvok.core.loading.methods import METHOD_BY_KEY, METHODS
from jarvok.core.loading.shorthand import write
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, day: date, key: str, line: str, method: str, scope: str, reason: str) -> None:
    """Write a line by another method: this line only, or the exercise's lines to the end of the phase."""
    week, sheet = open_sheet(athlete, day, key)
    found = line_of(sheet, line)
    if method not in METHOD_BY_KEY:
        raise CoachError("There is no such method.", where="method", accepted=", ".join(m.name for m in METHODS))
    state = LiftBook([athlete], clock.today()).state(athlete.pk, found.planned.exercise_id)
    written = express(found.prescription, method, state)
    name = exercise(found.planned.exercise_id).name.lower()
    if written is None:
        raise CoachError(f"{METHOD_BY_KEY[method].name} cannot load the {name} here.", where="method")
    if scope == "line":
        write_line.run(who, athlete, day, key, line, write(written), confirm=True)
        return
    if scope != "block":
        raise CoachError("A method is picked for a line or for a block.", where="scope", accepted="line or block")
    phase = next(p for p in week.plan.phases if p.start <= week.week.start <= p.end)
    words = f"{name} by {METHOD_BY_KEY[method].name.lower()} to {said_day(phase.end)}"
    with acting(who, "choose_method", words, athlete=athlete):
        # the line itself goes back to the proposal, without a step of its own to undo
        LineEdit.objects.create(
            athlete=athlete,
            day=day,
            session_key=key,
            line_id=found.planned.line_id,
            slot=found.planned.slot,
            exercise_id=found.planned.exercise_id,
            text="",
        )
        MethodChoice.objects.create(
            athlete=athlete, exercise_id=found.planned.exercise_id, method=method, from_day=day, until_day=phase.end,
            reason=reason.strip()[:200],
        )  # fmt: skip
