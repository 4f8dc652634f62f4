"""Sessions that lie behind an athlete, stored as the floor would have stored them."""

from __future__ import annotations

from datetime import date

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, SetKind, SetRecord, TrainingSession


def session(athlete: Athlete, day: date, *sets: tuple[float, int, float | None]) -> None:
    """A finished day of squats: each set by its kilograms, repetitions and what was left in reserve."""
    held = TrainingSession.objects.create(athlete=athlete, day=day, key="A", theme="", started_at=f"{day}T10:00:00Z")
    line = SessionLine.objects.create(
        session=held, order=0, slot="A1", block="", exercise_id="back_squat", text="4 × 5", planned=[], ramp=[], reason=""
    )
    for number, (load_kg, reps, rir) in enumerate(sets, start=1):
        SetRecord.objects.create(
            line=line, kind=SetKind.WORK, number=number, load_kg=load_kg, reps=reps, rir=rir, planned_reps=5,
            done_at=f"{day}T10:{number:02d}:00Z",
        )  # fmt: skip
