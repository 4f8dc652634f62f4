"""The heaviest load of a dynamic lift that still moved fast: where its next wave starts. Common practice."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import fmean

from jarvok.core.learning.findings import FRESH_DAYS, Kind, Noticed
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import said_mass

STILL_FAST_MPS = 0.75  # [J] mean velocity: the lower edge of strength-speed
LEAST_LOADS, LEAST_DAYS = 2, 2  # [J] one load is no wave


@dataclass(frozen=True)
class FastSet:
    """A set of a dynamic lift: the load on the bar in kg and its fastest mean velocity in m/s."""

    day: date
    load_kg: float
    mean_mps: float
    ref: str


def still_fast(
    lift_name: str, exercise_id: str, sets: Sequence[FastSet], max_kg: float | None, today: date, unit: str = "kg"
) -> Noticed | None:
    """Return the heaviest load of the last wave up to which every load moved fast, as a whole per cent of the max, or None.

    Each load stands for the mean of its sets in the last four weeks, with two loads on two days at least.
    """
    rows = [s for s in sets if 0 <= (today - s.day).days <= FRESH_DAYS]
    by_load: dict[float, list[FastSet]] = defaultdict(list)
    for item in rows:
        by_load[item.load_kg].append(item)
    if not max_kg or len(by_load) < LEAST_LOADS or len({s.day for s in rows}) < LEAST_DAYS:
        return None
    fast: tuple[float, float] | None = None
    for load_kg in sorted(by_load):
        mps = fmean(s.mean_mps for s in by_load[load_kg])
        if mps < STILL_FAST_MPS:
            break
        fast = load_kg, mps
    if fast is None:
        return None
    load_kg, mps = fast
    pct = round(100 * load_kg / max_kg)
    newest = {kg: max(mine, key=lambda s: s.day) for kg, mine in by_load.items()}
    return Noticed(
        f"fast:{exercise_id}:{pct}:{max(s.day for s in rows):%Y-%m}",
        Kind.FAST,
        exercise_id,
        f"{lift_name} was still fast at {pct} % of the max: {said_mass(load_kg, unit)} at {mps:.2f} m/s.",
        tuple(
            (f"{said_day(newest[kg].day)}: {said_mass(kg, unit)} at {fmean(s.mean_mps for s in mine):.2f} m/s", newest[kg].ref)
            for kg, mine in sorted(by_load.items())
        ),
        max(s.day for s in rows),
        float(pct),
    )
