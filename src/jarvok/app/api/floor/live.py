"""The two endpoints that stay open or are called many times a second: samples in, events out."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator, Awaitable, Callable
from typing import Any

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse

from jarvok.app.accounts.permission import open_door, person_of
from jarvok.app.api.problems import plain
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.people.models import SignedIn
from jarvok.app.facts.writing import given_back
from jarvok.app.floor import streams
from jarvok.app.floor.events import MOST_AT_ONCE, events_after, newest_events, read_heard, said_heard
from jarvok.app.hub import hub
from jarvok.app.problems import Refused
from jarvok.app.room.links import link_of, rack_auth
from jarvok.core.sensors.stream import read_samples

HEARTBEAT_S = 15.0
ASKED_EVERY_S = 2.0  # [T] so much may be heard after a sign-out
STREAM = "text/event-stream"
Still = Callable[[], bool]
Told = tuple[set[int], set[int]]  # the sessions that are told of, and the keys that wake the page


def problem_answer(title: str, status: int, accepted: str = "", where: str = "") -> HttpResponse:
    return JsonResponse(plain(title, status, accepted, where), status=status, content_type="application/problem+json")


async def take_samples(token: str, method: str, body: bytes, from_here: bool) -> tuple[int, dict[str, Any]]:
    """Take samples of one stream (POST) or end it (DELETE): the status and the answer."""
    received_ms = time.time() * 1000
    if method == "DELETE":
        await sync_to_async(streams.close)(token, received_ms)
        return 200, {"closed": True}
    if method != "POST":
        return 405, plain("Samples are sent with POST; DELETE ends the stream.", 405)
    live = streams._live.get(token) or await sync_to_async(streams.find)(token)
    if live is None:
        return 404, plain("This stream is closed or was never opened.", 404, accepted="Open one from the floor.")
    batch = read_samples(body.decode("utf-8", errors="replace"))
    found, refusal = streams.detect(live, batch, from_here=from_here)
    if found:
        await sync_to_async(streams.store)(live, found, received_ms)
    if len(live.detector.faults) > live.faults_told:
        await sync_to_async(streams.tell_faults)(live)
    taken = refusal or streams.Taken(True, live.last_seq + 1, live.durable_seq, len(found), batch.problems)
    return 200, taken.__dict__ | {"problems": list(taken.problems)}


def hearer(request: HttpRequest) -> Still | None:
    """Let somebody hear events, or raise `Refused`: whether they still may, asked while the stream is open. None: a stranger."""
    person = person_of(request)
    if person is not None:
        open_door(request)
        key = request.session.session_key
        return lambda: SignedIn.objects.filter(pk=key, user__person__ended_at__isnull=True).exists()
    token = rack_auth(request)
    return None if token is None else lambda: link_of(token) is not None


def _may_listen(request: HttpRequest, session_id: int) -> tuple[Still | None, bool]:
    return hearer(request), TrainingSession.objects.filter(pk=session_id).exists()


async def events(request: HttpRequest, session_id: int) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events of one session, from the id the client saw last."""
    try:
        still, is_there = await sync_to_async(given_back(_may_listen))(request, session_id)
    except Refused as refused:
        return problem_answer(str(refused), 403)
    if still is None:
        return problem_answer("Sign in first.", 401)
    if not is_there:
        return problem_answer("There is no such session.", 404)

    async def one() -> Told:
        return {session_id}, {session_id}

    return event_stream(request, one, still)


def event_stream(request: HttpRequest, who: Callable[[], Awaitable[Told]], still: Still) -> StreamingHttpResponse:
    """Answer with events from where the client has heard, for as long as whoever hears them `still` may.

    `who` says which sessions are told of and which keys wake it. Each event's id says how far the page has heard by then.
    """
    said = request.headers.get("Last-Event-ID") or request.GET.get("after") or ""
    response = StreamingHttpResponse(_stream(who, None if said == "now" else read_heard(said), still), content_type=STREAM)
    response["Cache-Control"] = "no-cache"
    response["X-Accel-Buffering"] = "no"
    return response


async def _stream(who: Callable[[], Awaitable[Told]], heard: dict[int, int] | None, still: Still) -> AsyncIterator[bytes]:
    event, asked = asyncio.Event(), time.monotonic()
    read, newest = sync_to_async(given_back(events_after)), sync_to_async(given_back(newest_events))
    keys: set[int] = set()
    known: set[int] | None = None
    woken = False
    try:
        yield b"retry: 1000\n\n"
        if heard is None:
            heard = await newest((await who())[0])
        while True:
            if time.monotonic() - asked > ASKED_EVERY_S:
                if not await sync_to_async(given_back(still))():
                    return
                asked = time.monotonic()
            sessions, wanted = await who()
            hub.listen(wanted - keys, event)
            hub.leave(keys - wanted, event)
            keys = wanted
            event.clear()
            joined = sessions - known if known is not None else set()
            if joined:  # what was done in a session before it came here is read with the room
                heard |= await newest(joined)
            known = sessions
            told = await read(sessions, heard)
            for one in told:
                heard[one.session_id] = one.pk
                data = json.dumps({**one.payload, "session_id": one.session_id, "event_id": one.pk})
                yield f"id: {said_heard(heard)}\nevent: {one.kind}\ndata: {data}\n\n".encode()
            if joined or (woken and not told):
                yield b"event: room\ndata: {}\n\n"
            if len(told) == MOST_AT_ONCE:
                continue
            try:
                await asyncio.wait_for(event.wait(), HEARTBEAT_S)
                woken = True
            except TimeoutError:
                woken = False
                yield b": still here\n\n"
    finally:
        hub.leave(keys, event)
