"""What a coach does with the plan: change a line, move a session."""

from __future__ import annotations

from datetime import date

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.problems import Conflict
from jarvok.app.seasons.models import FlagWord
from jarvok.app.training.edit_services import edit_session, put
from jarvok.app.training.finding import find_planned, find_sheet, line_of
from jarvok.app.training.models import LineEdit, MethodChoice, SessionMove
from jarvok.app.training.queries import MERGED_SLOT, choice_for
from jarvok.app.training.undo import new_batch
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.adjust import adjust
from jarvok.core.loading.compare import express
from jarvok.core.loading.methods import METHOD_BY_KEY, METHODS
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.document import document_of, write_text


@transaction.atomic
def write_line(athlete: Athlete, day: date, key: str, slot: str, text: str) -> None:
    """Keep a line as typed; an empty text goes back to the proposal. Raises when it cannot be read."""
    _, sheet = find_sheet(athlete, day, key)
    if sheet.started is not None:
        raise Conflict("This session has been started; what was told stays. Change the set on the floor.")
    line = line_of(sheet, slot)
    written = write(parse(text)) if text.strip() else ""
    if sheet.planned.is_own:
        if written:
            edit_session(athlete, day, key, lambda d: write_text(d, slot, written), f"{slot} written as {written}")
        return
    LineEdit.objects.create(
        athlete=athlete,
        day=day,
        session_key=key,
        slot=slot,
        exercise_id=line.planned.exercise_id,
        text=written,
        batch=new_batch(),
    )


@transaction.atomic
def step_line(athlete: Athlete, day: date, key: str, slot: str, what: str, by: int) -> None:
    """Change a line by one step, in the terms it is written in."""
    _, sheet = find_sheet(athlete, day, key)
    write_line(athlete, day, key, slot, write(adjust(line_of(sheet, slot).prescription, what, by)))


@transaction.atomic
def choose_method(athlete: Athlete, day: date, key: str, slot: str, method: str, scope: str, reason: str) -> None:
    """Write a line by another method: this line only, or the exercise's lines to the end of the phase."""
    week, sheet = find_sheet(athlete, day, key)
    line = line_of(sheet, slot)
    if sheet.started is not None:
        raise Conflict("This session has been started; what was told stays. Change the set on the floor.")
    if method not in METHOD_BY_KEY:
        raise CoachError("There is no such method.", where="method", accepted=", ".join(m.name for m in METHODS))
    state = LiftBook([athlete], clock.today()).state(athlete.pk, line.planned.exercise_id)
    written = express(line.prescription, method, state)
    if written is None:
        name = exercise(line.planned.exercise_id).name
        raise CoachError(f"{METHOD_BY_KEY[method].name} cannot load the {name.lower()} here.", where="method")
    if scope == "line":
        write_line(athlete, day, key, slot, write(written))
        return
    if scope != "block":
        raise CoachError("A method is picked for a line or for a block.", where="scope", accepted="line or block")
    phase = next(p for p in week.plan.phases if p.start <= week.week.start <= p.end)
    LineEdit.objects.create(athlete=athlete, day=day, session_key=key, slot=slot, exercise_id=line.planned.exercise_id, text="")
    MethodChoice.objects.create(
        athlete=athlete,
        exercise_id=line.planned.exercise_id,
        method=method,
        from_day=day,
        until_day=phase.end,
        reason=reason.strip()[:200],
    )


@transaction.atomic
def drop_method(athlete: Athlete, day: date, key: str, slot: str) -> None:
    """Take a block's method back: its lines are as proposed again."""
    _, sheet = find_sheet(athlete, day, key)
    choice = choice_for(athlete, line_of(sheet, slot).planned.exercise_id, day)
    if choice is None:
        raise Conflict("No method is picked for this block.")
    choice.withdrawn_at = clock.now()
    choice.save()


@transaction.atomic
def merge_session(athlete: Athlete, day: date, key: str, to: date) -> None:
    """Put the main lift of a missed session into the session of another day of its week; the rest of it is left out."""
    week, sheet = find_sheet(athlete, day, key)
    target = next((s for s in week.sheets if s.planned.day == to and s.planned.key != key), None)
    if target is None:
        raise CoachError(f"No other session is planned on {to:%-d %B}.", where="day", accepted="A day of this week with one.")
    if sheet.started is not None or target.started is not None:
        raise Conflict("One of the two has been started; what was told stays.")
    if week.week.is_light:
        raise CoachError("Nothing is added to an easier week or a taper.", where="day", accepted="Leave it out.")
    main = next((line for line in sheet.lines if line.planned.is_main), None)
    if main is None:
        raise CoachError("This session has no main lift.", where="key", accepted="Move it, or leave it out.")
    LineEdit.objects.create(
        athlete=athlete,
        day=to,
        session_key=target.planned.key,
        slot=MERGED_SLOT,
        exercise_id=main.planned.exercise_id,
        text=main.text,
        batch=new_batch(),
    )
    FlagWord.objects.create(athlete=athlete, check_id="missed", where=f"{day}:{key}", reason=f"main lift put into {to:%A}")


@transaction.atomic
def move_session(athlete: Athlete, day: date, key: str, to: date) -> None:
    found = find_planned(athlete, day, key)
    week = found.week
    if found.is_started:
        raise Conflict("This session has been started and stays on its day.")
    if not week.start <= to <= week.end:
        raise CoachError(f"{to:%-d %B} lies in another week.", where="day", accepted="A day from Monday to Sunday of this week.")
    if (week.competition_day - to).days < 1:
        raise CoachError("That day is the competition's or after it.", where="day", accepted="A day before it.")
    if any(other.day == to for other in found.others):
        raise CoachError(f"{to:%A} already holds the other session.", where="day", accepted="Any other day.")
    if found.session.is_own:
        words = f"{found.session.theme} moved to {to:%A}"
        put(athlete, key, to, document_of(found.session), words, new_batch())
        return
    batch = new_batch()
    SessionMove.objects.create(athlete=athlete, week_start=week.start, session_key=key, day=to, batch=batch)
    for edit in LineEdit.objects.filter(athlete=athlete, day=day, session_key=key, undone_at__isnull=True):
        edit.pk = None
        edit.day, edit.batch = to, batch
        edit.save()
