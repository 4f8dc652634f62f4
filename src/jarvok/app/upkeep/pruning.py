"""What serves for a while only, and is thrown away when it has served: no fact of training is among it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db.models import Q, QuerySet

from jarvok.app import clock
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.floor.models import FloorEvent, IdempotentWrite
from jarvok.app.facts.people.models import Link, SignedIn
from jarvok.app.facts.room.models import Reading
from jarvok.app.facts.writing import writing
from jarvok.app.upkeep.backups import database

LEAST_DAYS, MOST_DAYS = 7, 365  # [J] a page is not away from the network for longer than a week
AT_ONCE = 2000  # [T] rows of one transaction: what is logged meanwhile does not wait


@dataclass(frozen=True)
class Passing:
    """One kind of rows that serve for a while: what it is called, and which of them have served before a moment."""

    key: str
    words: str
    rows: Callable[[], QuerySet[Any]]
    served: Callable[[datetime], Q]


PASSING = (
    Passing("writes", "Sets and other writes, so that none counts twice", IdempotentWrite.objects.all, lambda t: Q(at__lt=t)),
    Passing(
        "events", "What pages on the floor were told, so that they resume", FloorEvent.objects.all,
        lambda t: Q(session__day__lt=t.date()),
    ),
    Passing(
        "rates", "Heart rates while training", lambda: Reading.objects.filter(values__has_key="bpm", trial=None),
        lambda t: Q(at__lt=t),
    ),
    Passing("links", "Links that are over", Link.objects.all, lambda t: Q(until__lt=t) | Q(ended_at__lt=t)),
    Passing("sign_ins", "Sign-ins that have ended", SignedIn.objects.all, lambda _: Q(expire_date__lt=clock.now())),
)  # fmt: skip


@dataclass(frozen=True)
class Standing:
    """How many rows of a kind there are, and how many of them have served."""

    key: str
    words: str
    rows: int
    served: int


def kept_days() -> int:
    """For how many days they are kept, as the centre has it set."""
    return Centre.objects.filter(pk=1).values_list("kept_days", flat=True).first() or 30


def _before() -> datetime:
    return clock.now() - timedelta(days=kept_days())


def standing() -> list[Standing]:
    """Every kind as it stands."""
    before = _before()
    return [Standing(p.key, p.words, p.rows().count(), p.rows().filter(p.served(before)).count()) for p in PASSING]


def database_mb() -> float:
    """The size of the database in MB, with what is still in its log."""
    file = database()
    parts = [file, file.with_name(file.name + "-wal")]
    return sum(part.stat().st_size for part in parts if part.is_file()) / 1e6


def prune() -> int:
    """Throw away what has served, some rows a transaction; return how many rows."""
    before, gone = _before(), 0
    for kind in PASSING:
        while True:
            some = list(kind.rows().filter(kind.served(before)).order_by("pk").values_list("pk", flat=True)[:AT_ONCE])
            if not some:
                break
            with writing():
                kind.rows().model.objects.filter(pk__in=some).delete()
            gone += len(some)
    return gone
