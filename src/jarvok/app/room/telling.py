"""What every action in the room needs: who of the squad is meant, and that the open pages hear of it."""

from __future__ import annotations

from django.db import transaction

from jarvok.app.facts.room.models import Attendance, Gathering
from jarvok.app.floor.hub import hub
from jarvok.app.room.gathered import Present, Room
from jarvok.core.errors import CoachError


def tell_room(gathering: Gathering) -> None:
    """Wake the pages of a gathering once the transaction is through."""
    transaction.on_commit(lambda: hub.changed(room_key(gathering.pk)))


def room_key(gathering_id: int) -> int:
    """The key under which pages of a gathering listen: below nought, where no session is."""
    return -gathering_id


def attendance_in(gathering: Gathering, athlete_id: int) -> Attendance:
    """The attendance of an athlete; raises `CoachError` for one of another squad."""
    found = Attendance.objects.filter(gathering=gathering, athlete_id=athlete_id).first()
    if found is None:
        raise CoachError("This athlete is not of this squad.", where="athlete_id")
    return found


def present_in(room: Room, athlete_id: int) -> Present:
    """An athlete of a room; raises `CoachError` for one of another squad."""
    try:
        return room.one(athlete_id)
    except StopIteration:
        raise CoachError("This athlete is not of this squad.", where="athlete_id") from None
