"""Somebody with an account becomes a person of the centre."""

from __future__ import annotations

from django.contrib.auth.models import User

from jarvok.app.facts.people.models import Person, Role


def run(user: User, role: Role = Role.HEAD) -> Person:
    """Return the person of an account, made now where there was none: the one write that nobody has to sign in for."""
    name = user.get_full_name() or user.get_username()
    return Person.objects.get_or_create(user=user, defaults={"name": name[:80], "role": role})[0]
