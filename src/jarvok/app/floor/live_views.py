"""The two endpoints that stay open or are called many times a second: samples in, events out."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator, Awaitable, Callable, Collection
from typing import Any

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse
from django.views.decorators.csrf import csrf_exempt

from jarvok.app.floor import streams
from jarvok.app.floor.hub import hub
from jarvok.app.floor.models import FloorEvent, TrainingSession
from jarvok.app.room.links import rack_auth
from jarvok.core.errors import CoachError
from jarvok.core.sensors.stream import read_samples

HEARTBEAT_S = 15.0
MOST_BYTES = 1_000_000


def problem_answer(title: str, status: int, accepted: str = "", where: str = "") -> HttpResponse:
    body = {"title": title, "status": status, "where": where, "accepted": accepted, "position": None, "suggestion": ""}
    return JsonResponse(body, status=status, content_type="application/problem+json")


@csrf_exempt  # the unguessable token in the path is the credential; a bridge has no cookies
async def samples(request: HttpRequest, token: str) -> HttpResponse:
    """Take samples of one stream (POST) or end it (DELETE)."""
    received_ms = time.time() * 1000
    if request.method == "DELETE":
        await sync_to_async(streams.close)(token, received_ms)
        return JsonResponse({"closed": True})
    if request.method != "POST":
        return problem_answer("Samples are sent with POST; DELETE ends the stream.", 405)
    live = streams._live.get(token) or await sync_to_async(streams.find)(token)
    if live is None:
        return problem_answer("This stream is closed or was never opened.", 404, accepted="Open one from the floor.")
    if len(request.body) > MOST_BYTES:
        return problem_answer("The batch is larger than 1 MB.", 413, accepted="Send smaller batches.")
    try:
        batch = read_samples(request.body.decode("utf-8", errors="replace"))
    except CoachError as error:
        return problem_answer(error.message, 422, error.accepted, error.where)
    found, refusal = streams.detect(live, batch, from_here=request.GET.get("from_here") == "1")
    if found:
        await sync_to_async(streams.store)(live, found, received_ms)
    if len(live.detector.faults) > live.faults_told:
        await sync_to_async(streams.tell_faults)(live)
    taken = refusal or streams.Taken(True, live.last_seq + 1, live.durable_seq, len(found), batch.problems)
    return JsonResponse(taken.__dict__ | {"problems": list(taken.problems)})


Heard = list[tuple[int, int, str, dict[str, Any]]]


def _events_after(session_ids: Collection[int], after: int) -> Heard:
    rows = FloorEvent.objects.filter(session_id__in=session_ids, id__gt=after)
    return list(rows.values_list("id", "session_id", "kind", "payload")[:500])


def _may_listen(request: HttpRequest, session_id: int) -> bool | None:
    if not request.user.is_authenticated and rack_auth(request) is None:
        return None
    return TrainingSession.objects.filter(pk=session_id).exists()


async def events(request: HttpRequest, session_id: int) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events of one session, from the id the client saw last."""
    allowed = await sync_to_async(_may_listen)(request, session_id)
    if allowed is None:
        return problem_answer("Sign in first.", 401)
    if not allowed:
        return problem_answer("There is no such session.", 404)

    async def one() -> tuple[set[int], set[int]]:
        return {session_id}, {session_id}

    return event_stream(request, one)


def event_stream(request: HttpRequest, who: Callable[[], Awaitable[tuple[set[int], set[int]]]]) -> StreamingHttpResponse:
    """Answer with events from the id the client saw last. `who` says which sessions are told of and which keys wake it."""
    seen = request.headers.get("Last-Event-ID") or request.GET.get("after") or "0"
    after = int(seen) if seen.isdigit() and len(seen) < 18 else 0
    response = StreamingHttpResponse(_stream(who, after), content_type="text/event-stream")
    response["Cache-Control"] = "no-cache"
    response["X-Accel-Buffering"] = "no"
    return response


async def _stream(who: Callable[[], Awaitable[tuple[set[int], set[int]]]], after: int) -> AsyncIterator[bytes]:
    event = asyncio.Event()
    read = sync_to_async(_events_after)
    keys: set[int] = set()
    woken = False
    try:
        yield b"retry: 1000\n\n"
        while True:
            sessions, wanted = await who()
            hub.listen(wanted - keys, event)
            hub.leave(keys - wanted, event)
            keys = wanted
            event.clear()
            heard = await read(sessions, after)
            for number, session_id, kind, payload in heard:
                after = number
                data = json.dumps({**payload, "session_id": session_id})
                yield f"id: {number}\nevent: {kind}\ndata: {data}\n\n".encode()
            if woken and not heard:
                yield b"event: room\ndata: {}\n\n"
            try:
                await asyncio.wait_for(event.wait(), HEARTBEAT_S)
                woken = True
            except TimeoutError:
                woken = False
                yield b": still here\n\n"
    finally:
        hub.leave(keys, event)
