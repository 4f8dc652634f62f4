"""A proposed rise of a max is accepted, or the marks of its day are left out."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, MaxDecision
from jarvok.app.problems import Conflict
from jarvok.core.library.exercises import exercise


def run(who: Who, athlete: Athlete, exercise_id: str, day: date, accepted: bool) -> None:
    """Decide a rise that waits."""
    current = LiftBook([athlete], clock.today()).max(athlete.pk, exercise_id)
    if current is None or current.proposal is None or current.proposal.day != day:
        raise Conflict("This rise no longer waits for a decision.")
    words = f"{exercise(exercise_id).name}: rise {'accepted' if accepted else 'left out'}"
    with acting(who, "decide_rise", words, athlete=athlete):
        MaxDecision.objects.create(athlete=athlete, exercise_id=exercise_id, day=day, accepted=accepted)
