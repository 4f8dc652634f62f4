"""An exercise of the coach's own is kept, or an edit of a known one."""

from __future__ import annotations

from typing import Any

from jarvok.app.acts import Who, acting
from jarvok.app.facts.training.models import OwnExercise
from jarvok.app.training.own_library import checked, id_for, kept_of, own_exercises
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercises, with_own


def run(who: Who, exercise_id: str, typed: dict[str, Any]) -> str:
    """Keep an exercise, a new one where no id is given; return its id."""
    row = checked(typed)
    with acting(who, "save_exercise", f"{row['name']} kept in the library"), with_own(own_exercises()):  # as they stand now
        twin = next((e for e in exercises().values() if e.name.lower() == row["name"].lower() and e.id != exercise_id), None)
        if twin is not None:
            in_use = f"“{twin.name}” is in the library already."
            raise CoachError(in_use, where="name", accepted="Another name, or edit that one.")
        found = exercise_id or id_for(row["name"])
        kept = {**kept_of(exercises().get(found)), **row, "id": found, "is_own": True}
        OwnExercise.objects.create(exercise_id=found, data=kept)
    return found
