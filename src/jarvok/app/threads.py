"""Requests are answered by threads that stay: each keeps its connection to the database, with what that has learned of it.

A thread of its own for each request would open the file, read how it is built and prepare every question anew.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

from asgiref.sync import ThreadSensitiveContext

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
        try:
            async with ThreadSensitiveContext(executor=thread):
                await self.app(scope, receive, send)
        finally:
            # the thread says so itself: who hung up may have left it at work
            thread.submit(self._is_free, thread)

    def _is_free(self, thread: ThreadPoolExecutor) -> None:
        if len(self._waiting) < MOST_WAITING:
            self._waiting.append(thread)
        else:
            thread.shutdown(wait=False)
