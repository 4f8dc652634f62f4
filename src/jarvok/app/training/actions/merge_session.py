"""The main lift of a missed session is put into another session of the week."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import FlagWord
from jarvok.app.facts.training.models import LineEdit
from jarvok.app.problems import Conflict
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.sheets import MERGED_LINE, MERGED_SLOT
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, day: date, key: str, to: date) -> None:
    """Put the main lift of a missed session into the session of another day of its week; the rest of it is left out."""
    week, sheet = find_sheet(athlete, day, key)
    target = next((s for s in week.sheets if s.planned.day == to and s.planned.key != key), None)
    if target is None:
        raise CoachError(
            f"No other session is planned on {said_day(to, is_long=True)}.", where="day", accepted="A day of this week with one."
        )
    if sheet.started is not None or target.started is not None:
        raise Conflict("One of the two has been started; what was told stays.")
    if week.week.is_light:
        raise CoachError("Nothing is added to a deload week or a taper.", where="day", accepted="Skip it.")
    main = next((line for line in sheet.lines if line.planned.is_main), None)
    if main is None:
        raise CoachError("This session has no main lift.", where="key", accepted="Move it, or skip it.")
    with acting(who, "merge_session", f"main lift of {day:%A} put into {to:%A}", athlete=athlete):
        LineEdit.objects.create(
            athlete=athlete,
            day=to,
            session_key=target.planned.key,
            line_id=MERGED_LINE,
            slot=MERGED_SLOT,
            exercise_id=main.planned.exercise_id,
            text=main.text,
        )
        FlagWord.objects.create(athlete=athlete, check_id="missed", where=f"{day}:{key}", reason=f"main lift put into {to:%A}")
