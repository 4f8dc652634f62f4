"""A competition is added to an athlete's season."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.seasons.typed_season import TypedCompetition, changed, checked, not_past, own_name, write
from jarvok.core.quantities.days import said_day


def run(who: Who, athlete: Athlete, typed: TypedCompetition, of: Competition | None = None) -> Entry:
    """Add a competition to an athlete's season: the athlete's part in one of several, or one of the athlete's own."""
    with acting(who, "add_competition", f"{typed.name} added", athlete=athlete):
        typed = checked(typed)
        not_past(typed.day)
        own_name(athlete, typed)
        with changed(athlete, [f"{typed.name} on {said_day(typed.day)} added"]):
            entry = Entry(athlete=athlete, competition=of or Competition(athlete=athlete), planned_from=clock.today())
            write(entry, typed)
        return entry
