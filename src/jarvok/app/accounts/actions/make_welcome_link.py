"""A link that lets somebody choose a password: the first one, or another where it is forgotten. Earlier ones are over."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.accounts.links import make
from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import LinkKind, Person
from jarvok.app.problems import Conflict

HOURS = 72  # [J] a weekend


def run(who: Who, person: Person) -> str:
    """Return the token of a new link for a person. Refused for an account that has ended."""
    if person.ended_at is not None:
        raise Conflict(f"The account of {person.name} has ended. Bring it back first.")
    with acting(who, "make_welcome_link", f"a link for {person.name} to choose a password"):
        person.links.filter(ended_at__isnull=True).update(ended_at=clock.now())
        return make(LinkKind.WELCOME, who.person, HOURS, person=person)[1]
