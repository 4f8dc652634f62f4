"""A write is done once per key, whatever is sent twice."""

from __future__ import annotations

import hashlib
import json
import random
import time
from collections.abc import Callable
from contextvars import ContextVar
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, OperationalError, connection

from jarvok.app import clock
from jarvok.app.facts.floor.models import IdempotentWrite
from jarvok.app.facts.put_together import Objects, StoreTogether
from jarvok.app.facts.writing import writing
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError

WAITED = "Jarvok-Waited-Ms"
MOST_WAITED = timedelta(hours=12)  # [J] a training day; a device that says more has a clock that was set meanwhile
TRIES = 3  # [T]
PAUSE_S = (0.02, 0.15)  # [T] at random, so that two do not meet again
CONTENDED = ("locked", "deadlock", "could not serialize", "lock timeout")
_WRITES = StoreTogether(IdempotentWrite)
_BY_KEY = Objects(lambda _, key: IdempotentWrite.objects.filter(key=key))
waited: ContextVar[timedelta] = ContextVar("waited_of_request", default=timedelta(0))


def waited_of(said_ms: str) -> timedelta:
    """How long a write has waited on its device, as that says; nothing where it cannot be."""
    found = timedelta(milliseconds=int(said_ms)) if said_ms.isdecimal() and len(said_ms) < 12 else timedelta(0)
    return found if found <= MOST_WAITED else timedelta(0)


def once(key: str, request: object, act: Callable[[], dict[str, Any]], of: int | None = None) -> dict[str, Any]:
    """Do a write once per key: a repeated key gets the first answer; the same key with other content is refused.

    What has waited on a device without a network is stored as of when it was said. Where others are writing it is tried
    again after a short pause that differs from device to device, so `act` may run more than once; only one is stored.
    `of`: the athlete whom the write is about alone.
    """
    if not 8 <= len(key) <= 80:
        raise CoachError("Not sent. Send it again.", where="Idempotency-Key")
    digest = hashlib.sha256(json.dumps(request, sort_keys=True, default=str).encode()).hexdigest()
    for tries_left in reversed(range(TRIES)):
        try:
            return _done_once(key, digest, act, of)
        except IntegrityError:
            # written about somebody else under the same key meanwhile: the next try answers for it
            if not tries_left or connection.in_atomic_block or not IdempotentWrite.objects.filter(key=key).exists():
                raise
        except OperationalError as error:
            if not tries_left or connection.in_atomic_block or not is_contended(error):
                raise
            time.sleep(random.uniform(*PAUSE_S))
    raise AssertionError("not reached")


def is_contended(error: Exception) -> bool:
    """Whether the database refused because others were writing: the same may go through a moment later."""
    return any(words in str(error).lower() for words in CONTENDED)


def _done_once(key: str, digest: str, act: Callable[[], dict[str, Any]], of: int | None) -> dict[str, Any]:
    with writing(of):
        kept = next(iter(_BY_KEY.all(key)), None)
        if kept is not None:
            if kept.request != digest:
                raise Conflict("Not sent: the page is older than what is stored. Load it again.")
            answer: dict[str, Any] = kept.answer
            return answer
        with clock.said_earlier(waited.get()):
            answer = act()
        _WRITES.store(key=key, request=digest, answer=answer)
        return answer
