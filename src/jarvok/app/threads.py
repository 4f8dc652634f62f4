"""Requests are answered by threads that stay: each keeps its connection to the database, with what that has learned of it.

A thread of its own for each request would open the file, read how it is built and prepare every question anew. One whose request
did not come to its end is let go of with its connection: something may be open in it still.
"""

from __future__ import annotations

from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from asgiref.sync import ThreadSensitiveContext
from django.db import connections

from jarvok.app.gate import App, Receive, Scope, Send

MOST_WAITING = 8  # [T] threads that wait for a request; each holds a connection with some memory of its own


class LentThreads:
    """ASGI: lends each request a thread for as long as it lasts, the one that was given back last."""

    def __init__(self, app: App) -> None:
        self.app = app
        self._waiting: list[ThreadPoolExecutor] = []

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Hand on with a thread."""
        try:
            thread = self._waiting.pop()
        except IndexError:
            thread = ThreadPoolExecutor(max_workers=1, thread_name_prefix="request")
        is_answered = False

        async def sending(message: Mapping[str, Any]) -> None:
            nonlocal is_answered
            await send(message)
            is_answered = message["type"] == "http.response.body" and not message.get("more_body", False)

        try:
            async with ThreadSensitiveContext(executor=thread):
                await self.app(scope, receive, sending)
        finally:
            if is_answered:
                thread.submit(self._is_free, thread)  # it says so itself, behind whatever it is still at
            else:
                thread.shutdown(wait=False)

    def _is_free(self, thread: ThreadPoolExecutor) -> None:
        left_open = [c for c in connections.all(initialized_only=True) if c.in_atomic_block]
        for one in left_open:
            one.close()  # what was being written was not finished
        if left_open or len(self._waiting) >= MOST_WAITING:
            thread.shutdown(wait=False)
        else:
            self._waiting.append(thread)
