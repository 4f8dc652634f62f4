"""A competition is changed for the athlete, or for everybody in the scope who has it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Competition
from jarvok.app.seasons.actions import change_competition
from jarvok.app.seasons.typed_season import everywhere, typed_over
from jarvok.core.season.exposures import Event


def run(who: Who, competition: Competition, scope: str, sent: Mapping[str, Any], events: tuple[Event, ...] | None) -> None:
    """Change what is sent; what is not sent stays. A moved competition keeps its length and its weigh-in's distance."""
    people = everywhere(competition, scope)
    squad = competition.athlete.squad if len(people) > 1 else None
    athlete = competition.athlete if squad is None else None
    also = [c.athlete for c in people]
    with acting(who, "change_competition", f"{competition.name} changed", athlete=athlete, squad=squad, also=also):
        for each in people:
            change_competition.run(who, each, typed_over(each, sent, events))
