"""What the coach does in the room: opening it, arrivals, the day's word, beginning, racks. One function each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, Squad
from jarvok.app.floor.hub import hub
from jarvok.app.floor.starting import change_plan, start_sheet
from jarvok.app.room.models import Answers, Attendance, DayWord, Gathering
from jarvok.app.room.queries import Present, Room, arrival_of, read_room
from jarvok.core.errors import CoachError
from jarvok.core.floor.day_plan import Less
from jarvok.core.floor.racks import MOST_RACKS, REST_S, Lifter, place
from jarvok.core.floor.readiness import Plan, checked


def tell_room(gathering: Gathering) -> None:
    """Wake the pages of a gathering once the transaction is through."""
    transaction.on_commit(lambda: hub.changed(room_key(gathering.pk)))


def room_key(gathering_id: int) -> int:
    """The key under which pages of a gathering listen: below nought, where no session is."""
    return -gathering_id


@transaction.atomic
def open_room(squad: Squad, day: date) -> Gathering:
    """Open the room for a squad and a day, or return it as it is; everybody of the squad is on the list."""
    gathering, _ = Gathering.objects.get_or_create(squad=squad, day=day, defaults={"opened_at": clock.now()})
    known = set(gathering.attendances.values_list("athlete_id", flat=True))
    now = clock.now()
    Attendance.objects.bulk_create(
        Attendance(gathering=gathering, athlete=a, changed_at=now)
        for a in Athlete.objects.filter(squad=squad)
        if a.pk not in known
    )
    return gathering


def _attendance(gathering: Gathering, athlete_id: int) -> Attendance:
    found = Attendance.objects.filter(gathering=gathering, athlete_id=athlete_id).first()
    if found is None:
        raise CoachError("This athlete is not of this squad.", where="athlete_id")
    return found


@transaction.atomic
def say_here(gathering: Gathering, athlete_ids: Sequence[int], is_here: bool) -> None:
    """Note that athletes are here, or are not after all."""
    rows = gathering.attendances.filter(athlete_id__in=athlete_ids)
    if not athlete_ids or rows.count() != len(set(athlete_ids)):
        raise CoachError("This athlete is not of this squad.", where="athlete_ids")
    rows.update(is_here=is_here, changed_at=clock.now())
    if not is_here:
        rows.update(rack=None)
    tell_room(gathering)


@transaction.atomic
def answer(attendance: Attendance, data: Mapping[str, Any], *, by_athlete: bool) -> None:
    """Keep what an athlete says on arriving; saying something means being here."""
    checked(arrival_of(dict(data)))
    Answers.objects.create(attendance=attendance, data=dict(data), by_athlete=by_athlete, at=clock.now())
    if not attendance.is_here:
        attendance.is_here, attendance.changed_at = True, clock.now()
        attendance.save(update_fields=["is_here", "changed_at"])
    tell_room(attendance.gathering)


@transaction.atomic
def say_plan(gathering: Gathering, athlete_id: int, plan: str, less: str, reason: str) -> None:
    """Keep the coach's word on an athlete's day. A session that runs without logged work changes with it."""
    if plan not in set(Plan) or less not in set(Less):
        raise CoachError("That is no plan.", where="plan", accepted="A, B (fewer or by_feel) or C.")
    room = read_room(gathering)
    present = _present(room, athlete_id)
    DayWord.objects.create(
        attendance=present.attendance,
        plan=plan,
        less=less,
        suggested=present.suggestion.plan,
        reason=reason.strip()[:200],
        at=clock.now(),
    )
    if present.session is not None and present.session.finished_at is None:
        change_plan(present.session, _present(read_room(gathering), athlete_id).plan)
    tell_room(gathering)


def _present(room: Room, athlete_id: int) -> Present:
    try:
        return room.one(athlete_id)
    except StopIteration:
        raise CoachError("This athlete is not of this squad.", where="athlete_id") from None


@transaction.atomic
def begin(gathering: Gathering, athlete_ids: Sequence[int] | None = None) -> tuple[list[str], list[str]]:
    """Start the sessions of those who are here (or of some). Returns who began, and who did not with the reason."""
    room = read_room(gathering, with_loads=True)
    assert room.book is not None
    began: list[str] = []
    left: list[str] = []
    for p in room.people:
        if athlete_ids is not None and p.athlete.pk not in athlete_ids:
            continue
        if athlete_ids is None and not p.attendance.is_here:
            continue
        if p.session is not None and p.session.finished_at is None:
            continue
        if p.sheet is None or p.week is None:
            left.append(f"{p.athlete.name}: no session planned today")
        elif p.sheet.started is not None:
            left.append(f"{p.athlete.name}: today's session is finished")
        else:
            start_sheet(p.athlete, p.week, p.sheet, room.book, p.plan)
            began.append(p.athlete.name)
    tell_room(gathering)
    return began, left


@transaction.atomic
def set_racks(gathering: Gathering, racks: int, goal: str) -> None:
    """Set how many racks there are and what the rests there are for."""
    if not 1 <= racks <= MOST_RACKS:
        raise CoachError(f"{racks} racks cannot be shown.", where="racks", accepted=f"1 to {MOST_RACKS} are accepted.")
    if goal not in REST_S:
        raise CoachError(f"“{goal}” is no goal of a rack.", where="goal", accepted=", ".join(REST_S) + ".")
    gathering.racks, gathering.goal = racks, goal
    gathering.save(update_fields=["racks", "goal"])
    gathering.attendances.filter(rack__gt=racks).update(rack=None)
    tell_room(gathering)


@transaction.atomic
def put_at_rack(gathering: Gathering, athlete_id: int, rack: int | None) -> None:
    """Put an athlete at a rack, or at none."""
    if rack is not None and not 1 <= rack <= gathering.racks:
        raise CoachError(f"There is no rack {rack}.", where="rack", accepted=f"1 to {gathering.racks}, or none.")
    row = _attendance(gathering, athlete_id)
    row.rack = rack
    row.save(update_fields=["rack"])
    tell_room(gathering)


@transaction.atomic
def place_all(gathering: Gathering, lifters: Sequence[Lifter]) -> None:
    """Place lifters on the racks as suggested: alike in load and height."""
    gathering.attendances.update(rack=None)
    for number, group in enumerate(place(lifters, gathering.racks), start=1):
        ids = [x.athlete_id for x in group]
        gathering.attendances.filter(athlete_id__in=ids).update(rack=number)
    tell_room(gathering)


@transaction.atomic
def call_up(gathering: Gathering, athlete_id: int) -> None:
    """Call an athlete to the bar out of turn; it holds until somebody at the rack has done a set."""
    row = _attendance(gathering, athlete_id)
    if row.rack is None:
        raise CoachError("This athlete is at no rack.", where="athlete_id", accepted="Put them at one first.")
    row.called_at = clock.now()
    row.save(update_fields=["called_at"])
    tell_room(gathering)
