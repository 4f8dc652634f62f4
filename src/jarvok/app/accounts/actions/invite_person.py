"""Somebody is asked to work with the centre: a person without a password yet, and a link that lets them choose one."""

from __future__ import annotations

from jarvok.app.accounts.actions import make_welcome_link
from jarvok.app.accounts.people import Wanted, checked, keep
from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import Person


def run(who: Who, wanted: Wanted) -> tuple[Person, str]:
    """Add a person; return them with the token of their link. Raises `CoachError` for what cannot be."""
    wanted = checked(wanted)
    with acting(who, "invite_person", f"{wanted.name} asked to join as {wanted.role.label.lower()}"):
        person = Person.objects.create(name=wanted.name, role=wanted.role)
        keep(person, wanted)
        return person, make_welcome_link.run(who, person)
