"""A competition is changed for the athlete, or for everybody in the scope who has it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.seasons.actions import change_competition
from jarvok.app.seasons.typed_season import checked, covered, everywhere, not_past, typed_over, write_shared
from jarvok.core.season.exposures import Event

Sent = Mapping[str, Any]


def run(who: Who, entry: Entry, scope: str, sent: Sent, events: tuple[Event, ...] | None, sequence: int | None = None) -> None:
    """Change what is sent; what is not sent stays. A moved competition keeps its length and its weigh-in's distance.

    Those who have it on another day keep theirs. `sequence` is the version of an imported calendar.
    """
    people, shared = everywhere(entry, scope), covered(entry, scope)
    squad = entry.athlete.squad if len(people) > 1 or shared is not None else None
    athlete = entry.athlete if squad is None else None
    also = [e.athlete for e in people]
    with acting(who, "change_competition", f"{entry.name} changed", athlete=athlete, squad=squad, also=also):
        typed = replace(typed_over(entry, sent, events), sequence=sequence)
        for each in people:
            change_competition.run(who, each, replace(typed_over(each, sent, events), sequence=sequence))
        if shared is not None:
            write_shared(shared, checked(typed))


def of_nobody(who: Who, competition: Competition, sent: Sent) -> None:
    """Change a competition of a squad in which nobody takes part yet."""
    typed = checked(typed_over(competition, sent, None))
    not_past(typed.day)
    with acting(who, "change_competition", f"{competition.name} changed", squad=competition.squad):
        write_shared(competition, typed)
