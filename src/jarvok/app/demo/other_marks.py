"""Jumps, sprints and holds of the demo athletes, faults, positions and kits. Drawn from a generator of its own."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np

from jarvok.app.facts.athletes.models import Athlete, Fault, MarkRecord
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.people.models import Act
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.gravity import STANDARD_GRAVITY_MPS2
from jarvok.core.quantities.mass import kg_from_lb

POSITIONS = ("line player", "left back", "centre back", "right wing", "goalkeeper", "right back", "left wing")


def add_measures(today: date, act: Act) -> None:
    """Give every athlete the marks that are not loads, some of them a fault, and the centre two more kits."""
    rng = np.random.default_rng(41)
    marks: list[MarkRecord] = []
    for athlete in Athlete.objects.select_related("squad"):
        height_cm = float(rng.normal(38 if athlete.squad.sport == "handball" else 36, 3))
        weak = str(rng.choice(["left", "right"]))
        share = float(rng.uniform(0.84, 0.99))
        for weeks in (8, 1):
            day = today - timedelta(weeks=weeks)
            grown = height_cm + (8 - weeks) * 0.15
            marks += _jumps(athlete, day, grown, weak, share, rng)
        marks.append(
            _mark(athlete, "front_hold", MarkKind.HOLD, today - timedelta(weeks=3), seconds=float(rng.integers(60, 150)))
        )
        if athlete.squad.sport == "handball":
            day, pace = today - timedelta(weeks=2), float(rng.uniform(0.97, 1.05))
            marks.append(_mark(athlete, "sprint", MarkKind.SPRINT, day, distance_m=10.0, seconds=round(1.86 * pace, 2)))
            marks.append(_mark(athlete, "sprint", MarkKind.SPRINT, day, distance_m=30.0, seconds=round(4.42 * pace, 2)))
            athlete.position = next((p for p in POSITIONS if athlete.note.startswith(p)), "")
            athlete.group = "Backs" if "back" in athlete.position else "Front and keepers"
            athlete.save()
    marks += _monthly_jumps(today, rng)
    for mark in marks:
        mark.act = act
    MarkRecord.objects.bulk_create(marks)
    _faults(today)
    _kits()


def _mark(athlete: Athlete, exercise_id: str, kind: MarkKind, day: date, side: str = "", **measures: float) -> MarkRecord:
    return MarkRecord(athlete=athlete, exercise_id=exercise_id, kind=kind, day=day, side=side, measures=measures)


def _jumps(athlete: Athlete, day: date, height_cm: float, weak: str, share: float, rng: np.random.Generator) -> list[MarkRecord]:
    flight_s = round((8 * height_cm / 100 / STANDARD_GRAVITY_MPS2) ** 0.5, 3)
    one_leg = 0.55 * height_cm
    found = [_mark(athlete, "countermovement_jump", MarkKind.JUMP, day, flight_s=flight_s)]
    for side in ("left", "right"):
        value = round(one_leg * (share if side == weak else 1.0), 1)
        found.append(_mark(athlete, "single_leg_jump", MarkKind.JUMP, day, side, height_cm=value))
    contact_s = float(rng.uniform(0.17, 0.23))
    best_drop_cm = float(rng.choice([30.0, 45.0]))
    for drop_cm in (15.0, 30.0, 45.0, 60.0):
        beyond = max(0.0, (drop_cm - best_drop_cm) / 15)  # past the best drop the ground holds the jumper longer
        below = max(0.0, (best_drop_cm - drop_cm) / 15)
        contact, height = contact_s * (1 + 0.11 * beyond), 0.9 * height_cm * (1 - 0.04 * below - 0.05 * beyond)
        contact, height = round(contact, 3), round(height, 1)
        found.append(_mark(athlete, "drop_jump", MarkKind.DROP_JUMP, day, drop_cm=drop_cm, contact_s=contact, height_cm=height))
    assisted_cm = round(height_cm * float(rng.uniform(1.05, 1.14)), 1)
    found.append(_mark(athlete, "band_assisted_jump", MarkKind.JUMP, day, height_cm=assisted_cm))
    return found


def _monthly_jumps(today: date, rng: np.random.Generator) -> list[MarkRecord]:
    """One wrestler jumps every third week, so that there are results enough to fit the picture of fitness and fatigue to."""
    athlete = Athlete.objects.filter(name="Noor Vasko").first()
    if athlete is None:
        return []
    found: list[MarkRecord] = []
    for n in range(3, 17):
        height_cm = 34 + 2.2 * np.sin(n / 2.6) + float(rng.normal(0, 0.5))
        day = today - timedelta(weeks=3 * n)
        found.append(_mark(athlete, "countermovement_jump", MarkKind.JUMP, day, height_cm=round(height_cm, 1)))
    return found


def _faults(today: date) -> None:
    for name, exercise_id, fault in (
        ("Cato Brennick", "snatch", "slow_under_the_bar"),
        ("Yara Lindqvale", "front_squat", "upper_back_rounds"),
        ("Maren Tolliver", "clean_and_jerk", "dips_forward"),
    ):
        athlete = Athlete.objects.filter(name=name).first()
        if athlete is not None:
            Fault.objects.create(athlete=athlete, exercise_id=exercise_id, fault=fault, since=today - timedelta(days=60))


def _kits() -> None:
    KitRecord.objects.create(
        name="Platform with micro-plates",
        bar_kg=20,
        pairs=[[25, 4], [20, 2], [15, 2], [10, 2], [5, 2], [2.5, 2], [1.25, 2], [1, 1], [0.5, 2]],
        collar_kg=2.5,
        has=["barbell", "dumbbell", "kettlebell", "cable", "belt"],
        attachments=[
            {"name": "thin pair", "kind": "bands", "at": "pin 8", "bottom_kg": 4, "top_kg": 18},
            {"name": "broad pair", "kind": "bands", "at": "pin 8", "bottom_kg": 11, "top_kg": 42},
            {"name": "broad pair", "kind": "reverse bands", "at": "top of the rack", "bottom_kg": 38, "top_kg": 6},
            {"name": "long chains", "kind": "chains", "at": "floor to hip", "bottom_kg": 0, "top_kg": 13.2},
        ],
    )
    pounds = [[round(kg_from_lb(mass), 4), count] for mass, count in ((45, 2), (25, 1), (10, 2), (5, 2), (2.5, 1))]
    KitRecord.objects.create(
        name="Away gym in pounds", unit="lb", bar_kg=round(kg_from_lb(45), 4), pairs=pounds, has=["barbell", "dumbbell", "cable"]
    )
    platform = KitRecord.objects.get(name="Platform with micro-plates")
    Athlete.objects.filter(squad__sport="weightlifting").update(kit=platform)
