"""Queries that nearly every request asks, put together once: to put one together takes longer than to answer it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from django.db import connection
from django.db.models import QuerySet


class PutTogether:
    """A query of whole numbers about some rows, put together once for each count of them.

    `make` gives the query for the ids it is handed, whose columns the database gives back as they are; negative numbers stand
    for the ids in it, so that no other value in it may be below nought.
    """

    MOST = 64  # [T] counts kept: a centre asks about one, about each squad, and about all

    def __init__(self, make: Callable[[Sequence[int]], QuerySet[Any, Any]]) -> None:
        self._make = make
        self._known: dict[tuple[str, int], tuple[str, tuple[Any, ...]]] = {}

    def rows(self, ids: Sequence[int]) -> list[tuple[Any, ...]]:
        """What it says of these ids, as many as there are."""
        if not ids:
            return []
        sql, params = self._of(len(ids))
        with connection.cursor() as cursor:
            cursor.execute(sql, [ids[-1 - p] if isinstance(p, int) and p < 0 else p for p in params])
            return [tuple(row) for row in cursor.fetchall()]

    def _of(self, count: int) -> tuple[str, tuple[Any, ...]]:
        key = (connection.vendor, count)
        found = self._known.get(key)
        if found is None:
            if len(self._known) >= self.MOST:
                self._known.clear()
            sql, params = self._make([-1 - n for n in range(count)]).query.sql_with_params()
            found = self._known[key] = (sql, tuple(params))
        return found
