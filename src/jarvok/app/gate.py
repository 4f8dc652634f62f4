"""The door for sensors, before everything that pages need.

Eight bars send some hundred batches a second. Their token is the whole of their credential: sessions, cookies and the other
middleware would cost more than the work itself, so their paths are answered here and all others go on to the application.
"""

from __future__ import annotations

import json
import logging
import re
from collections.abc import Awaitable, Callable, Mapping
from typing import Any

from asgiref.sync import sync_to_async
from django.conf import settings
from django.db import close_old_connections

from jarvok.app.accounts.middleware import LOOPBACK
from jarvok.app.api.floor.live import take_samples
from jarvok.app.api.problems import OF_THE_MACHINE, database_words, plain
from jarvok.app.api.room.samples import take_messages
from jarvok.core.errors import CoachError

log = logging.getLogger(__name__)

Scope = dict[str, Any]
Receive = Callable[[], Awaitable[Mapping[str, Any]]]
Send = Callable[[Mapping[str, Any]], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

MOST_BYTES = 1_000_000
STREAM = re.compile(r"^/api/streams/([\w-]{4,60})$")
SENSOR = re.compile(r"^/api/sensors/([\w-]{4,60})/messages$")


async def answer(path: str, method: str, query: bytes, body: bytes) -> tuple[int, dict[str, Any]] | None:
    """The status and answer to what a sensor sends to a path; None for a path that is not a sensor's."""
    stream, sensor = STREAM.match(path), SENSOR.match(path)
    if stream is None and sensor is None:
        return None
    if len(body) > MOST_BYTES:
        return 413, plain("The batch is larger than 1 MB.", 413, accepted="Send smaller batches.")
    try:
        if stream is not None:
            return await take_samples(stream[1], method, body, b"from_here=1" in query)
        return await take_messages(sensor[1], method, body) if sensor is not None else None
    except CoachError as error:
        return 422, plain(error.message, 422, error.accepted, error.where)
    except OF_THE_MACHINE as error:
        log.warning("database: %s at %s", error, path)
        await sync_to_async(close_old_connections)()  # one that was lost is opened anew for the next batch
        return 503, plain(database_words(error)[0], 503)
    except Exception:
        log.exception("unforeseen error at %s", path)
        return 500, plain("Something failed on the server. Send again.", 500)


class SensorGate:
    """ASGI: sensors in, everything else on to the application."""

    def __init__(self, app: App) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a sensor, or hand on."""
        if scope["type"] != "http" or not (STREAM.match(scope["path"]) or SENSOR.match(scope["path"])):
            await self.app(scope, receive, send)
            return
        client = scope.get("client") or ("", 0)
        if settings.LOCAL_DEMO and client[0] not in LOOPBACK:
            await _send(send, 403, plain("This demo answers on its own machine only.", 403))
            return
        body = bytearray()
        while True:
            part = await receive()
            if part["type"] == "http.disconnect":
                return
            body += part.get("body", b"")
            if not part.get("more_body") or len(body) > MOST_BYTES:
                break
        found = await answer(scope["path"], scope["method"], scope.get("query_string", b""), bytes(body))
        await _send(send, *(found or (404, plain("There is nothing here.", 404))))


async def _send(send: Send, status: int, data: dict[str, Any]) -> None:
    body = json.dumps(data).encode()
    kind = b"application/json" if status < 400 else b"application/problem+json"
    headers = [(b"content-type", kind), (b"content-length", str(len(body)).encode())]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
