"""When each sign-in was last heard of: remembered by the process, written down now and then."""

from __future__ import annotations

import threading
import time
from datetime import datetime

from jarvok.app import clock
from jarvok.app.facts.people.models import SignedIn

EVERY_S = 600.0  # [T] so old may be what is listed
_lock = threading.Lock()
_heard: dict[str, datetime] = {}  # not yet written down
_written_at = time.monotonic()


def heard(key: str) -> None:
    """A sign-in was just heard of."""
    with _lock:
        _heard[key] = clock.now()


def write_down(*, now: bool = False) -> None:
    """Write down what was heard of since the last time, where that is some minutes ago or it is wanted `now`."""
    global _written_at
    with _lock:
        if not now and time.monotonic() - _written_at < EVERY_S:
            return
        told = dict(_heard)
        _heard.clear()
        _written_at = time.monotonic()
    for key, at in told.items():
        SignedIn.objects.filter(pk=key).update(seen_at=at)
