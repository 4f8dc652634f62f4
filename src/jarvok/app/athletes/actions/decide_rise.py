"""A proposed rise of a max is accepted, its evidence is left out, or it is asked again later."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, MaxDecision
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.working_max import ASKED_DAYS
from jarvok.core.quantities.days import said_day

ANSWERS = {"accept": "rise accepted", "refuse": "rise left out", "later": "rise asked again"}


def run(who: Who, athlete: Athlete, exercise_id: str, evidence: str, answer: str, ask_again_on: date | None = None) -> None:
    """Answer a rise that waits. `later` asks again on a day, in a week if none is named."""
    if answer not in ANSWERS:
        raise CoachError("There is no such answer.", where="answer", accepted="accept, refuse or later")
    today = clock.today()
    current = LiftBook([athlete], today).max(athlete.pk, exercise_id)
    if current is None or current.proposal is None or current.proposal.mark.ref != evidence:
        raise Conflict("This rise no longer waits for a decision.")
    last = current.proposal.day + timedelta(days=ASKED_DAYS)
    later = (ask_again_on or min(today + timedelta(days=7), last)) if answer == "later" else None
    if later is not None and not today < later <= last:
        accepted = f"A day from tomorrow to {said_day(last, year=True, is_long=True)}."
        raise CoachError(
            f"{said_day(later, year=True, is_long=True)} is no day to ask again.", where="ask_again_on", accepted=accepted
        )
    words = f"{exercise(exercise_id).name}: {ANSWERS[answer]}" + (f" on {said_day(later)}" if later is not None else "")
    with acting(who, "decide_rise", words, athlete=athlete):
        MaxDecision.objects.create(
            athlete=athlete, exercise_id=exercise_id, day=current.proposal.day, evidence=evidence, accepted=answer == "accept",
            ask_again_on=later,
        )  # fmt: skip
