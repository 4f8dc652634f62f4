"""What a trial's sensor has measured since the last try."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app.facts.room.models import Sensor, Trial
from jarvok.app.room.actions.measure_trial import sorts_for
from jarvok.core.library.exercises import exercise


@dataclass(frozen=True)
class Measured:
    """The sensors that may measure a trial, the one that does, and what it saw since the last try: m/s, cm."""

    sensors: tuple[Sensor, ...]
    chosen: Sensor | None
    velocities_mps: tuple[float, ...]
    heights_cm: tuple[float, ...]


def measured(trial: Trial) -> Measured:
    """Return what is measured of a trial, oldest first."""
    rows = tuple(Sensor.objects.filter(removed_at__isnull=True, sort__in=sorts_for(trial)))
    last = trial.entries.filter(taken_back_at__isnull=True).last()
    readings = trial.readings.filter(taken_out_at__isnull=True)
    values = [r.values for r in (readings.filter(at__gt=last.at) if last is not None else readings)]
    is_peak = exercise(trial.exercise_id).velocity == "peak"
    own = [v["peak_mps" if is_peak else "mean_mps"] for v in values if "mean_mps" in v]
    device = [v["mps"] for v in values if "mps" in v and v["peak"] == is_peak]
    heights = [v["height_cm"] for v in values if "height_cm" in v]
    return Measured(rows, next((s for s in rows if s.trial_id == trial.pk), None), tuple(own + device), tuple(heights))
