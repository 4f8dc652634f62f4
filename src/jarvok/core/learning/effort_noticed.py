"""The velocity that an effort has settled at, and the jump of a set after which heights fall. Common practice."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from statistics import fmean, stdev

from jarvok.core.learning.findings import FRESH_DAYS, Kind, Noticed
from jarvok.core.quantities.days import said_day
from jarvok.core.testing.chance import falls_after
from jarvok.core.velocity.effort_table import Pair
from jarvok.core.velocity.ladder import BORDERLINE_MPS

LEAST_PAIRS, LEAST_PAIR_DAYS = 4, 3  # [J] as many as a count of reserve wants
LOWEST_RPE, HIGHEST_RPE = 7.0, 9.5  # [C] where work sets end
LEAST_SETS, LEAST_SET_DAYS = 6, 2  # [J] sets of jumps
LEAST_JUMPS = 4  # [J] a set of fewer shows no fall


def velocity_at_effort(lift_name: str, exercise_id: str, pairs: Sequence[Pair], today: date) -> Noticed | None:
    """Return the effort whose last-repetition velocity has settled, the one with most sets behind it, or None.

    Four sets on three days, the newest four weeks old at most, that spread no more than one repetition at equal loads does.
    """
    found: list[tuple[int, float, list[Pair]]] = []
    for effort in sorted({p.rpe for p in pairs if LOWEST_RPE <= p.rpe <= HIGHEST_RPE}):
        rows = [p for p in pairs if p.rpe == effort]
        days = {p.day for p in rows}
        if len(rows) < LEAST_PAIRS or len(days) < LEAST_PAIR_DAYS or (today - max(days)).days > FRESH_DAYS:
            continue
        if round(stdev(p.velocity_mps for p in rows), 6) <= BORDERLINE_MPS:
            found.append((len(rows), effort, rows))
    if not found:
        return None
    _, effort, rows = max(found, key=lambda row: row[:2])
    mps = fmean(p.velocity_mps for p in rows)
    return Noticed(
        f"velocity:{exercise_id}:{effort:g}",
        Kind.VELOCITY,
        exercise_id,
        f"RPE {effort:g} in the {lift_name.lower()} is {mps:.2f} m/s at the last repetition.",
        tuple((f"{said_day(p.day)}: {p.velocity_mps:.2f} m/s", p.ref) for p in sorted(rows, key=lambda p: p.day)[-5:]),
        max(p.day for p in rows),
        round(mps, 3),
    )


def jumps_that_hold(
    jump_name: str, exercise_id: str, sets: Sequence[tuple[date, Sequence[float], str]], today: date
) -> Noticed | None:
    """Return after which jump of a set the heights fall by more than chance does, or None.

    `sets` are day, heights in cm and reference. Six sets of four jumps or more, on two days, are wanted; of longer ones the
    jumps that all have are compared.
    """
    rows = [(day, heights, ref) for day, heights, ref in sets if len(heights) >= LEAST_JUMPS]
    days = {day for day, _, _ in rows}
    if len(rows) < LEAST_SETS or len(days) < LEAST_SET_DAYS or (today - max(days)).days > FRESH_DAYS:
        return None
    places = min(len(heights) for _, heights, _ in rows)
    table = [list(heights)[:places] for _, heights, _ in rows]
    after = falls_after(table)
    if after is None:
        return None
    before = fmean(x for row in table for x in row[:after])
    behind = fmean(x for row in table for x in row[after:])
    if behind >= before:
        return None
    evidence = (f"{len(rows)} sets: {before:.1f} cm on average up to jump {after}, {behind:.1f} cm behind it", rows[-1][2])
    words = f"{jump_name}: heights fall after jump {after} of a set; {after} a set are enough."
    return Noticed(f"jumps:{exercise_id}:{after}", Kind.JUMPS, exercise_id, words, (evidence,), max(days), float(after))
