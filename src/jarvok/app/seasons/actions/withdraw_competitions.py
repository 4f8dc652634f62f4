"""A competition is taken out for the athlete, or for everybody in the scope who has it."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.kept import kept
from jarvok.app.seasons.actions import withdraw_competition
from jarvok.app.seasons.typed_season import covered, everywhere


def run(who: Who, entry: Entry, scope: str) -> None:
    """Take a competition out; undo brings it back for each athlete."""
    people, shared = everywhere(entry, scope), covered(entry, scope)
    squad = entry.athlete.squad if len(people) > 1 or shared is not None else None
    athlete = entry.athlete if squad is None else None
    also = [e.athlete for e in people]
    with acting(who, "withdraw_competition", f"{entry.name} taken out", athlete=athlete, squad=squad, also=also):
        for each in people:
            withdraw_competition.run(who, each)
        if shared is not None:
            _take_out(shared)


def of_nobody(who: Who, competition: Competition) -> None:
    """Take out a competition of a squad in which nobody takes part yet."""
    with acting(who, "withdraw_competition", f"{competition.name} taken out", squad=competition.squad):
        _take_out(competition)


def _take_out(competition: Competition) -> None:
    with kept(competition):
        competition.withdrawn_at = clock.now()
