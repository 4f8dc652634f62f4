"""What a centre does by itself: a copy every day, what is over thrown away, days that are past kept as they stood."""

from __future__ import annotations

import asyncio
import logging
import os
import socket
from datetime import timedelta

from asgiref.sync import sync_to_async
from django.conf import settings
from django.db import OperationalError, close_old_connections
from django.db.models import Q

from jarvok.app import clock
from jarvok.app.accounts import seen
from jarvok.app.facts.centre.models import Centre
from jarvok.app.seasons.actions import move_to_squad
from jarvok.app.upkeep import backups
from jarvok.app.upkeep.past_weeks import freeze_past_weeks
from jarvok.app.upkeep.pruning import prune
from jarvok.core.errors import CoachError

LEASE = timedelta(minutes=15)  # [T] another process takes over from one that has gone
ME = f"{socket.gethostname()}:{os.getpid()}"
log = logging.getLogger(__name__)


def is_mine(me: str = ME) -> bool:
    """Take or keep the post of the one housekeeper; False where another process holds it."""
    Centre.objects.get_or_create(pk=1)
    now = clock.now()
    free = Q(housekeeper=me) | Q(housekeeper="") | Q(housekeeper_until__isnull=True) | Q(housekeeper_until__lt=now)
    return Centre.objects.filter(pk=1).filter(free).update(housekeeper=me, housekeeper_until=now + LEASE) == 1


def tidy() -> None:
    """Do what is due: safe to call as often as one likes."""
    today = clock.today()
    prune()
    seen.write_down()
    centre = Centre.objects.get_or_create(pk=1)[0]
    if centre.begun_at is not None and centre.backed_up_on != today and not settings.LOCAL_DEMO:
        Centre.objects.filter(pk=1).update(backed_up_on=today, backup_problem=_daily_copy())
    if centre.days_kept_on != today:
        freeze_past_weeks()
        Centre.objects.filter(pk=1).update(days_kept_on=today)
    move_to_squad.do_what_is_due()


def _daily_copy() -> str:
    """Make the day's copy and throw away those that have served; return what went wrong."""
    try:
        backups.make(backups.DAILY)
        backups.prune()
    except CoachError as error:
        log.error("no copy today: %s", error.message)
        return error.message
    return ""


def _round() -> None:
    close_old_connections()
    try:
        if is_mine():
            tidy()
    except OperationalError as error:  # a busy database is asked again in the next round
        log.warning("housekeeping waits: %s", error)
    except Exception:
        log.exception("housekeeping failed")
    finally:
        close_old_connections()


async def keep_house() -> None:
    """Look after the centre for as long as the server runs."""
    while True:
        await sync_to_async(_round, thread_sensitive=False)()
        await asyncio.sleep(settings.HOUSEKEEPING_S)
