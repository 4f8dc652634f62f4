"""A squad by its name: one that is there, or a new one."""

from __future__ import annotations

from jarvok.app.acts import Who, check_scope, sees_all
from jarvok.app.facts.athletes.models import Squad


def squad_named(who: Who, name: str, sport: str) -> Squad:
    """Return the squad of a name, made where it was not there: a coach's new squad is theirs.

    Raises `Refused` where it is not one of the person's squads.
    """
    found = Squad.objects.filter(name__iexact=name).first()
    if found is not None:
        check_scope(who.person, squad=found)
        return found
    made = Squad.objects.create(name=name, sport=sport or "other")
    if who.person is not None and not sees_all(who.person):
        who.person.squads.add(made)
    return made
