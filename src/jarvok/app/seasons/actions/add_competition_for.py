"""A competition is added for the athlete, the group or the squad."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions import add_competition
from jarvok.app.seasons.typed_season import TypedCompetition, in_scope, same_name


def run_over(who: Who, people: Sequence[Athlete], typed: TypedCompetition) -> None:
    """Add a competition for each of some athletes who does not have it yet; one of them has to be without it."""
    without = [a for a in people if same_name(a, typed.name.strip(), typed.day) is None]
    if not without:
        raise Conflict(f"{typed.name} is there already." if people else "There is no athlete here yet.")
    for athlete in without:
        add_competition.run(who, athlete, typed)


def run(who: Who, athlete: Athlete, scope: str, typed: TypedCompetition) -> None:
    """Add a competition for the athlete, or for everybody in the scope who does not have it yet."""
    with acting(who, "add_competition_for", f"{typed.name} added", athlete=athlete):
        add_competition.run(who, athlete, typed)
        for other in in_scope(athlete, scope):
            if other.pk != athlete.pk and same_name(other, typed.name.strip(), typed.day) is None:
                add_competition.run(who, other, typed)
