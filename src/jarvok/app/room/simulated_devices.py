"""Starts the simulated sensor for a paired one: a process of its own that speaks the open formats like a real bridge."""

from __future__ import annotations

from typing import Any

import numpy as np

from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Sensor
from jarvok.app.floor.simulate import NOISE_M, lifted_by, seed_of, spawn
from jarvok.app.room.paired import Sort, Up
from jarvok.app.room.sensors import up_at
from jarvok.core.errors import CoachError
from jarvok.core.floor.told import ToldSet
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.plates import STANDARD_BAR_KG
from jarvok.core.sensors.faults import fault_named

JUMP_CM, JUMP_SPREAD_CM = 34.0, 1.2  # a middling jumper, for the stand-in


def send(sensor: Sensor, fault: str, base_url: str) -> str:
    """Let the stand-in of a sensor send one set to it. Returns what it does, in words."""
    faults = [fault_named(fault)] if fault else []
    up = up_at(sensor.rack)[0] if sensor.rack is not None else None
    order: dict[str, Any] = {
        "sort": sensor.sort,
        "url": f"{base_url}/api/sensors/{sensor.token}/messages",
        "faults": [str(f) for f in faults],
        "seed": seed_of(sensor.token, sensor.readings.count(), up),
        "rate_hz": sensor.rate_hz,
        "noise_m": NOISE_M,
    }
    if sensor.sort == Sort.BAR:
        if up is None or exercise(up.exercise_id).motion is None:
            raise CoachError(
                "Nobody is up with a bar here.", where="rack", accepted="Pair it with a rack where a bar lift is up."
            )
        order |= {"exercise_id": up.exercise_id, "velocities_mps": _velocities(up)}
    elif sensor.sort == Sort.MAT:
        rng = np.random.default_rng(order["seed"])
        reset = up is None or (exercise(up.exercise_id).plyometric is None)
        order |= {
            "heights_cm": [round(JUMP_CM - 0.5 * i + float(rng.normal(0, JUMP_SPREAD_CM)), 1) for i in range(4)],
            "contact_s": 0.0 if reset else 0.22,
        }
    elif sensor.sort == Sort.GATES:
        order |= {"gates_m": sensor.gates_m or [5, 10, 20, 30], "top_mps": 8.6, "tau_s": 1.15}
    elif sensor.sort == Sort.RESULTS:
        if up is None or exercise(up.exercise_id).motion is None:
            raise CoachError(
                "Nobody is up with a bar here.", where="rack", accepted="Pair it with a rack where a bar lift is up."
            )
        order |= {"velocities_mps": _velocities(up), "is_peak": exercise(up.exercise_id).velocity == "peak"}
    else:
        order |= {"resting": 92, "peak": 176, "work_s": 20, "rest_s": 20}
    spawn(order)
    return f"{sensor.name} sends one {'set' if sensor.sort in (Sort.BAR, Sort.MAT, Sort.RESULTS) else 'run'}."


def _velocities(up: Up) -> list[float]:
    session = TrainingSession.objects.select_related("athlete").get(pk=up.session_id)
    line = session.lines.get(pk=up.line_id)
    planned = ToldSet.from_raw((line.ramp if up.kind == "ramp" else line.planned)[up.number - 1])
    work = lifted_by(
        session, up.line_id, up.exercise_id, up.kind, up.number, planned.load_kg or STANDARD_BAR_KG, planned.reps or 3
    )
    return list(work.velocities_mps)
