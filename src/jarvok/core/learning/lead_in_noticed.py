"""Whether a lead-in day makes the next day's sprints faster: the days after one beside the days after a day off."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import fmean

from jarvok.core.learning.findings import FRESH_DAYS, Kind, Noticed
from jarvok.core.learning.noise import differ
from jarvok.core.quantities.days import said_day

EACH_WAY = 4  # [J] days of each kind: a day is fast or slow as a whole, so days are what is counted
LEAST_DIFFERENCE_PCT = 0.5  # [J] what a clock by hand or a wind does is no finding
MOST_LEAD_IN_M = 20.0  # [C] a lead-in day holds short accelerations and no more


@dataclass(frozen=True)
class SprintDay:
    """A day's best time over a distance, and whether the day before was a lead-in day or a day off."""

    day: date
    what: str  # the exercise and the distance: only like runs are compared
    time_s: float
    after_lead_in: bool
    ref: str


def lead_in_that_suits(runs: Sequence[SprintDay], today: date) -> Noticed | None:
    """Return whether sprints are faster or slower the day after a lead-in day than after a day off, by more than chance.

    Each day stands for its mean distance from the athlete's own mean time in the same run, in %; four days of each kind are
    wanted, the newest four weeks old at most. The value is that difference in %: below 0, faster after a lead-in day.
    """
    by_run: dict[str, list[SprintDay]] = defaultdict(list)
    for run in runs:
        by_run[run.what].append(run)
    over: dict[date, list[float]] = defaultdict(list)
    for alike in by_run.values():
        if {r.after_lead_in for r in alike} == {True, False}:
            middle = fmean(fmean(r.time_s for r in alike if r.after_lead_in is kind) for kind in (True, False))
            for r in alike:
                over[r.day].append(100 * (r.time_s / middle - 1))
    kinds = {r.day: r for r in runs if r.day in over}
    led = [fmean(over[d]) for d, r in sorted(kinds.items()) if r.after_lead_in]
    off = [fmean(over[d]) for d, r in sorted(kinds.items()) if not r.after_lead_in]
    if min(len(led), len(off)) < EACH_WAY or (today - max(kinds)).days > FRESH_DAYS:
        return None
    change = fmean(led) - fmean(off)
    if abs(change) < LEAST_DIFFERENCE_PCT or not differ(off, led):
        return None
    word = "faster" if change < 0 else "slower"
    newest = sorted(kinds)[-8:]
    return Noticed(
        f"lead-in:{word}:{max(kinds):%Y-%m}",
        Kind.LEAD_IN,
        "",
        f"Sprints are {abs(change):.1f} % {word} the day after a lead-in day than after a day off.",
        tuple(
            (
                f"{said_day(d)}, after a {'lead-in day' if kinds[d].after_lead_in else 'day off'}: {fmean(over[d]):+.1f} %",
                kinds[d].ref,
            )
            for d in newest
        ),
        max(kinds),
        round(change, 2),
    )
