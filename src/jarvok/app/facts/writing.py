"""A transaction that writes, alone with what it checks, so that what was checked still holds when it is written.

SQLite lets one writer in at a time by itself. In PostgreSQL a write about one athlete alone (a set, a repetition) waits for
others about the same athlete and for those that may touch anybody; every other write waits for all. What one athlete has is
therefore numbered in the order in which it went through; rows of different athletes are not.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import wraps
from typing import Any, ParamSpec, TypeVar

from django.db import connection, transaction

P = ParamSpec("P")
R = TypeVar("R")
WRITERS = 20_461  # [T] the number of everybody's lock in the database
ONE_ATHLETE = 20_462  # [T] of an athlete's, with the athlete's own number
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
def _begun_as_a_reader() -> Iterator[None]:
    """Transactions of SQLite begin as a writer's, so that they wait for one another: one that only reads must keep nobody out."""
    if connection.vendor != "sqlite":
        yield
        return
    connection.ensure_connection()
    own: Any = connection  # only the wrapper of SQLite has a mode
    mode = own.transaction_mode
    own.transaction_mode = None
    try:
        yield
    finally:
        own.transaction_mode = mode


@contextmanager
def as_it_stands() -> Iterator[None]:
    """Read for as long as it takes what stood at one moment, while others write."""
    is_first = not connection.in_atomic_block
    with _begun_as_a_reader(), transaction.atomic():
        if is_first and connection.vendor == "postgresql":
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
        yield


# of which athletes the transaction that is open writes alone; None in it: of anybody
_alone: ContextVar[frozenset[int | None]] = ContextVar("written_alone", default=frozenset())


def is_writing(of: int | None) -> bool:
    """Whether a transaction is open that writes about an athlete (`of`), or about anybody."""
    held = _alone.get()
    return None in held or of in held or (bool(held) and of is None)


@contextmanager
def writing(of: int | None = None) -> Iterator[None]:
    """Write in a transaction: about one athlete alone (`of`, their number), or about anything.

    A write inside another belongs to it and waits for nobody but a further athlete: what begins with one athlete stays there.
    Raises `OperationalError` where others write for longer than is waited; the same may go through a moment later.
    """
    held, belongs = _alone.get(), is_writing(of)
    with transaction.atomic():
        if connection.vendor == "postgresql" and not belongs:
            _wait_for_turn(of, is_first=not held)
        token = _alone.set(held if belongs else held | {of})
        try:
            yield
        finally:
            _alone.reset(token)


def _wait_for_turn(of: int | None, *, is_first: bool) -> None:
    """In one question, answered from left to right: how long is waited, and the locks in their order."""
    locks, numbers = ["pg_advisory_xact_lock(%s)"], [WRITERS]
    if of is not None:
        locks, numbers = ["pg_advisory_xact_lock(%s, %s)"], [ONE_ATHLETE, of]
        if is_first:
            locks, numbers = ["pg_advisory_xact_lock_shared(%s)", *locks], [WRITERS, *numbers]
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT set_config('lock_timeout', %s, true), {', '.join(locks)}", [WAIT, *numbers])


def look_over_tables() -> None:
    """Once a whole centre was written: PostgreSQL counts its tables now, by which it finds the quick way to an answer.

    By itself it does so a minute or two later, and meanwhile may read a million rows for a dozen.
    """
    if connection.vendor == "postgresql":
        with connection.cursor() as cursor:
            cursor.execute("ANALYZE")
