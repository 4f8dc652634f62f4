"""Start the simulated bar sensor for one set: a process of its own that talks to the server like a real bridge."""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.floor.models import SensorStream, TrainingSession
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.lifter import LiftedSet, TrueStrength, lift_set, true_strength

RATE_HZ = 100.0
NOISE_M = 0.001


def seed_of(*parts: object) -> int:
    """A repeatable seed from what the set is."""
    return int.from_bytes(hashlib.sha256(":".join(map(str, parts)).encode()).digest()[:6], "big")


def hidden_strength(session: TrainingSession, lift: Exercise) -> TrueStrength:
    """The demo athlete's hidden numbers, or ones made around the current max for anybody else."""
    known = ((session.athlete.simulated or {}).get("lifts") or {}).get(lift.same_lift)
    if known:
        return TrueStrength(known["one_rm_kg"], known["max_mps"], known["light_mps"])
    state = LiftBook([session.athlete], session.day).state(session.athlete_id, lift.id)
    if state.max_kg is None:
        raise CoachError(
            f"The simulator needs a max in {lift.name.lower()}.", where="line_id", accepted="Log the set without a sensor."
        )
    return true_strength(state.max_kg, lift, np.random.default_rng(seed_of(session.athlete_id, lift.same_lift)))


def lifted_by(
    session: TrainingSession, line_id: int, exercise_id: str, kind: str, number: int, load_kg: float, reps: int
) -> LiftedSet:
    """What the hidden lifter does with a set: the day's form, fatigue and noise are in it."""
    form = 1.0 + float(np.random.default_rng(seed_of(session.athlete_id, session.day)).normal(0.0, 0.015))
    rng = np.random.default_rng(seed_of(session.pk, line_id, kind, number))
    fresh = max(0.0, 1.0 - 0.006 * (number - 1)) if kind == "work" else 1.0
    return lift_set(hidden_strength(session, exercise(exercise_id)), load_kg, reps, form * fresh, rng)


def run(stream: SensorStream, load_kg: float, reps: int, base_url: str) -> None:
    """Let the stand-in lift the set of a stream; its process ends by itself after the set."""
    lift_id = stream.line.exercise_id
    work = lifted_by(stream.session, stream.line_id, lift_id, stream.kind, stream.set_number, load_kg, reps)
    spawn(
        {
            "sort": "bar",
            "url": f"{base_url}/api/streams/{stream.token}",
            "exercise_id": lift_id,
            "velocities_mps": list(work.velocities_mps),
            "rate_hz": RATE_HZ,
            "noise_m": NOISE_M,
            "seed": seed_of(stream.token),
        }
    )


def spawn(order: dict[str, Any]) -> None:
    """Start the simulated sensor as a process of its own."""
    source = Path(__file__).resolve().parents[3]
    process = subprocess.Popen(
        [sys.executable, "-m", "jarvok.sensors"],
        stdin=subprocess.PIPE,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        env={**os.environ, "PYTHONPATH": str(source)},
        start_new_session=True,
    )
    assert process.stdin is not None
    process.stdin.write(json.dumps({"speed": settings.SIMULATED_SPEED, **order}).encode())
    process.stdin.close()
