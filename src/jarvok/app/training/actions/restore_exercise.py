"""The coach's own word on an exercise is taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.training.models import OwnExercise
from jarvok.core.errors import CoachError


def run(who: Who, exercise_id: str) -> None:
    """Take an own exercise out; a shipped one is as shipped again."""
    if not OwnExercise.objects.filter(exercise_id=exercise_id, withdrawn_at__isnull=True).exists():
        raise CoachError("This exercise is as shipped.", where="exercise_id")
    with acting(who, "restore_exercise", f"{exercise_id.replace('_', ' ')} as shipped"):
        OwnExercise.objects.filter(exercise_id=exercise_id).update(withdrawn_at=clock.now())
