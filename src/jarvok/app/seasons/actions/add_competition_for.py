"""A competition is added for an athlete, a group or a squad."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Competition
from jarvok.app.kept import own_of
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions import add_competition
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.typed_season import TypedCompetition, checked, not_past, same_name, typed_over, write_shared


def run(who: Who, scope: Scope, typed: TypedCompetition, asked: Athlete | None = None) -> None:
    """Add a competition: everybody it is for takes part from now on, also who comes later.

    Who has one of its name keeps it as it is; that may not be everybody, nor the one who is `asked` for.
    """
    typed = checked(typed)
    not_past(typed.day)
    has = {a.pk: same_name(a, typed.name, typed.day) for a in scope.athletes}
    if asked is not None and has.get(asked.pk) is not None:
        add_competition.run(who, asked, typed)  # says on which day it stands
    without = [a for a in scope.athletes if has[a.pk] is None]
    if scope.squad is None:
        for athlete in without:
            add_competition.run(who, athlete, typed)
        if not without:
            raise Conflict(f"{typed.name} is there already.")
        return
    if scope.athletes and not without:
        raise Conflict(f"{typed.name} is there already.")
    with acting(who, "add_competition_for", f"{typed.name} added", squad=scope.squad, also=without):
        competition = Competition(squad=scope.squad, group=scope.group)
        write_shared(competition, typed)
        for entry in has.values():
            if entry is not None and entry.competition.athlete_id is not None:
                entry.own, entry.competition = own_of(competition, entry.told), competition
                entry.save()
        for athlete in without:
            add_competition.run(who, athlete, typed, competition)


def enter(who: Who, athlete: Athlete, competitions: list[Competition]) -> list[Competition]:
    """Let an athlete take part in what is there for the squad; return what was not the athlete's before."""
    new = [c for c in competitions if same_name(athlete, c.name, c.day) is None]
    for c in new:
        add_competition.run(who, athlete, typed_over(c, {}, None), c)
    return new
