"""Sessions that lie behind an athlete, stored as the floor would have stored them."""

from __future__ import annotations

from datetime import date
from typing import Any

from jarvok.app import clock
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


def do(
    athlete: Athlete, day: date, key: str, *, sets: int, reps: int = 5, srpe: float | None = 6, minutes: float | None = 50
) -> TrainingSession:
    """A finished session of one line of pulls at 100 kg, all done as written."""
    session = TrainingSession.objects.create(
        athlete=athlete, day=day, key=key, theme="x", started_at=clock.now(), finished_at=clock.now(), srpe=srpe, minutes=minutes
    )
    told = [{"reps": reps, "load_kg": 100.0, "share_of_max": 0.8}] * sets
    line = SessionLine.objects.create(
        session=session, order=0, slot="A1", block="A", exercise_id="trap_bar_deadlift", text=f"{sets} × {reps} @ 80 %",
        planned=told, role="main",
    )  # fmt: skip
    for number in range(1, sets + 1):
        SetRecord.objects.create(line=line, kind="work", number=number, load_kg=100, reps=reps, done_at=clock.now())
    return session


def planned_in(coach: Any, athlete: Athlete, monday: date = date(2026, 11, 30)) -> list[Any]:
    """The sheets of a week as the page shows them."""
    week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
    return [d["sheet"] for d in week["days"] if d["sheet"]]
