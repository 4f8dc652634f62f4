"""Joining and leaving a rack, and the order there, over HTTP: at the desk and on the rack's own tablet."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.lanes import lanes_for
from jarvok.app.api.room.rooms import gathering_of
from jarvok.app.api.room.shapes import (
    CallIn,
    GuestOut,
    JoinerOut,
    JoinIn,
    JoiningOut,
    LanesOut,
    OrderIn,
    PartnerOut,
    TemplateChoiceOut,
)
from jarvok.app.api.who import signed_in, who_of
from jarvok.app.once import once
from jarvok.app.room.actions import join_rack, order_rack, put_at_rack
from jarvok.app.room.gathered import Present
from jarvok.app.room.joining import joining
from jarvok.app.room.links import rack_auth

router = Router(tags=["room"])


@router.get("/room/{int:room_id}/racks/{int:rack}/joining", response={200: JoiningOut, **ERRORS}, auth=[signed_in, rack_auth])
def read_joining(request: HttpRequest, room_id: int, rack: int) -> JoiningOut:
    """Who may join a rack, and where their session may come from. A rack's link names nobody of another squad."""
    found = joining(gathering_of(room_id), rack)
    return JoiningOut(
        people=[
            JoinerOut(
                athlete_id=p.athlete.pk,
                name=p.athlete.name,
                rack=p.attendance.rack,
                is_running=p.session is not None and p.session.finished_at is None,
                theme=_today_of(p),
            )
            for p in found.people
        ],
        guests=[
            GuestOut(athlete_id=a.pk, name=a.name, squad=a.squad.name) for a in found.guests if request.user.is_authenticated
        ],
        partners=[PartnerOut(athlete_id=p.athlete.pk, name=p.athlete.name, theme=_today_of(p)) for p in found.partners],
        templates=[TemplateChoiceOut(id=t.pk, name=t.name) for t in found.templates],
    )


def _today_of(p: Present) -> str:
    """What somebody has to do today, or nothing: a session that is finished is not done again."""
    if p.session is not None and p.session.finished_at is None:
        return p.session.theme
    begun = p.session is not None and p.planned is not None and p.planned.key == p.session.key
    return p.planned.theme if p.planned is not None and not begun else ""


@router.post("/room/{int:room_id}/racks/{int:rack}/join", response={200: LanesOut, **ERRORS}, auth=[signed_in, rack_auth])
def join(request: HttpRequest, room_id: int, rack: int, payload: JoinIn, idempotency_key: IdempotencyKey) -> LanesOut:
    """Somebody joins a rack, and their session begins."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        join_rack.run(
            who_of(request),
            gathering,
            payload.athlete_id,
            rack,
            payload.source,
            payload.from_id,
            guests=request.user.is_authenticated,
        )
        return {}

    once(idempotency_key, {"room": room_id, "what": "join", "rack": rack, **payload.dict()}, do)
    return lanes_for(request, gathering, rack)


@router.post("/room/{int:room_id}/racks/{int:rack}/leave", response={200: LanesOut, **ERRORS}, auth=[signed_in, rack_auth])
def leave(request: HttpRequest, room_id: int, rack: int, payload: CallIn, idempotency_key: IdempotencyKey) -> LanesOut:
    """Somebody leaves a rack; their session stays as it is."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        put_at_rack.leave(who_of(request), gathering, payload.athlete_id, rack)
        return {}

    once(idempotency_key, {"room": room_id, "what": "leave", "rack": rack, **payload.dict()}, do)
    return lanes_for(request, gathering, rack)


@router.post("/room/{int:room_id}/racks/{int:rack}/order", response={200: LanesOut, **ERRORS}, auth=[signed_in, rack_auth])
def order(request: HttpRequest, room_id: int, rack: int, payload: OrderIn, idempotency_key: IdempotencyKey) -> LanesOut:
    """The order at a rack, by hand: from here on it goes round."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        order_rack.run(who_of(request), gathering, rack, payload.athlete_ids)
        return {}

    once(idempotency_key, {"room": room_id, "what": "order", "rack": rack, **payload.dict()}, do)
    return lanes_for(request, gathering, rack)
