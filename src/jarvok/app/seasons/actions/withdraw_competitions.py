"""A competition is taken out for the athlete, or for everybody in the scope who has it."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Competition
from jarvok.app.seasons.actions import withdraw_competition
from jarvok.app.seasons.typed_season import everywhere


def run(who: Who, competition: Competition, scope: str) -> None:
    """Take a competition out; undo brings it back for each athlete."""
    people = everywhere(competition, scope)
    squad = competition.athlete.squad if len(people) > 1 else None
    athlete = competition.athlete if squad is None else None
    also = [c.athlete for c in people]
    with acting(who, "withdraw_competition", f"{competition.name} taken out", athlete=athlete, squad=squad, also=also):
        for each in people:
            withdraw_competition.run(who, each)
