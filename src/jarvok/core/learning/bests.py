"""Bests: the heaviest of each sets × repetitions scheme, the heaviest at a velocity, the fastest at a load."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from jarvok.core.marks.past import PastSession
from jarvok.core.velocity.profile import LoadVelocity

LOWEST_MPS = 0.2  # [J] the slowest threshold worth a record
THRESHOLD_STEP_MPS = 0.1  # [J]


@dataclass(frozen=True)
class SchemeRecord:
    """The heaviest load in kg at which `sets` sets of `reps` were all done in one session."""

    sets: int
    reps: int
    load_kg: float
    day: date
    ref: str


@dataclass(frozen=True)
class VelocityRecord:
    """The heaviest load in kg still moved at `velocity_mps` or faster, and how fast that was."""

    at_least_mps: float
    load_kg: float
    velocity_mps: float
    day: date
    ref: str


def scheme_records(history: Iterable[PastSession]) -> tuple[SchemeRecord, ...]:
    """Return the best of each scheme that was done, by repetitions and sets.

    A session of 4 × 5 holds a 4 × 5, and its load stands for the smaller numbers of sets only where it was heavier.
    """
    best: dict[tuple[int, int], SchemeRecord] = {}
    for session in (s for s in history if not s.hung):
        by_reps: dict[int, list[float]] = {}
        for item in session.sets:
            if item.load_kg and item.reps and not item.form_broke:
                by_reps.setdefault(item.reps, []).append(item.load_kg)
        for reps, loads in by_reps.items():
            load = min(loads)
            key = (len(loads), reps)
            if key not in best or load > best[key].load_kg:
                best[key] = SchemeRecord(len(loads), reps, load, session.day, session.ref)
    return tuple(best[key] for key in sorted(best, key=lambda k: (k[1], k[0])))


def velocity_records(points: Sequence[LoadVelocity]) -> tuple[VelocityRecord, ...]:
    """Return the heaviest load at each round velocity, slowest threshold first; each load stands once, at its fastest."""
    found: list[VelocityRecord] = []
    if not points:
        return ()
    threshold = LOWEST_MPS
    fastest = max(p.velocity_mps for p in points)
    while threshold <= fastest:
        passed = [p for p in points if p.velocity_mps >= threshold]
        top = max(passed, key=lambda p: (p.load_kg, p.velocity_mps))
        record = VelocityRecord(round(threshold, 1), top.load_kg, top.velocity_mps, top.day, top.ref)
        if found and found[-1].load_kg == record.load_kg:
            found[-1] = record
        else:
            found.append(record)
        threshold += THRESHOLD_STEP_MPS
    return tuple(found)
