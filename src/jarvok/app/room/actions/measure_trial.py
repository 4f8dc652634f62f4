"""A sensor measures a trial, in place of what is up at its rack, or does so no longer."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Sensor, Trial
from jarvok.app.problems import Conflict
from jarvok.app.room.paired import Sort, forget
from jarvok.core.errors import CoachError
from jarvok.core.testing.tried import TrialKind

WITH_BAR = frozenset({Sort.BAR, Sort.RESULTS})


def sorts_for(trial: Trial) -> frozenset[Sort]:
    """What can measure a test: a mat those of jumps, a bar sensor the others."""
    return frozenset({Sort.MAT}) if trial.kind in (TrialKind.REST, TrialKind.REPS) else WITH_BAR


def run(who: Who, trial: Trial, sensor_id: int | None) -> None:
    """Give a trial a sensor; none sends the ones it has back to their racks."""
    with acting(who, "measure_trial", "sensor given to a trial" if sensor_id else "sensor given back", athlete=trial.athlete):
        if trial.ended_at is not None:
            raise Conflict("This trial has ended.")
        for held in Sensor.objects.filter(trial=trial):
            held.trial = None
            held.save(update_fields=["trial"])
            forget(held.token)
        if sensor_id is None:
            return
        sensor = Sensor.objects.filter(pk=sensor_id, removed_at__isnull=True).first()
        if sensor is None or Sort(sensor.sort) not in sorts_for(trial):
            raise CoachError("This sensor does not measure it.", where="sensor_id", accepted="One of those that are offered.")
        if sensor.trial is not None and sensor.trial.ended_at is None:
            raise Conflict(f"{sensor.name} measures another trial.")
        sensor.trial = trial
        sensor.save(update_fields=["trial"])
        forget(sensor.token)
