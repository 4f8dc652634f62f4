"""Now and today, in one place, so that a fixed day can be set for tests. The core never asks."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from django.conf import settings
from django.utils import timezone

_zone: list[ZoneInfo] = []  # the centre's own, once it is known


def zone() -> ZoneInfo:
    """The time zone of the centre: its own where it has said one, else the server's."""
    return _zone[0] if _zone else ZoneInfo(settings.TIME_ZONE)


def live_in(name: str) -> None:
    """From now on the centre lies in a time zone; nothing for the server's own."""
    _zone[:] = [ZoneInfo(name)] if name else []


_waited: ContextVar[timedelta] = ContextVar("waited", default=timedelta(0))


def now() -> datetime:
    """Now; within `said_earlier`, when that was said."""
    return timezone.now() - _waited.get()


@contextmanager
def said_earlier(waited: timedelta) -> Iterator[None]:
    """What is done within was said a while ago, on a device that had no network since: it is stored as of then."""
    token = _waited.set(waited)
    try:
        yield
    finally:
        _waited.reset(token)


def day_of(moment: datetime) -> date:
    """The day a moment lies in, where the centre is."""
    return timezone.localdate(moment, zone())


def today() -> date:
    if settings.TODAY:
        return date.fromisoformat(settings.TODAY)
    return timezone.localdate(timezone=zone())
