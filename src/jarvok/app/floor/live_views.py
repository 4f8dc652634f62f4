"""The two endpoints that stay open or are called many times a second: samples in, events out."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator
from typing import Any

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse
from django.views.decorators.csrf import csrf_exempt

from jarvok.app.floor import streams
from jarvok.app.floor.hub import hub
from jarvok.app.floor.models import FloorEvent, TrainingSession
from jarvok.core.errors import CoachError
from jarvok.core.sensors.stream import read_samples

HEARTBEAT_S = 15.0
MOST_BYTES = 1_000_000


def _problem(title: str, status: int, accepted: str = "", where: str = "") -> HttpResponse:
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
        return _problem("Samples are sent with POST; DELETE ends the stream.", 405)
    live = streams._live.get(token) or await sync_to_async(streams.find)(token)
    if live is None:
        return _problem("This stream is closed or was never opened.", 404, accepted="Open one from the floor.")
    if len(request.body) > MOST_BYTES:
        return _problem("The batch is larger than 1 MB.", 413, accepted="Send smaller batches.")
    try:
        batch = read_samples(request.body.decode("utf-8", errors="replace"))
    except CoachError as error:
        return _problem(error.message, 422, error.accepted, error.where)
    found, refusal = streams.detect(live, batch, from_here=request.GET.get("from_here") == "1")
    if found:
        await sync_to_async(streams.store)(live, found, received_ms)
    if len(live.detector.faults) > live.faults_told:
        await sync_to_async(streams.tell_faults)(live)
    taken = refusal or streams.Taken(True, live.last_seq + 1, live.durable_seq, len(found), batch.problems)
    return JsonResponse(taken.__dict__ | {"problems": list(taken.problems)})


def _events_after(session_id: int, after: int) -> list[tuple[int, str, dict[str, Any]]]:
    return list(FloorEvent.objects.filter(session_id=session_id, id__gt=after).values_list("id", "kind", "payload")[:500])


def _may_listen(request: HttpRequest, session_id: int) -> bool | None:
    if not request.user.is_authenticated:
        return None
    return TrainingSession.objects.filter(pk=session_id).exists()


async def events(request: HttpRequest, session_id: int) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events of one session, from the id the client saw last."""
    allowed = await sync_to_async(_may_listen)(request, session_id)
    if allowed is None:
        return _problem("Sign in first.", 401)
    if not allowed:
        return _problem("There is no such session.", 404)
    seen = request.headers.get("Last-Event-ID") or request.GET.get("after") or "0"
    after = int(seen) if seen.isdigit() and len(seen) < 18 else 0
    response = StreamingHttpResponse(_stream(session_id, after), content_type="text/event-stream")
    response["Cache-Control"] = "no-cache"
    response["X-Accel-Buffering"] = "no"
    return response


async def _stream(session_id: int, after: int) -> AsyncIterator[bytes]:
    event = hub.listen(session_id)
    read = sync_to_async(_events_after)
    try:
        yield b"retry: 1000\n\n"
        while True:
            event.clear()
            for number, kind, payload in await read(session_id, after):
                after = number
                yield f"id: {number}\nevent: {kind}\ndata: {json.dumps(payload)}\n\n".encode()
            try:
                await asyncio.wait_for(event.wait(), HEARTBEAT_S)
            except TimeoutError:
                yield b": still here\n\n"
    finally:
        hub.leave(session_id, event)
