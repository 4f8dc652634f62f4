"""Whoever holds a welcome link chooses a password, and the first time a name to sign in with."""

from __future__ import annotations

from django.contrib.auth.models import User

from jarvok.app import clock
from jarvok.app.accounts import throttle
from jarvok.app.accounts.links import OVER, find
from jarvok.app.accounts.passwords import checked_password
from jarvok.app.accounts.people import LONGEST_NAME, sign_out_everywhere
from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import LinkKind, Person, Via
from jarvok.app.facts.writing import writing
from jarvok.core.errors import CoachError


def invited(token: str) -> Person:
    """Return whom a link lets in. Raises `CoachError` when it is over or made up."""
    link = find(token, LinkKind.WELCOME)
    if link is None or link.person is None or link.person.ended_at is not None:
        raise OVER
    return link.person


@writing()
def run(token: str, sign_in: str, password: str) -> User:
    """Give the person of a link their password; the link is over. Wherever they were signed in they are signed out."""
    person = invited(token)
    user = person.user or User(username=_checked_name(sign_in), first_name=person.name)
    checked_password(password, user)
    who = Who(person, Via.LINK)
    with acting(who, "take_account", f"{person.name} has chosen a password"):
        user.set_password(password)
        user.save()
        person.user = user
        person.save(update_fields=["user"])
        person.links.filter(ended_at__isnull=True).update(ended_at=clock.now())
        throttle.was_right(user.username)
        sign_out_everywhere(user)
    return user


def _checked_name(typed: str) -> str:
    name = typed.strip()
    accepted = f"1 to {LONGEST_NAME} letters, digits or one of @ . + - _"
    if not 1 <= len(name) <= LONGEST_NAME or not all(c.isalnum() or c in "@.+-_" for c in name):
        raise CoachError("A name to sign in with is wanted.", where="sign_in", accepted=accepted)
    if User.objects.filter(username__iexact=name).exists():
        raise CoachError(f"Somebody signs in as {name} already.", where="sign_in", accepted="Another name.")
    return name
