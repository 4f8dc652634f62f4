"""A competition is given to everybody of a group or a squad who does not have it yet."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Competition
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions import add_competition
from jarvok.app.seasons.typed_season import in_scope, same_name, typed_over


def run(who: Who, competition: Competition, scope: str) -> int:
    """Give it to those of the scope who have none of its name; return how many got it."""
    people = [a for a in in_scope(competition.athlete, scope) if same_name(a, competition.name, competition.day) is None]
    if not people:
        raise Conflict(f"Everybody there has {competition.name} already.")
    words = f"{competition.name} given to {len(people)}"
    with acting(who, "share_competition", words, squad=competition.athlete.squad, also=people):
        for person in people:
            add_competition.run(who, person, typed_over(competition, {}, None))
    return len(people)
