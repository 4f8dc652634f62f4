"""Wakes the event streams of a session when something has been stored for it. Holds no data of its own."""

from __future__ import annotations

import asyncio
import threading
from collections import defaultdict
from collections.abc import Iterable

PLANS = 0  # [T] the key that any change of a plan wakes; sessions and rooms have others


class Hub:
    def __init__(self) -> None:
        self._lock = threading.Lock()
        # rise with every change that is not a repetition: who remembers what is up at a rack asks them
        self.version = 0
        self._versions: dict[int, int] = defaultdict(int)
        self._waiting: dict[int, set[tuple[asyncio.AbstractEventLoop, asyncio.Event]]] = defaultdict(set)

    def listen(self, keys: Iterable[int], event: asyncio.Event) -> None:
        """Have an event set whenever one of the keys is woken."""
        with self._lock:
            for key in keys:
                self._waiting[key].add((asyncio.get_running_loop(), event))

    def leave(self, keys: Iterable[int], event: asyncio.Event) -> None:
        with self._lock:
            for key in keys:
                self._waiting[key] = {(loop, e) for loop, e in self._waiting[key] if e is not event}
                if not self._waiting[key]:
                    del self._waiting[key]

    def changed(self, key: int) -> None:
        """Wake the pages of a key, and say that what is up may be another."""
        with self._lock:
            self.version += 1
            self._versions[key] += 1
        self.wake(key)

    def version_of(self, keys: Iterable[int]) -> int:
        """How often any of some keys has changed; of none, how often anything has."""
        with self._lock:
            return sum(self._versions[k] for k in keys) if keys else self.version

    def wake(self, key: int) -> None:
        with self._lock:
            waiting = list(self._waiting.get(key, ()))
        for loop, event in waiting:
            loop.call_soon_threadsafe(event.set)


hub = Hub()
