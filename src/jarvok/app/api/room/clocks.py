"""Clocks of the room and of a rack over HTTP; a rack's own also from the tablet that stands there."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.lanes import lanes_for, lanes_out
from jarvok.app.api.room.rooms import gathering_of
from jarvok.app.api.room.shapes import ClockFormOut, ClockIn, FigureOut, LanesOut, RackClockIn
from jarvok.app.api.who import signed_in, who_of
from jarvok.app.once import once
from jarvok.app.room.actions import change_clock as change
from jarvok.app.room.actions import start_clock as start
from jarvok.app.room.links import rack_auth
from jarvok.core.floor.clocks import FORMS

router = Router(tags=["room"])
RACK_TOO = [signed_in, rack_auth]


@router.get("/clock-forms", response={200: list[ClockFormOut], **ERRORS})
def read_clock_forms(request: HttpRequest) -> list[ClockFormOut]:
    """The timed forms and their figures."""
    return [
        ClockFormOut(kind=k, name=f.name, words=f.words, figures=[FigureOut(**x._asdict()) for x in f.figures])
        for k, f in FORMS.items()
    ]


@router.post("/room/{int:room_id}/clocks", response={200: LanesOut, **ERRORS})
def start_clock(request: HttpRequest, room_id: int, payload: ClockIn, idempotency_key: IdempotencyKey) -> LanesOut:
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        return {"clock": start.run(who_of(request), gathering, payload.kind, payload.figures, payload.rack).pk}

    once(idempotency_key, {"room": room_id, "what": "clock", **payload.dict()}, do)
    return lanes_out(gathering)


@router.post("/room/{int:room_id}/clocks/{int:clock_id}/{act}", response={200: LanesOut, **ERRORS})
def change_clock(request: HttpRequest, room_id: int, clock_id: int, act: str, idempotency_key: IdempotencyKey) -> LanesOut:
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        change.run(who_of(request), gathering, clock_id, act)
        return {}

    once(idempotency_key, {"room": room_id, "what": act, "clock": clock_id}, do)
    return lanes_out(gathering)


@router.post("/room/{int:room_id}/racks/{int:rack}/clock", response={200: LanesOut, **ERRORS}, auth=RACK_TOO)
def start_at_rack(
    request: HttpRequest, room_id: int, rack: int, payload: RackClockIn, idempotency_key: IdempotencyKey
) -> LanesOut:
    """The clock of what is up at a rack."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        return {"clock": start.run(who_of(request), gathering, payload.kind, payload.figures, rack).pk}

    once(idempotency_key, {"room": room_id, "what": "clock", "rack": rack, **payload.dict()}, do)
    return lanes_for(request, gathering, rack)


@router.post("/room/{int:room_id}/racks/{int:rack}/clock/{int:clock_id}/{act}", response={200: LanesOut, **ERRORS}, auth=RACK_TOO)
def change_at_rack(
    request: HttpRequest, room_id: int, rack: int, clock_id: int, act: str, idempotency_key: IdempotencyKey
) -> LanesOut:
    """Pause, go on, or stop the clock of a rack."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        change.run(who_of(request), gathering, clock_id, act, rack)
        return {}

    once(idempotency_key, {"room": room_id, "what": act, "rack": rack, "clock": clock_id}, do)
    return lanes_for(request, gathering, rack)
