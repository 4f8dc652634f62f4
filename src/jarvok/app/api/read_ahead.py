"""At the start of a server, and when a day begins, what the first pages need is worked out before anybody asks for it.

The housekeeper keeps the days that are over as they stood, which changes everybody's plan: it is read ahead again after that.
"""

from __future__ import annotations

import asyncio
import logging
import time
from collections.abc import Callable, Sequence
from datetime import date
from typing import NamedTuple

from asgiref.sync import sync_to_async
from django.db import close_old_connections

from jarvok.app import clock
from jarvok.app.api.athletes.overview import rows_of
from jarvok.app.api.in_turn import a_turn
from jarvok.app.api.learning.reports import read_ahead_of_reports
from jarvok.app.api.learning.weeks import read_ahead_of_weeks
from jarvok.app.api.today.of_day import of_day
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.centre.habits import habits
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.centre.models import Centre
from jarvok.app.training.own_library import own_exercises
from jarvok.core.library.exercises import with_own
from jarvok.core.quantities.days import days_written

AT_ONCE = 10  # [T] athletes: a request waits no longer than they take
WEEKS_AT_ONCE = 3  # [T] the same, where weeks of sets are summed up
PAUSE_S = 0.05  # [T] between them, for whoever waits
LOOKS_S = 60  # [T] how often it is looked whether a day has begun
log = logging.getLogger(__name__)


class Day(NamedTuple):
    """What a day has begun with."""

    today: date
    kept_on: date | None


def read_ahead() -> int:
    """Work out what is kept of everybody who trains here, as most read it; return of how many."""
    people = list(Athlete.here.select_related("squad", "kit"))
    _in_turn(people, AT_ONCE, (of_day, rows_of))
    _in_turn(people, WEEKS_AT_ONCE, (read_ahead_of_weeks, read_ahead_of_reports), for_weeks=True)
    return len(people)


def _in_turn(
    people: Sequence[Athlete], at_once: int, work_out: Sequence[Callable[[list[Athlete]], object]], *, for_weeks: bool = False
) -> None:
    """Some after the other, as whoever reads a page; with all that their weeks are laid from, where that is asked for."""
    for start in range(0, len(people), at_once):
        some = list(people[start : start + at_once])
        with a_turn(), with_own(own_exercises()), days_written(habits().day_order):
            read = read_for_a_week(Athlete.here.filter(pk__in=[a.pk for a in some])) if for_weeks else some
            for work in work_out:
                work(read)
        time.sleep(PAUSE_S)


def when_a_day_begins(last: Day | None) -> Day | None:
    """Read ahead where today, or the newest day that the housekeeper has kept, is another than last time; return both."""
    try:
        now = Day(clock.today(), Centre.objects.filter(pk=1).values_list("days_kept_on", flat=True).first())
        if now != last:
            read_ahead()
    except Exception:  # whoever opens the page reads it then; it is tried again
        log.exception("nothing was read ahead")
        return last
    finally:
        close_old_connections()
    return now


async def keep_read_ahead() -> None:
    """Read ahead for as long as the server runs."""
    last: Day | None = None
    while True:
        last = await sync_to_async(when_a_day_begins, thread_sensitive=False)(last)
        await asyncio.sleep(LOOKS_S)
