"""A competition is added for the athlete, the group or the squad."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.seasons.actions import add_competition
from jarvok.app.seasons.typed_season import TypedCompetition, in_scope, same_name


def run(who: Who, athlete: Athlete, scope: str, typed: TypedCompetition) -> None:
    """Add a competition for the athlete, or for everybody in the scope who does not have it yet."""
    with acting(who, "add_competition_for", f"{typed.name} added", athlete=athlete):
        add_competition.run(who, athlete, typed)
        for other in in_scope(athlete, scope):
            if other.pk != athlete.pk and same_name(other, typed.name.strip(), typed.day) is None:
                add_competition.run(who, other, typed)
