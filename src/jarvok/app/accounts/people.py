"""What holds of the people of a centre, whoever changes them."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, field

from django.contrib.auth.models import User

from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import Person, Role, SignedIn
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError

LONGEST_NAME = 80  # [T]
OF_SQUADS = (Role.COACH, Role.ASSISTANT)


@dataclass(frozen=True)
class Wanted:
    """A person as somebody wants them: what they are called, what they may, and whose they are."""

    name: str
    role: Role
    squads: Collection[int] = field(default_factory=tuple)
    athlete_id: int | None = None
    may_log: bool = False


def checked(wanted: Wanted, of: Person | None = None) -> Wanted:
    """Return what is wanted with only what belongs to the role; raise `CoachError` for what cannot be."""
    name = wanted.name.strip()
    if not 1 <= len(name) <= LONGEST_NAME:
        raise CoachError("A person needs a name.", where="name", accepted=f"1 to {LONGEST_NAME} characters are accepted.")
    squads = tuple(dict.fromkeys(wanted.squads)) if wanted.role in OF_SQUADS else ()
    if Squad.objects.filter(pk__in=squads).count() != len(squads):
        raise CoachError("One of these squads is not there any more.", where="squads", accepted="Squads of the list.")
    if wanted.role != Role.ATHLETE:
        return Wanted(name, wanted.role, squads)
    if not Athlete.objects.filter(pk=wanted.athlete_id or 0).exists():
        raise CoachError(
            "Which athlete is this?", where="athlete_id", accepted="An athlete of the list: they see what is theirs."
        )
    other = Person.objects.filter(athlete_id=wanted.athlete_id or 0).exclude(pk=of.pk if of is not None else 0).first()
    if other is not None:
        raise Conflict(f"{other.name} is this athlete already.")
    return Wanted(name, wanted.role, (), wanted.athlete_id, wanted.may_log)


def keep(person: Person, wanted: Wanted) -> None:
    """Store a person as they are wanted."""
    person.name, person.role = wanted.name, wanted.role
    person.athlete_id, person.may_log = wanted.athlete_id, wanted.may_log
    person.save()
    person.squads.set(wanted.squads)


def leave_a_head(person: Person) -> None:
    """Raise `Conflict` where nobody would be left who may do everything."""
    heads = Person.objects.filter(role=Role.HEAD, ended_at__isnull=True, user__isnull=False)
    if person.role == Role.HEAD and not heads.exclude(pk=person.pk).exists():
        raise Conflict(f"{person.name} is the only head. Make somebody else a head first.")


def sign_out_everywhere(user: User | None, but_key: str | None = None) -> int:
    """End every sign-in of somebody, but for one; return how many."""
    if user is None:
        return 0
    return SignedIn.objects.filter(user=user).exclude(pk=but_key or "").delete()[0]
