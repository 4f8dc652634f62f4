"""The board of a room over HTTP: one chosen number for the squad."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.rooms import gathering_of
from jarvok.app.api.room.shapes import BoardOut, BoardRowOut, ChoiceOfRoomOut, CompeteIn, OnBoardOut, ShownIn
from jarvok.app.api.who import who_of
from jarvok.app.facts.room.models import Gathering
from jarvok.app.floor.events import newest_events, said_heard
from jarvok.app.once import once
from jarvok.app.room.actions import compete_in
from jarvok.app.room.board import board_of
from jarvok.app.room.telling import sessions_at

router = Router(tags=["room"])


def board_out(gathering: Gathering) -> BoardOut:
    """The board as the wall shows it."""
    heard = newest_events(sessions_at(gathering))
    found = board_of(gathering)
    return BoardOut(
        id=gathering.pk,
        squad=gathering.squad.name,
        day=gathering.day,
        choices=[ChoiceOfRoomOut(key=c.key, name=c.name) for c in found.choices],
        chosen=found.chosen,
        title=found.title,
        unit=found.unit,
        rows=[
            BoardRowOut(place=r.place, athlete_id=r.athlete_id, name=r.name, best=f"{r.best:.{found.decimals}f}")
            for r in found.rows
        ],
        people=[OnBoardOut(athlete_id=a.pk, name=a.name, is_shown=not a.not_ranked) for a in found.people],
        heard=said_heard(heard),
    )


@router.get("/room/{int:room_id}/board", response={200: BoardOut, **ERRORS})
def read_board(request: HttpRequest, room_id: int) -> BoardOut:
    return board_out(gathering_of(room_id))


@router.post("/room/{int:room_id}/board", response={200: BoardOut, **ERRORS})
def choose_number(request: HttpRequest, room_id: int, payload: CompeteIn, idempotency_key: IdempotencyKey) -> BoardOut:
    """The one number of the day; nothing takes the board away."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        compete_in.run(who_of(request), gathering, payload.key)
        return {}

    once(idempotency_key, {"room": room_id, "what": "compete", **payload.dict()}, do)
    return board_out(gathering_of(room_id))


@router.post("/room/{int:room_id}/board/shown", response={200: BoardOut, **ERRORS})
def show_on_board(request: HttpRequest, room_id: int, payload: ShownIn, idempotency_key: IdempotencyKey) -> BoardOut:
    """Whether an athlete is shown beside others."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        compete_in.show(who_of(request), gathering, payload.athlete_id, payload.is_shown)
        return {}

    once(idempotency_key, {"room": room_id, "what": "shown", **payload.dict()}, do)
    return board_out(gathering_of(room_id))
