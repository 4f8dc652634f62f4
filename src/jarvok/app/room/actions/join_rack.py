"""Somebody joins a rack: late, from another rack, or without a plan for the day."""

from __future__ import annotations

from enum import StrEnum

from django.db import models

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Attendance, Gathering
from jarvok.app.floor.actions import start_unplanned
from jarvok.app.floor.starting import AS_WRITTEN, DayPlan
from jarvok.app.room.actions import begin_sessions
from jarvok.app.room.gathered import read_room
from jarvok.app.room.joining import document_of_partner, document_of_template
from jarvok.app.room.telling import attendance_in, check_rack, present_in, tell_room
from jarvok.core.errors import CoachError
from jarvok.core.session.document import Document


class Source(StrEnum):
    """Where the session of somebody who joins comes from."""

    PLAN = "plan"
    PARTNER = "partner"
    TEMPLATE = "template"
    FREE = "free"


def run(
    who: Who, gathering: Gathering, athlete_id: int, rack: int, source: str, from_id: int | None = None,
    *, guests: bool = True,
) -> None:  # fmt: skip
    """Note that an athlete is here, put them at a rack, and begin their session: planned, a partner's, a template's, or free.

    A running session goes on where it was. `from_id` is the partner, or the template. `guests` of other squads may come too; who
    stands at a rack of another room of the day leaves it.
    """
    with acting(who, "join_rack", f"joins rack {rack}", squad=gathering.squad) as act:
        check_rack(gathering, rack)
        if source not in set(Source):
            raise CoachError(f"“{source}” is no source of a session.", where="source", accepted=", ".join(Source) + ".")
        row = attendance_in(gathering, athlete_id, guests=guests)
        row.is_here, row.changed_at, row.rack = True, clock.now(), rack
        row.place = row.placed_at = None
        row.save(update_fields=["is_here", "changed_at", "rack", "place", "placed_at"])
        _leave_other_rooms(gathering, athlete_id)
        athlete = athlete_of(athlete_id)
        act.words = f"{athlete.name} joins rack {rack}"
        if not _running(athlete, gathering).exists():
            _begin(who, gathering, athlete, Source(source), from_id)
        tell_room(gathering)


def _leave_other_rooms(gathering: Gathering, athlete_id: int) -> None:
    elsewhere = Attendance.objects.filter(athlete_id=athlete_id, gathering__day=gathering.day, rack__isnull=False)
    for row in elsewhere.exclude(gathering=gathering).select_related("gathering"):
        row.rack = None
        row.save(update_fields=["rack"])
        tell_room(row.gathering)


def _running(athlete: Athlete, gathering: Gathering) -> models.QuerySet[TrainingSession]:
    return TrainingSession.objects.filter(athlete=athlete, day=gathering.day, finished_at__isnull=True)


def _begin(who: Who, gathering: Gathering, athlete: Athlete, source: Source, from_id: int | None) -> None:
    if source is Source.PLAN:
        _, left = begin_sessions.run(who, gathering, [athlete.pk])
        if left:
            raise CoachError(f"{left[0]}.", where="source", accepted="Take a partner's session, a template, or begin a free one.")
        return
    document: Document | None = None
    if source is Source.PARTNER:
        document = document_of_partner(gathering, from_id)
    elif source is Source.TEMPLATE:
        document = document_of_template(from_id)
    start_unplanned.run(who, athlete, gathering.day, document, _word_on(gathering, athlete.pk))


def _word_on(gathering: Gathering, athlete_id: int) -> DayPlan:
    """What the day makes of the session: the coach's word, and what pain takes out."""
    found = present_in(read_room(gathering), athlete_id).plan
    return found if found.changes else AS_WRITTEN
