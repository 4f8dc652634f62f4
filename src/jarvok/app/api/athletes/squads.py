"""Squads and who is in them: renamed, archived, brought back, erased."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app.accounts.permission import person_of, squads_seen
from jarvok.app.acts import check_scope
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import (
    archive_athlete,
    bring_back_athlete,
    change_squad,
    erase_athlete,
    merge_athletes,
    remove_squad,
)
from jarvok.app.facts.athletes.models import Athlete, Squad, SquadMove
from jarvok.app.schema import Schema
from jarvok.app.seasons.actions import move_to_squad

router = Router(tags=["squads"])


class ArchivedOut(Schema):
    id: int
    name: str
    squad: str
    archived_on: date


class SquadRow(Schema):
    """`athletes` counts those who train here, `archived` those who have left."""

    id: int
    name: str
    sport: str
    athletes: int
    archived: int


class SquadsOut(Schema):
    squads: list[SquadRow]
    archived: list[ArchivedOut]


class SquadIn(Schema):
    name: str
    sport: str


class EraseIn(Schema):
    name: str


@router.get("/squads", response={200: SquadsOut, **ERRORS})
def read_squads(request: HttpRequest) -> SquadsOut:
    """The squads, and who has left them."""
    squads = list(squads_seen(person_of(request)).prefetch_related("athletes").order_by("name"))
    gone = [a for s in squads for a in s.athletes.all() if a.archived_on is not None]
    names = {s.pk: s.name for s in squads}
    return SquadsOut(
        squads=[
            SquadRow(
                id=s.pk,
                name=s.name,
                sport=s.sport,
                athletes=sum(a.archived_on is None for a in s.athletes.all()),
                archived=sum(a.archived_on is not None for a in s.athletes.all()),
            )
            for s in squads
        ],
        archived=[
            ArchivedOut(id=a.pk, name=a.name, squad=names[a.squad_id], archived_on=a.archived_on)
            for a in sorted(gone, key=lambda a: a.name)
            if a.archived_on is not None
        ],
    )


@router.patch("/squads/{int:squad_id}", response={200: SquadsOut, **ERRORS})
def change(request: HttpRequest, squad_id: int, payload: SquadIn) -> SquadsOut:
    change_squad.run(who_of(request), get_object_or_404(Squad, pk=squad_id), payload.name, payload.sport)
    return read_squads(request)


@router.delete("/squads/{int:squad_id}", response={200: SquadsOut, **ERRORS})
def remove(request: HttpRequest, squad_id: int) -> SquadsOut:
    remove_squad.run(who_of(request), get_object_or_404(Squad, pk=squad_id))
    return read_squads(request)


@router.post("/athletes/{int:athlete_id}/archive", response={200: SquadsOut, **ERRORS})
def archive(request: HttpRequest, athlete_id: int) -> SquadsOut:
    archive_athlete.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id))
    return read_squads(request)


@router.post("/athletes/{int:athlete_id}/back", response={200: SquadsOut, **ERRORS})
def bring_back(request: HttpRequest, athlete_id: int) -> SquadsOut:
    bring_back_athlete.run(who_of(request), get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id))
    return read_squads(request)


@router.post("/athletes/{int:athlete_id}/erase", response={200: SquadsOut, **ERRORS})
def erase(request: HttpRequest, athlete_id: int, payload: EraseIn) -> SquadsOut:
    """Erase an athlete with everything, as they have asked; the name is typed once more."""
    erase_athlete.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id), payload.name)
    return read_squads(request)


class MergeIn(Schema):
    """The athlete who is the same as the one of the address, and goes; their name is typed once more."""

    other_id: int
    name: str = ""


class MergeOut(Schema):
    """What goes over, and whether the plan does too."""

    results: int
    masses: int
    sessions: int
    takes_plan: bool
    name: str


@router.post("/athletes/{int:athlete_id}/merge/preview", response={200: MergeOut, **ERRORS})
def look_at_merge(request: HttpRequest, athlete_id: int, payload: MergeIn) -> MergeOut:
    """What one athlete would take over of another."""
    stays, goes = get_object_or_404(Athlete, pk=athlete_id), get_object_or_404(Athlete, pk=payload.other_id)
    check_scope(person_of(request), goes)
    found = merge_athletes.going(stays, goes)
    return MergeOut(**found._asdict(), name=goes.name)


@router.post("/athletes/{int:athlete_id}/merge", response={200: SquadsOut, **ERRORS})
def merge(request: HttpRequest, athlete_id: int, payload: MergeIn) -> SquadsOut:
    """Two that are one: the one of the address stays and takes over what is known of the other."""
    stays, goes = get_object_or_404(Athlete, pk=athlete_id), get_object_or_404(Athlete, pk=payload.other_id)
    merge_athletes.run(who_of(request), stays, goes, payload.name)
    return read_squads(request)


class MoveIn(Schema):
    squad_id: int
    day: date


class SquadMoveOut(Schema):
    id: int
    squad: str
    day: date
    is_done: bool


@router.get("/athletes/{int:athlete_id}/squad-moves", response={200: list[SquadMoveOut], **ERRORS})
def read_moves(request: HttpRequest, athlete_id: int) -> list[SquadMoveOut]:
    """Where an athlete went, and goes: done moves and the one ahead."""
    rows = SquadMove.objects.select_related("squad").filter(athlete=athlete_id, withdrawn_at__isnull=True)
    return [SquadMoveOut(id=m.pk, squad=m.squad.name, day=m.day, is_done=m.done_at is not None) for m in rows]


@router.post("/athletes/{int:athlete_id}/squad-moves", response={200: list[SquadMoveOut], **ERRORS})
def add_move(request: HttpRequest, athlete_id: int, payload: MoveIn) -> list[SquadMoveOut]:
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    move_to_squad.run(who_of(request), athlete, get_object_or_404(Squad, pk=payload.squad_id), payload.day)
    return read_moves(request, athlete_id)


@router.post("/athletes/{int:athlete_id}/squad-moves/{int:move_id}/withdraw", response={200: list[SquadMoveOut], **ERRORS})
def withdraw_move(request: HttpRequest, athlete_id: int, move_id: int) -> list[SquadMoveOut]:
    move = get_object_or_404(SquadMove.objects.select_related("athlete", "squad"), pk=move_id, athlete=athlete_id)
    move_to_squad.withdraw(who_of(request), move)
    return read_moves(request, athlete_id)
