"""That an athlete's load–velocity line has moved in the last weeks: the same loads faster, or slower, than before them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta
from statistics import fmean

import numpy as np

from jarvok.core.learning.findings import FRESH_DAYS, Kind, Noticed
from jarvok.core.learning.line_moved import LEAST_MOVED_MPS
from jarvok.core.learning.noise import differ
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import said_mass
from jarvok.core.velocity.profile import LoadVelocity, fastest_per_load

NEWER_DAYS = 28  # [J] half of the time that a profile is made from
LEAST_LINE_DAYS = 4  # [J] of each half: a day is fast or slow as a whole, so days are what is counted


def line_that_moved(
    lift_name: str, exercise_id: str, points: Sequence[LoadVelocity], today: date, unit: str = "kg"
) -> Noticed | None:
    """Return that the same loads of a lift have moved faster or slower in the last four weeks than in those before, or None.

    Each day's mean distance from the lines' common slope is one number; four days or more before and within the four weeks
    are held against each other by Student's t. What is kept makes loads come from the newer velocities alone.
    """
    newest = max((p.day for p in points), default=None)
    if newest is None or (today - newest).days > FRESH_DAYS:
        return None
    kept = fastest_per_load([p for p in points if p.definition is _kind_of(points, newest)])
    split = today - timedelta(days=NEWER_DAYS)
    older, newer = [p for p in kept if p.day <= split], [p for p in kept if p.day > split]
    if min(len({p.day for p in half}) for half in (older, newer)) < LEAST_LINE_DAYS:
        return None
    slope = _common_slope((older, newer))
    if slope is None or slope >= 0:
        return None
    then, now = (_of_days(half, slope) for half in (older, newer))
    moved = fmean(now) - fmean(then)
    if abs(moved) < LEAST_MOVED_MPS or not differ(then, now):
        return None
    load_kg = fmean(p.load_kg for p in kept)
    at = [fmean(offsets) + slope * load_kg for offsets in (then, now)]
    since = min(p.day for p in newer)
    word = "faster" if moved > 0 else "slower"
    return Noticed(
        f"line:{exercise_id}:{word}:{since:%Y-%m}",
        Kind.LINE,
        exercise_id,
        f"{lift_name}: the same loads move {abs(moved):.2f} m/s {word} since {said_day(since)}.",
        (
            (f"{len(then)} days before: {at[0]:.2f} m/s at {said_mass(load_kg, unit, whole=True)}", older[0].ref),
            (f"{len(now)} days since: {at[1]:.2f} m/s at {said_mass(load_kg, unit, whole=True)}", newer[0].ref),
        ),
        since,
        round(moved, 3),
    )


def _kind_of(points: Sequence[LoadVelocity], day: date) -> object:
    return next(p.definition for p in points if p.day == day)


def _common_slope(halves: Sequence[Sequence[LoadVelocity]]) -> float | None:
    """The slope in m/s per kg of parallel lines, one for each half."""
    up, across = 0.0, 0.0
    for half in halves:
        loads, speeds = np.array([p.load_kg for p in half]), np.array([p.velocity_mps for p in half])
        centred = loads - loads.mean()
        up, across = up + float(centred @ speeds), across + float(centred @ centred)
    return up / across if across > 0 else None


def _of_days(points: Sequence[LoadVelocity], slope: float) -> list[float]:
    by_day: dict[date, list[float]] = defaultdict(list)
    for p in points:
        by_day[p.day].append(p.velocity_mps - slope * p.load_kg)
    return [fmean(rows) for _, rows in sorted(by_day.items())]
