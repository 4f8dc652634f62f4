"""A squad is called otherwise, or does another sport."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Squad
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError

MOST_NAME, MOST_SPORT = 80, 40


def run(who: Who, squad: Squad, name: str, sport: str) -> None:
    """Rename a squad. Refused where another has that name."""
    name, sport = name.strip(), sport.strip().lower()
    if not 1 <= len(name) <= MOST_NAME:
        raise CoachError("A squad needs a name.", where="name", accepted=f"1 to {MOST_NAME} characters are accepted.")
    if not 1 <= len(sport) <= MOST_SPORT:
        raise CoachError("The sport of the squad is wanted.", where="sport", accepted=f"1 to {MOST_SPORT} characters.")
    with acting(who, "change_squad", f"{squad.name} is {name}, {sport}", squad=squad):
        if Squad.objects.filter(name__iexact=name).exclude(pk=squad.pk).exists():
            raise Conflict(f"There is a squad called {name} already.")
        squad.name, squad.sport = name, sport
        squad.save(update_fields=["name", "sport"])
