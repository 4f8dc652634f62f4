"""A line is written as the coach types it."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit
from jarvok.app.problems import NeedsConfirmation
from jarvok.app.training.actions import edit_session
from jarvok.app.training.edits import Edit, Op
from jarvok.app.training.lookup import line_of
from jarvok.app.training.written import open_sheet
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.loading.typing_error import written_far_over_kg
from jarvok.core.quantities.mass import format_kg


def run(who: Who, athlete: Athlete, day: date, key: str, line: str, text: str, *, confirm: bool = False) -> None:
    """Keep a line as typed; an empty text goes back to the proposal. Raises when it cannot be read.

    A load far over the max is asked about once: with `confirm` it is kept.
    """
    _, sheet = open_sheet(athlete, day, key)
    planned = line_of(sheet, line).planned
    if text.strip() and not confirm:
        _ask_when_improbable(athlete, day, planned.exercise_id, text)
    written = write(parse(text, exercise(planned.exercise_id).name)) if text.strip() else ""
    if sheet.planned.is_own:
        if written:
            edit_session.run(who, athlete, day, key, Edit(op=Op.WRITE, line=planned.line_id, text=written))
        return
    said = f"written as {written}" if written else "as proposed again"
    with acting(who, "write_line", f"{planned.slot} {said}", athlete=athlete):
        LineEdit.objects.create(
            athlete=athlete,
            day=day,
            session_key=key,
            line_id=planned.line_id,
            slot=planned.slot,
            exercise_id=planned.exercise_id,
            text=written,
        )


def _ask_when_improbable(athlete: Athlete, day: date, exercise_id: str, text: str) -> None:
    state = LiftBook([athlete], day).state(athlete.pk, exercise_id)
    far_kg = written_far_over_kg(parse(text, exercise(exercise_id).name), state)
    if far_kg is not None and state.max_kg:
        share = 100 * far_kg / state.max_kg
        raise NeedsConfirmation(
            f"{format_kg(far_kg)} kg is {share:.0f} % of the max of {state.max_kg:.0f} kg: a slip of the hand?",
            where="text",
            accepted="Correct it, or save it again to confirm.",
        )
