"""Now and today, in one place, so that a fixed day can be set for tests. The core never asks."""

from __future__ import annotations

from datetime import date, datetime

from django.conf import settings
from django.utils import timezone


def now() -> datetime:
    return timezone.now()


def today() -> date:
    if settings.TODAY:
        return date.fromisoformat(settings.TODAY)
    return timezone.localdate()
