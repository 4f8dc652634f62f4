"""How a main line grows inside its session: flat, rising to its top set, or up to a top set of the day. Common practice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from enum import StrEnum

from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.methods.top_set import TopSet
from jarvok.core.loading.prescription import Prescription, SetGroup

RISE_PCT = 5.0  # [J] points of the max from one set to the next
LEAST_RISE_PCT = 55.0  # [J] what is lighter is warm-up
WAY_UP = (0.76, 0.85, 0.93)  # [J] shares of the load to expect at the top, of the sets before it
# the load to expect at a top set of so many repetitions with about one left, in % of the max; common practice
TOP_PCT = ((1, 97.0), (2, 94.0), (3, 91.0), (5, 86.0))


class Build(StrEnum):
    """How the sets of a line follow each other."""

    FLAT = "flat"
    RISES = "rises"
    TOP = "top"


def built(written: Prescription, build: Build) -> Prescription:
    """Return a line of one group with its sets grown to the last: the share as written is that of the last set.

    A top set has its way up as sets of their own. Lines that say more than one group, or no share, are left as they are.
    """
    if build is Build.FLAT or len(written.groups) != 1:
        return written
    group = written.groups[0]
    if build is Build.RISES and isinstance(group.load, Percent) and not group.load.varies and group.sets > 1:
        return replace(written, groups=(replace(group, load=Percent(rising(group.load.percents[0], group.sets))),))
    if build is Build.TOP and isinstance(group.load, TopSet) and group.sets > 1:
        return replace(written, groups=tuple(_way_up(group)))
    return written


def rising(top_pct: float, sets: int) -> tuple[float, ...]:
    """Return the shares in % of sets that rise to the top one, none below the least a work set has."""
    return tuple(max(min(LEAST_RISE_PCT, top_pct), top_pct - RISE_PCT * (sets - 1 - i)) for i in range(sets))


def _way_up(group: SetGroup) -> Sequence[SetGroup]:
    reps = group.reps or 1
    top_pct = next((pct for most, pct in TOP_PCT if reps <= most), TOP_PCT[-1][1])
    before = min(group.sets - 1, len(WAY_UP))
    shares = tuple(round(2 * top_pct * share) / 2 for share in WAY_UP[-before:])
    return (replace(group, sets=before, load=Percent(shares)), replace(group, sets=group.sets - before))
