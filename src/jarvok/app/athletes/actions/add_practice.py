"""A weekly sport practice is written down, of the squad or of one athlete."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Practice
from jarvok.core.errors import CoachError

LIMITS = {"weekday": (0, 6), "hour": (0, 23.99), "minutes": (10, 300), "hardness": (1, 10)}


def run(who: Who, athlete: Athlete, *, weekday: int, hour: float, minutes: int, hardness: int, own: bool, sport: str) -> Practice:
    """Keep a practice: the athlete's own, of a second sport say, or the whole squad's."""
    values = {"weekday": weekday, "hour": hour, "minutes": minutes, "hardness": hardness}
    for name, (low, high) in LIMITS.items():
        if not low <= values[name] <= high:
            raise CoachError(f"{values[name]:g} cannot be the {name}.", where=name, accepted=f"{low:g} to {high:g} are accepted.")
    if len(sport) > 40:
        raise CoachError("The name of the sport is too long.", where="sport", accepted="At most 40 characters.")
    scope = {"athlete": athlete} if own else {"squad": athlete.squad}
    with acting(who, "add_practice", "practice added", **scope):
        return Practice.objects.create(
            squad=athlete.squad, athlete=athlete if own else None, sport=sport.strip() if own else "", weekday=weekday,
            hour=hour, minutes=minutes, hardness=hardness,
        )  # fmt: skip
