"""A transaction that writes: one after the other, so that what was checked still holds when it is written."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import ParamSpec, TypeVar

from django.db import connection, transaction

P = ParamSpec("P")
R = TypeVar("R")
WRITERS = 20_461  # [T] the lock's number in the database
WAIT = "3s"  # [T] as long as SQLite waits; a floor write tries three times


def given_back(read: Callable[P, R]) -> Callable[P, R]:
    """What a page that stays open reads now and then: its connection to PostgreSQL is lent to others in between."""

    @wraps(read)
    def reading(*args: P.args, **named: P.kwargs) -> R:
        try:
            return read(*args, **named)
        finally:
            if connection.vendor == "postgresql" and not connection.in_atomic_block:
                connection.close()

    return reading


@contextmanager
def as_it_stands() -> Iterator[None]:
    """Read for as long as it takes what stood at one moment, while others write."""
    is_first = not connection.in_atomic_block
    with transaction.atomic():
        if is_first and connection.vendor == "postgresql":
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
        yield


@contextmanager
def writing() -> Iterator[None]:
    """Write in a transaction. SQLite lets one writer in at a time by itself; in PostgreSQL they wait for one another here.

    Raises `OperationalError` where others write for longer than is waited; the same may go through a moment later.
    """
    with transaction.atomic():
        if connection.vendor == "postgresql":
            with connection.cursor() as cursor:
                cursor.execute(f"SET LOCAL lock_timeout = '{WAIT}'")
                cursor.execute("SELECT pg_advisory_xact_lock(%s)", [WRITERS])
        yield
