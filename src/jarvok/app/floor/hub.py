"""Wakes the event streams of a session when something has been stored for it. Holds no data of its own."""

from __future__ import annotations

import asyncio
import threading
from collections import defaultdict


class Hub:
    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._waiting: dict[int, set[tuple[asyncio.AbstractEventLoop, asyncio.Event]]] = defaultdict(set)

    def listen(self, session_id: int) -> asyncio.Event:
        event = asyncio.Event()
        with self._lock:
            self._waiting[session_id].add((asyncio.get_running_loop(), event))
        return event

    def leave(self, session_id: int, event: asyncio.Event) -> None:
        with self._lock:
            self._waiting[session_id] = {(loop, e) for loop, e in self._waiting[session_id] if e is not event}
            if not self._waiting[session_id]:
                del self._waiting[session_id]

    def wake(self, session_id: int) -> None:
        with self._lock:
            waiting = list(self._waiting.get(session_id, ()))
        for loop, event in waiting:
            loop.call_soon_threadsafe(event.set)


hub = Hub()
