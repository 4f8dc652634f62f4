"""Who may do what: the one place that decides it, asked at every address and by every action."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Model, QuerySet
from django.http import HttpRequest

from jarvok.app.accounts.actions import record_person
from jarvok.app.accounts.doors import NEEDS, ROLES, Need
from jarvok.app.acts import sees_all
from jarvok.app.facts.athletes.models import Athlete, Fault, MarkRecord, Restriction, Squad
from jarvok.app.facts.floor.models import PainReport, SessionLine, TrainingSession
from jarvok.app.facts.learning.models import Finding
from jarvok.app.facts.people.models import Person, Role
from jarvok.app.facts.room.models import Gathering, Trial
from jarvok.app.facts.seasons.models import Entry, FlagWord
from jarvok.app.problems import Refused

WHO_MAY = {
    Need.CENTRE: "Only the head of the centre does this.",
    Need.PLAN: "A coach or the head does this.",
    Need.HEALTH: "A coach, the head or medical staff do this.",
    Need.RUN: "Whoever runs sessions does this: an assistant, a coach or the head.",
    Need.LOG: "Whoever runs sessions does this, or the athlete where the coach allows it.",
}
_PART = re.compile(r"<(?:\w+:)?(\w+)>")


def person_of(request: HttpRequest) -> Person | None:
    """Return the person signed in, None for a stranger or somebody whose account has ended."""
    if hasattr(request, "person"):
        return request.person  # type: ignore[no-any-return]
    user, found = request.user, None
    if isinstance(user, User) and user.is_active:
        found = getattr(user, "person", None) or record_person.run(user)  # read with the user
    found = found if found is None or found.ended_at is None else None
    request.person = found  # type: ignore[attr-defined]
    return found


def forget_person(request: HttpRequest) -> None:
    """Ask again who it is: somebody has signed in or out."""
    if hasattr(request, "person"):
        del request.person


def may(person: Person | None, need: Need) -> bool:
    """Whether a role opens what is asked."""
    return need is Need.OPEN or (person is not None and person.role in ROLES[need])


def squads_seen(person: Person | None) -> QuerySet[Squad]:
    """The squads a person sees: all, their own, or none."""
    if person is None:
        return Squad.objects.none()
    return Squad.objects.all() if sees_all(person) else Squad.objects.filter(people=person)


def athletes_seen(person: Person | None) -> QuerySet[Athlete]:
    """The athletes here whom a person sees: all, those of their own squads, or themselves."""
    if person is not None and person.role == Role.ATHLETE:
        return Athlete.here.filter(pk=person.athlete_id or 0)
    if person is not None and sees_all(person):
        return Athlete.here.all()
    return Athlete.here.filter(squad__in=squads_seen(person))


def door_of(request: HttpRequest) -> str:
    """Return the name of an address in the table of doors: its method and path with its parts in braces."""
    match = request.resolver_match
    route = _PART.sub(r"{\1}", match.route if match is not None else "").removeprefix("api/")
    return f"{request.method} {route}"


def open_door(request: HttpRequest) -> None:
    """Let somebody signed in through an address, or raise `Refused` with who may.

    The role has to open it, and every athlete, squad, session or room that the address names has to be theirs to see.
    """
    need = NEEDS.get(door_of(request))
    if need is None:
        raise Refused("Nobody may do this here.")
    person = person_of(request)
    if not may(person, need):
        raise Refused(WHO_MAY.get(need, "Your account does not open this."))
    if need is Need.LOG and person is not None and person.role == Role.ATHLETE and not person.may_log:
        raise Refused("Your coach logs your sets. Ask for leave to log them yourself.")
    if person is None or sees_all(person):
        return
    match = request.resolver_match
    parts = dict(match.kwargs) if match is not None else {}
    parts |= {k if k.endswith("_id") else f"{k}_id": v for k in ("athlete", "squad", "athlete_id") if (v := request.GET.get(k))}
    for what, pk in _named(parts):
        if not _sees(person, what, pk):
            raise Refused("That is not one of your squads." if person.role != Role.ATHLETE else "That is not yours.")


def _named(parts: dict[str, Any]) -> Iterator[tuple[str, int]]:
    if parts.get("whose") in ("athlete", "squad"):
        parts = parts | {f"{parts['whose']}_id": parts.get("pk")}
    if "squad_id" in parts:  # the competition is the squad's, which the address itself looks up
        parts.pop("competition_id", None)
    for what, pk in parts.items():
        if what in _OF and str(pk).isdigit():
            yield what, int(pk)


def _sees(person: Person, what: str, pk: int) -> bool:
    """Whether a person sees what an address names. What is not there is for the address itself to say."""
    found = _OF[what](pk)
    if found is None:
        return True
    squad_id, athlete_id = found
    if person.role == Role.ATHLETE:
        return athlete_id is not None and athlete_id == person.athlete_id
    return squads_seen(person).filter(pk=squad_id).exists()


Of = tuple[int, int | None]


def _by(rows: type[Model], athlete: str = "athlete") -> Callable[[int], Of | None]:
    """Find the squad and the athlete of a row by its id."""
    return lambda pk: rows._default_manager.filter(pk=pk).values_list(f"{athlete}__squad_id", f"{athlete}_id").first()


def _of_room(pk: int) -> Of | None:
    squad_id = Gathering.objects.filter(pk=pk).values_list("squad_id", flat=True).first()
    return None if squad_id is None else (squad_id, None)


def _of_athlete(pk: int) -> Of | None:
    squad_id = Athlete.objects.filter(pk=pk).values_list("squad_id", flat=True).first()
    return None if squad_id is None else (squad_id, pk)


def _of_finding(pk: int) -> Of | None:
    found = Finding.objects.filter(pk=pk).values_list("athlete__squad_id", "athlete_id", "squad_id").first()
    return None if found is None else (found[0] or found[2], found[1])


_OF: dict[str, Callable[[int], Of | None]] = {
    "athlete_id": _of_athlete,
    "squad_id": lambda pk: (pk, None),
    "session_id": _by(TrainingSession),
    "room_id": _of_room,
    "mark_id": _by(MarkRecord),
    "restriction_id": _by(Restriction),
    "fault_id": _by(Fault),
    "test_id": _by(Trial),
    "trial_id": _by(Trial),
    "word_id": _by(FlagWord),
    "competition_id": _by(Entry),
    "line_id": _by(SessionLine, "session__athlete"),
    "finding_id": _of_finding,
    "pain_id": _by(PainReport, "session__athlete"),
}
