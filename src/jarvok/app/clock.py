"""Now and today, in one place, so that a fixed day can be set for tests. The core never asks."""

from __future__ import annotations

from datetime import date, datetime
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


def now() -> datetime:
    return timezone.now()


def day_of(moment: datetime) -> date:
    """The day a moment lies in, where the centre is."""
    return timezone.localdate(moment, zone())


def today() -> date:
    if settings.TODAY:
        return date.fromisoformat(settings.TODAY)
    return timezone.localdate(timezone=zone())
