"""Who does something, and the one way in which anything is written: a transaction, a row that says so, counters raised."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.fact import going_on
from jarvok.app.facts.people.models import Act, Person, Via

LONGEST_WORDS = 200


@dataclass(frozen=True)
class Who:
    """Somebody who acts, with how they came. A link acts for the person who made it."""

    person: Person | None
    via: Via = Via.PAGE
    link: str = ""


@contextmanager
def acting(
    who: Who, verb: str, words: str = "", *, athlete: Athlete | None = None, squad: Squad | None = None,
    undoes: Act | None = None, also: Iterable[Athlete] = (),
) -> Iterator[Act]:  # fmt: skip
    """Do one thing in a transaction: every fact written meanwhile names the act, and what it touched has a new version.

    An action inside another is part of it: one press of a button is one act. `also` are further athletes it touches.
    """
    outer = going_on.get()
    if outer is not None:
        with transaction.atomic():
            yield outer
            _raise_versions(athlete, squad, also)
        return
    with transaction.atomic():
        act = Act.objects.create(
            person=who.person, via=who.via, link=who.link[:64], at=clock.now(), verb=verb, words=words[:LONGEST_WORDS],
            athlete=athlete, squad=squad, undoes=undoes,
        )  # fmt: skip
        token = going_on.set(act)
        try:
            yield act
        finally:
            going_on.reset(token)
        if act.words != words[:LONGEST_WORDS]:
            act.words = act.words[:LONGEST_WORDS]
            act.save(update_fields=["words"])
        _raise_versions(athlete, squad, also)


def _raise_versions(athlete: Athlete | None, squad: Squad | None, also: Iterable[Athlete]) -> None:
    """Count the change where it belongs; a change of the centre counts for everybody."""
    touched = {a.pk for a in also} | ({athlete.pk} if athlete is not None else set())
    if touched:
        Athlete.objects.filter(pk__in=touched).update(version=F("version") + 1)
    if squad is not None:
        Squad.objects.filter(pk=squad.pk).update(version=F("version") + 1)
    if not touched and squad is None:
        Centre.objects.update_or_create(pk=1, defaults={"version": F("version") + 1}, create_defaults={"version": 1})
