"""A weekly sport practice is written down, of the squad or of one athlete."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.kept import kept
from jarvok.core.errors import CoachError, outside

LIMITS = {"weekday": (0, 6), "hour": (0, 23.99), "minutes": (10, 300), "hardness": (1, 10)}


def run(
    who: Who, athlete: Athlete, *, weekday: int, hour: float, minutes: int, hardness: int, own: bool, sport: str,
    since: date | None = None, until: date | None = None,
) -> Practice:  # fmt: skip
    """Keep a practice: the athlete's own, of a second sport say, or the whole squad's."""
    return run_over(
        who, athlete.squad, athlete if own else None, sport=sport if own else "", weekday=weekday, hour=hour, minutes=minutes,
        hardness=hardness, since=since, until=until,
    )  # fmt: skip


def run_over(
    who: Who, squad: Squad, athlete: Athlete | None, *, weekday: int, hour: float, minutes: int, hardness: int, sport: str = "",
    since: date | None = None, until: date | None = None,
) -> Practice:  # fmt: skip
    """Keep a practice of a squad, or of one athlete in it; from a day and until a day, where it does not go on for ever."""
    values = {"weekday": weekday, "hour": hour, "minutes": minutes, "hardness": hardness}
    for name, (low, high) in LIMITS.items():
        if not low <= values[name] <= high:
            raise outside("RPE" if name == "hardness" else name, values[name], low, high, name)
    if len(sport) > 40:
        raise CoachError("The name of the sport is too long.", where="sport", accepted="At most 40 characters.")
    if since is not None and until is not None and until < since:
        raise CoachError("The practice ends before it begins.", where="until", accepted="A day from its first one on, or none.")
    scope = {"athlete": athlete} if athlete is not None else {"squad": squad}
    with acting(who, "add_practice", "practice added", **scope):
        practice = Practice(
            squad=squad, athlete=athlete, sport=sport.strip(), weekday=weekday, hour=hour, minutes=minutes, hardness=hardness,
            since=since, until=until,
        )  # fmt: skip
        with kept(practice):
            pass
        return practice
