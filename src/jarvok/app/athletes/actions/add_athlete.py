"""An athlete is written down by hand, in a squad that is there or a new one."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import change_details
from jarvok.app.athletes.squads import squad_named
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError

MOST_NAME, MOST_SPORT = 80, 40


def run(who: Who, name: str, squad_name: str, sport: str, known: Mapping[str, Any]) -> Athlete:
    """Add an athlete; a squad of a name that is not there yet is made. `known` is what is known beside the name."""
    name, squad_name, sport = name.strip(), squad_name.strip(), sport.strip().lower()
    if not 1 <= len(name) <= MOST_NAME:
        raise CoachError("An athlete needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if not 1 <= len(squad_name) <= MOST_NAME:
        raise CoachError("Every athlete is in a squad.", where="squad", accepted="The name of a squad, of 1 to 80 characters.")
    if len(sport) > MOST_SPORT:
        raise CoachError("The name of the sport is too long.", where="sport", accepted=f"Up to {MOST_SPORT} characters.")
    with acting(who, "add_athlete", f"{name} added to {squad_name}"):
        squad = squad_named(who, squad_name, sport)
        if Athlete.objects.filter(squad=squad, name__iexact=name).exists():
            raise Conflict(f"{name} is in {squad.name} already.")
        athlete = Athlete.objects.create(squad=squad, name=name)
        change_details.run(who, athlete, {k: v for k, v in known.items() if v is not None})
        return athlete
