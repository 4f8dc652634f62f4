"""Who does something, and the one way in which anything is written: a transaction, a row that says so, counters raised."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import F, QuerySet

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.fact import going_on
from jarvok.app.facts.people.models import Act, Person, Role, Via
from jarvok.app.facts.put_together import ChangeTogether, StoreTogether
from jarvok.app.facts.writing import writing
from jarvok.app.hub import PLANS, hub
from jarvok.app.plan_acts import PLAN_ALONE, SETS_ALONE, VERBS, refuse_unseen
from jarvok.app.problems import Refused

LONGEST_WORDS = 200
_ACTS = StoreTogether(Act)


def _count(alone: str, names: bool) -> ChangeTogether:
    """Count a change of athletes, and apart what changes nothing but what `alone` counts; the first number is the act's."""

    def what(numbers: Sequence[int]) -> tuple[QuerySet[Athlete], dict[str, Any]]:
        counted: dict[str, Any] = {name: F(name) + 1 for name in ("version", alone) if name}
        return Athlete.objects.filter(pk__in=numbers[1:]), counted | ({"plan_act": numbers[0]} if names else {})

    return ChangeTogether(what)


_COUNT = {(alone, names): _count(alone, names) for alone in ("", "plan_version", "set_version") for names in (False, True)}


@dataclass(frozen=True)
class Who:
    """Somebody who acts, with how they came. A link acts for the person who made it.

    `page` is the open page it was done on, and `seen` the newest act that it has read of the plan.
    """

    person: Person | None
    via: Via = Via.PAGE
    link: str = ""
    page: str = ""
    seen: int | None = None


@contextmanager
def acting(
    who: Who, verb: str, words: str = "", *, athlete: Athlete | None = None, squad: Squad | None = None,
    undoes: Act | None = None, also: Iterable[Athlete] = (),
) -> Iterator[Act]:  # fmt: skip
    """Do one thing in a transaction: every fact written meanwhile names the act, and what it touched has a new version.

    An action inside another is part of it: one press of a button is one act. `also` are further athletes it touches.
    Raises `Refused` where the person's account has ended, or an athlete or squad is not theirs, and `Changed` where it would
    write over what somebody else has changed in a plan since the page was read.
    """
    also = tuple(also)
    check_scope(who.person, athlete, squad, also)
    outer = going_on.get()
    if outer is not None:
        with writing():
            yield outer
            _raise_versions(outer, verb, athlete, squad, also)
        return
    with writing():
        if verb in VERBS:
            refuse_unseen(who.seen, who.page, [a.pk for a in (athlete, *also) if a is not None], [squad.pk] if squad else [])
        act = _ACTS.store(
            person=who.person, via=who.via, link=who.link[:64], at=clock.now(), verb=verb, words=words[:LONGEST_WORDS],
            athlete=athlete, squad=squad, undoes=undoes, page=who.page,
        )  # fmt: skip
        token = going_on.set(act)
        try:
            yield act
            if act.words != words[:LONGEST_WORDS]:
                act.words = act.words[:LONGEST_WORDS]
                act.save(update_fields=["words"])
            _raise_versions(act, verb, athlete, squad, also)
        finally:
            going_on.reset(token)


def sees_all(person: Person) -> bool:
    """Whether a person sees every squad: the head, and medical staff."""
    return person.role in (Role.HEAD, Role.MEDICAL)


def check_scope(
    person: Person | None, athlete: Athlete | None = None, squad: Squad | None = None, also: Iterable[Athlete] = ()
) -> None:
    """Raise `Refused` where an account has ended, or an athlete or squad is not the person's. Nobody in person: a command."""
    if person is None:
        return
    if person.ended_at is not None:
        raise Refused(f"The account of {person.name} has ended.")
    if sees_all(person):
        return
    touched = [a for a in (athlete, *also) if a is not None]
    if person.role == Role.ATHLETE:
        if squad is not None or any(a.pk != person.athlete_id for a in touched):
            raise Refused("That is not yours.")
        return
    wanted = {a.squad_id for a in touched} | ({squad.pk} if squad is not None else set())
    if wanted - set(person.squads.values_list("pk", flat=True)):
        raise Refused("That is not one of your squads.")


def _raise_versions(act: Act, verb: str, athlete: Athlete | None, squad: Squad | None, also: Iterable[Athlete]) -> None:
    """Count the change where it belongs, and name the act where it changed a plan; one of the centre counts for everybody."""
    touched = {a.pk for a in also} | ({athlete.pk} if athlete is not None else set())
    named = {"plan_act": act.pk} if act.verb in VERBS else {}
    if touched:
        alone = "plan_version" if verb in PLAN_ALONE else "set_version" if verb in SETS_ALONE else ""
        _COUNT[alone, bool(named)].change([act.pk, *touched])
    if squad is not None:
        Squad.objects.filter(pk=squad.pk).update(version=F("version") + 1, **named)
    if not touched and squad is None:
        Centre.objects.update_or_create(pk=1, defaults={"version": F("version") + 1}, create_defaults={"version": 1})
    if named:
        transaction.on_commit(lambda: hub.wake(PLANS))
