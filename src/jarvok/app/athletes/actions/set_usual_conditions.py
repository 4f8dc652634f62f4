"""The coach says under what conditions an athlete usually does a lift: marks that name others are not compared with it."""

from __future__ import annotations

from collections.abc import Mapping

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import checked, words_of


def run(who: Who, athlete: Athlete, exercise_id: str, given: Mapping[str, str]) -> None:
    """Keep what is usual in a lift; nothing given leaves it to the marks. Raises `CoachError` for what the lift does not have."""
    lift = exercise(exercise_id)
    usual = checked(lift, given)
    with acting(who, "set_usual_conditions", f"{lift.name}, usually: {words_of(usual) or 'as its results say'}", athlete=athlete):
        others = {k: v for k, v in athlete.usual_conditions.items() if k != lift.same_lift}
        athlete.usual_conditions = {**others, lift.same_lift: dict(usual)} if usual else others
        athlete.save(update_fields=["usual_conditions"])
