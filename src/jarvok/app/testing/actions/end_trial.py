"""A trial is ended; what it found is kept where the coach says so."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import MarkRecord
from jarvok.app.facts.room.models import OwnDefault, Trial
from jarvok.app.testing.trials import standing, state_of
from jarvok.app.testing.tries import check_running
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.plates import unit_of
from jarvok.core.testing.tried import TrialKind


def run(who: Who, trial: Trial, keep: bool) -> None:
    """End a trial; with `keep` what it found becomes the athlete's own default, or a mark for a single."""
    with acting(who, "end_trial", "trial ended", athlete=trial.athlete):
        check_running(trial)
        found = standing(trial)
        trial.ended_at, trial.outcome, trial.result = clock.now(), found.sentence[:300], found.value
        trial.save()
        if not keep or found.value is None:
            return
        if trial.kind in (TrialKind.REST, TrialKind.REPS):
            OwnDefault.objects.create(
                athlete=trial.athlete,
                kind=trial.kind,
                exercise_id=trial.exercise_id,
                value=found.value,
                trial=trial,
                at=clock.now(),
            )
        elif trial.kind == TrialKind.SINGLE:
            trial.mark = MarkRecord.objects.create(
                athlete=trial.athlete, exercise_id=trial.exercise_id, kind=MarkKind.TECHNICAL_MAX, day=clock.today(),
                load_kg=found.value, unit=unit_of(state_of(trial).implement), reps=1, note="working-up single",
            )  # fmt: skip
            trial.save(update_fields=["mark"])
