"""What every action in the room needs: who of the squad is meant, and that the open pages hear of it."""

from __future__ import annotations

from django.db import transaction

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Attendance, Gathering
from jarvok.app.hub import hub
from jarvok.app.room.gathered import Present, Room
from jarvok.core.errors import CoachError


def tell_room(gathering: Gathering) -> None:
    """Wake the pages of a gathering once the transaction is through."""
    transaction.on_commit(lambda: hub.changed(room_key(gathering.pk)))


def room_key(gathering_id: int) -> int:
    """The key under which pages of a gathering listen: below nought, where no session is."""
    return -gathering_id


def sessions_at(gathering: Gathering, rack: int | None = None) -> set[int]:
    """The sessions of everybody at a gathering, or at one rack of it."""
    attendances = gathering.attendances.all() if rack is None else gathering.attendances.filter(rack=rack)
    athletes = attendances.values("athlete_id")
    return set(TrainingSession.objects.filter(day=gathering.day, athlete_id__in=athletes).values_list("pk", flat=True))


def check_rack(gathering: Gathering, rack: int, or_else: str = "") -> None:
    """Raise `CoachError` where a gathering has no such rack; `or_else` is what would be accepted beside one."""
    if not 1 <= rack <= gathering.racks:
        raise CoachError(f"There is no rack {rack}.", where="rack", accepted=f"1 to {gathering.racks}{or_else}.")


def attendance_in(gathering: Gathering, athlete_id: int, *, guests: bool = False) -> Attendance:
    """The attendance of an athlete; one who has come to the squad since the room was opened is put on the list.

    So is a guest of another squad where `guests` may come. Raises `CoachError` for anybody else of another squad.
    """
    found = Attendance.objects.filter(gathering=gathering, athlete_id=athlete_id).first()
    if found is not None:
        return found
    known = Athlete.objects.filter(pk=athlete_id)
    if not (known if guests else known.filter(squad_id=gathering.squad_id)).exists():
        raise CoachError("This athlete is not of this squad.", where="athlete_id")
    return Attendance.objects.create(gathering=gathering, athlete_id=athlete_id, changed_at=clock.now())


def present_in(room: Room, athlete_id: int) -> Present:
    """An athlete of a room; raises `CoachError` for one of another squad."""
    try:
        return room.one(athlete_id)
    except StopIteration:
        raise CoachError("This athlete is not of this squad.", where="athlete_id") from None
