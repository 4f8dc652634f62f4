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
    strength_contest,
    team_strength,
    weightlifting,
)
from jarvok.core.week.plan import WeekArrangement

WEEK_ARRANGEMENTS: tuple[WeekArrangement, ...] = (
    combat.TWO_DAYS,
    combat.ARRANGEMENT,
    weightlifting.ARRANGEMENT,
    weightlifting.FRONT_FIRST,
    daily_lifts.ARRANGEMENT,
    concurrent.HEAVY_APART,
    concurrent.HEAVY_FIRST,
    high_low.ARRANGEMENT,
    high_low.THREE_HIGH,
    beside_track.ARRANGEMENT,
    team_strength.ARRANGEMENT,
    percent_lift.ARRANGEMENT,
    strength_contest.ARRANGEMENT,
    daily_dose.ARRANGEMENT,
    in_season.ARRANGEMENT,
    closing_tests.ARRANGEMENT,
)
WEEK_BY_KEY = {a.key: a for a in WEEK_ARRANGEMENTS}
# the week model and sessions a week that belong to a season model, by sport ("": any other); common practice
PROPOSED: dict[str, dict[str, tuple[str, int]]] = {
    "force_velocity": {"weightlifting": ("weightlifting", 3), "": ("two_days", 2)},
    "linear": {"weightlifting": ("weightlifting", 3), "handball": ("team_strength", 2), "": ("percent_lift", 3)},
    "block": {"weightlifting": ("weightlifting", 4), "handball": ("team_strength", 3), "": ("percent_lift", 4)},
    "concurrent": {"": ("concurrent", 4), "wrestling": ("concurrent", 2), "handball": ("concurrent", 2)},
    "high_low": {"": ("high_low", 4)},
    "daily_doses": {"": ("daily_dose", 5)},
    "strength_event": {"": ("strength_contest", 4)},
}


def week_arrangement(key: str) -> WeekArrangement:
    """Return the arrangement of that key; raise `CoachError` when there is none."""
    found = WEEK_BY_KEY.get(key)
    if found is None:
        names = ", ".join(a.name for a in WEEK_ARRANGEMENTS)
        raise CoachError("There is no such week.", where="week", accepted=names)
    return found


# the same days with one more: what an athlete gets who trains more often than a model has sessions; common practice
LARGER = {"two_days": "combat"}


def for_days(key: str, wanted: int) -> str:
    """Return the week model itself, or the one with the same days and more where it does not know so many sessions."""
    larger = LARGER.get(key, key)
    return key if wanted in WEEK_BY_KEY[key].days or wanted not in WEEK_BY_KEY[larger].days else larger


def days_words(model: WeekArrangement, wanted: int | None, holds: int) -> str:
    """Return in words that a week holds other than the wanted number of sessions, and which models hold it; else nothing."""
    if wanted is None or wanted == holds:
        return ""
    others = [a.name for a in WEEK_ARRANGEMENTS if wanted in a.days and not a.is_test and set(a.sports) & set(model.sports)]
    more = f" These hold {wanted}: {'; '.join(others)}." if others else ""
    return f"{wanted} sessions a week stand under Details; {model.name} holds {holds} at this point.{more}"


def usual_for(sport: str, season_model: str = "force_velocity") -> tuple[str, int]:
    """Return the key and number of days of the week model that belongs to a season model, until the coach says otherwise."""
    by_sport = PROPOSED.get(season_model, PROPOSED["force_velocity"])
    return by_sport.get(sport, by_sport[""])
