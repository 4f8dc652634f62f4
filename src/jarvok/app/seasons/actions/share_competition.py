"""A competition is given to everybody of a group or a squad who does not have it yet."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.kept import kept
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions import add_competition, add_competition_for
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.typed_season import same_name, typed_over


def run(who: Who, entry: Entry, scope: str) -> int:
    """Give it to those of the scope who have none of its name; it is theirs from now on. Return how many got it."""
    whose, squad = Scope.of(entry.athlete, scope), entry.athlete.squad
    people = [a for a in whose.athletes if same_name(a, entry.name, entry.day) is None]
    if not people:
        raise Conflict(f"Everybody there has {entry.name} already.")
    with acting(who, "share_competition", f"{entry.name} given to {len(people)}", squad=squad, also=people):
        competition, typed = entry.competition, typed_over(entry, {}, None)
        if whose.squad is not None and (competition.squad_id, competition.group) != (squad.pk, ""):
            with kept(competition):
                competition.athlete, competition.squad, competition.group = None, whose.squad, whose.group
        for person in people:
            add_competition.run(who, person, typed, competition)
    return len(people)


def to_all(who: Who, competition: Competition) -> None:
    """Let everybody it is for take part in a competition of a squad that nobody has yet."""
    people = Athlete.here.filter(squad=competition.squad)
    people = people.filter(group=competition.group) if competition.group else people
    with acting(who, "share_competition", f"{competition.name} given to {len(people)}", squad=competition.squad, also=people):
        for person in people:
            add_competition_for.enter(who, person, [competition])
