"""The coach's own word on an exercise is taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.training.models import OwnExercise
from jarvok.core.errors import CoachError


def run(who: Who, exercise_id: str) -> None:
    """Take an own exercise out; a shipped one is as shipped again."""
    with acting(who, "restore_exercise", f"{exercise_id.replace('_', ' ')} as shipped"):
        if not OwnExercise.objects.filter(exercise_id=exercise_id, withdrawn_at__isnull=True).exists():
            raise CoachError("This exercise is unchanged.", where="exercise_id")
        OwnExercise.objects.filter(exercise_id=exercise_id).update(withdrawn_at=clock.now())
