"""Wakes the event streams of a session when something has been stored for it. Holds no data of its own."""

from __future__ import annotations

import asyncio
import threading
from collections import defaultdict
from collections.abc import Callable, Iterable
from enum import StrEnum

PLANS = 0  # [T] the key that any change of a plan wakes; sessions and rooms have others
HABITS = -1  # [T] the key of how the centre says things: nobody waits for it, its version is asked


class Word(StrEnum):
    """What processes of one server say to each other."""

    WAKE = "wake"
    CHANGED = "changed"
    TAKEN = "taken"  # a sensor is read by the one that says so


class Hub:
    def __init__(self) -> None:
        self._lock = threading.Lock()
        # rise with every change that is not a repetition: who remembers what is up at a rack asks them
        self.version = 0
        self._versions: dict[int, int] = defaultdict(int)
        self._waiting: dict[int, set[tuple[asyncio.AbstractEventLoop, asyncio.Event]]] = defaultdict(set)
        self._forget: list[Callable[[str], None]] = []
        self.tell_others: Callable[[Word, str], None] = lambda word, of: None

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
        self._changed_here(key)
        self.tell_others(Word.CHANGED, str(key))

    def version_of(self, keys: Iterable[int]) -> int:
        """How often any of some keys has changed; of none, how often anything has."""
        with self._lock:
            return sum(self._versions[k] for k in keys) if keys else self.version

    def wake(self, key: int) -> None:
        """Wake the pages of a key."""
        self._wake_here([key])
        self.tell_others(Word.WAKE, str(key))

    def when_taken(self, forget: Callable[[str], None]) -> None:
        """Have what is remembered of a sensor forgotten when another process reads it."""
        self._forget.append(forget)

    def taken(self, token: str) -> None:
        """Say that this process reads a sensor now."""
        self.tell_others(Word.TAKEN, token)

    def hear(self, word: Word, of: str) -> None:
        """Do here what another process has said."""
        match word:
            case Word.WAKE:
                self._wake_here([int(of)])
            case Word.CHANGED:
                self._changed_here(int(of))
            case Word.TAKEN:
                for forget in self._forget:
                    forget(of)

    def all_changed(self) -> None:
        """Anything may have changed: nobody goes on from what they remember."""
        with self._lock:
            keys = [*self._waiting]
            self.version += 1
            for key in {*keys, *self._versions}:
                self._versions[key] += 1
        self._wake_here(keys)

    def _changed_here(self, key: int) -> None:
        with self._lock:
            self.version += 1
            self._versions[key] += 1
        self._wake_here([key])

    def _wake_here(self, keys: Iterable[int]) -> None:
        with self._lock:
            waiting = [one for key in keys for one in self._waiting.get(key, ())]
        for loop, event in waiting:
            loop.call_soon_threadsafe(event.set)


hub = Hub()
