"""The time zone of the centre is chosen."""

from __future__ import annotations

from zoneinfo import available_timezones

from django.db import transaction

from jarvok.app.acts import Who, acting
from jarvok.app.centre.habits import read_habits_anew
from jarvok.app.facts.centre.models import Centre
from jarvok.core.errors import CoachError


def run(who: Who, zone: str) -> None:
    """From now on days begin and hours are meant where the centre lies; nothing for the server's own zone."""
    if zone and zone not in available_timezones():
        raise CoachError(f"“{zone}” is no time zone.", where="zone", accepted="Such as Europe/Oslo or America/Halifax.")
    with acting(who, "set_zone", f"time zone {zone or 'of the server'}"):
        Centre.objects.update_or_create(pk=1, defaults={"zone": zone})
        transaction.on_commit(read_habits_anew)
