"""A trial's sensor over HTTP: which may measure it, which does, and what it saw since the last try."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.shapes import LaneSensorOut
from jarvok.app.api.who import who_of
from jarvok.app.facts.room.models import Trial
from jarvok.app.once import once
from jarvok.app.room.actions import measure_trial
from jarvok.app.room.trial_readings import measured
from jarvok.app.schema import Schema

router = Router(tags=["trials"])


class MeasuredOut(Schema):
    """Sensors that may measure a trial, the one that does, and what it saw since the last try, oldest first."""

    sensors: list[LaneSensorOut]
    chosen: int | None
    velocities_mps: list[float]
    heights_cm: list[float]


class MeasureIn(Schema):
    sensor_id: int | None = None


def measured_out(trial: Trial) -> MeasuredOut:
    """What a trial's sensor has measured."""
    found = measured(trial)
    return MeasuredOut(
        sensors=[LaneSensorOut(id=s.pk, name=s.name, sort=s.sort) for s in found.sensors],
        chosen=found.chosen.pk if found.chosen is not None else None,
        velocities_mps=list(found.velocities_mps),
        heights_cm=list(found.heights_cm),
    )


@router.get("/trials/{int:trial_id}/measured", response={200: MeasuredOut, **ERRORS})
def read_measured(request: HttpRequest, trial_id: int) -> MeasuredOut:
    return measured_out(get_object_or_404(Trial, pk=trial_id))


@router.post("/trials/{int:trial_id}/sensor", response={200: MeasuredOut, **ERRORS})
def choose_sensor(request: HttpRequest, trial_id: int, payload: MeasureIn, idempotency_key: IdempotencyKey) -> MeasuredOut:
    """Give a trial a sensor, or send it back to its rack."""
    trial = get_object_or_404(Trial.objects.select_related("athlete"), pk=trial_id)

    def do() -> dict[str, Any]:
        measure_trial.run(who_of(request), trial, payload.sensor_id)
        return {}

    once(idempotency_key, {"trial": trial_id, "sensor": payload.sensor_id}, do)
    return measured_out(trial)
