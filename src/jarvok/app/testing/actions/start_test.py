"""A guided test of a lift is started."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Trial
from jarvok.app.problems import Conflict
from jarvok.app.testing.max_tests import guided, offers
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.testing.choice import NAMES, TestKind


def run(who: Who, athlete: Athlete, exercise_id: str, kind: str, has_pain: bool) -> Trial:
    """A guided test of a lift is started."""
    with acting(who, "start_test", f"test of {exercise(exercise_id).name.lower()} started", athlete=athlete):
        lift = exercise(exercise_id)
        if not lift.is_loaded:
            raise CoachError(f"{lift.name} is not a loaded lift.", where="exercise_id", accepted="Choose a loaded lift.")
        if kind not in set(TestKind):
            raise CoachError("There is no such test.", where="kind", accepted=", ".join(NAMES.values()))
        offer = next(o for o in offers(athlete, lift, has_pain) if o.kind == kind)
        if not offer.is_open:
            raise CoachError(
                f"{NAMES[offer.kind]} is not open here: {'; '.join(offer.reasons)}.", where="kind", accepted="Another test."
            )
        running = guided(athlete.trials.filter(ended_at__isnull=True)).first()
        if running is not None:
            raise Conflict(f"A test of the {exercise(running.exercise_id).name.lower()} is still running. End it first.")
        return Trial.objects.create(
            athlete=athlete, exercise_id=exercise_id, kind=kind, day=clock.today(), started_at=clock.now()
        )
