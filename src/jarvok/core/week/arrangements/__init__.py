"""The arrangements of the week, one module each."""

from __future__ import annotations

from jarvok.core.errors import CoachError
from jarvok.core.week.arrangements import (
    beside_track,
    closing_tests,
    combat,
    concurrent,
    daily_dose,
    daily_lifts,
    high_low,
    in_season,
    percent_lift,
    team_strength,
    weightlifting,
)
from jarvok.core.week.plan import WeekArrangement

WEEK_ARRANGEMENTS: tuple[WeekArrangement, ...] = (
    combat.TWO_DAYS,
    combat.ARRANGEMENT,
    weightlifting.ARRANGEMENT,
    daily_lifts.ARRANGEMENT,
    concurrent.HEAVY_APART,
    concurrent.HEAVY_FIRST,
    high_low.ARRANGEMENT,
    beside_track.ARRANGEMENT,
    team_strength.ARRANGEMENT,
    percent_lift.ARRANGEMENT,
    daily_dose.ARRANGEMENT,
    in_season.ARRANGEMENT,
    closing_tests.ARRANGEMENT,
)
WEEK_BY_KEY = {a.key: a for a in WEEK_ARRANGEMENTS}
USUAL = {"weightlifting": ("weightlifting", 3)}  # [C] by sport; others train two days around practice


def week_arrangement(key: str) -> WeekArrangement:
    """Return the arrangement of that key; raise `CoachError` when there is none."""
    found = WEEK_BY_KEY.get(key)
    if found is None:
        names = ", ".join(a.name for a in WEEK_ARRANGEMENTS)
        raise CoachError("There is no such week.", where="week", accepted=names)
    return found


def usual_for(sport: str) -> tuple[str, int]:
    """Return the key and number of days a sport takes until the coach says otherwise."""
    return USUAL.get(sport, ("two_days", 2))
