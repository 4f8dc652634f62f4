"""Queries that nearly every request asks, put together once: to put one together takes longer than to answer it."""

from __future__ import annotations

import copy
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any, Generic, TypeVar

from django.db import DEFAULT_DB_ALIAS, connection, connections
from django.db.models import Model, QuerySet
from django.db.models.query import ModelIterable
from django.db.models.sql import UpdateQuery
from django.db.transaction import mark_for_rollback_on_error

M = TypeVar("M", bound=Model)
Asked = tuple[str, tuple[Any, ...]]
MOST = 64  # [T] counts kept: a centre asks about one, about each squad, and about all


class _ByCount:
    """What was put together for each count of numbers; negative ones stand for those that are handed in."""

    def __init__(self) -> None:
        self._known: dict[tuple[str, int], Asked] = {}

    def __len__(self) -> int:
        return len(self._known)

    def of(self, numbers: Sequence[int], make: Callable[[list[int]], Asked]) -> Asked:
        """The text of a question about these numbers, with its values in their places."""
        key = (connection.vendor, len(numbers))
        found = self._known.get(key)
        if found is None:
            if len(self._known) >= MOST:
                self._known.clear()
            sql, params = make([-1 - n for n in range(len(numbers))])
            found = self._known[key] = (sql, tuple(params))
        return found[0], tuple(numbers[-1 - int(p)] if isinstance(p, int | float) and p < 0 else p for p in found[1])


class PutTogether:
    """A query of whole numbers about some rows.

    `make` gives the query for the ids it is handed, whose columns the database gives back as they are; negative numbers stand
    for the ids in it, so that no other value in it may be below nought.
    """

    def __init__(self, make: Callable[[Sequence[int]], QuerySet[Any, Any]]) -> None:
        self._make = make
        self._known = _ByCount()

    def rows(self, ids: Sequence[int]) -> list[tuple[Any, ...]]:
        """What it says of these ids, as many as there are."""
        if not ids:
            return []
        with connection.cursor() as cursor:
            cursor.execute(*self._known.of(ids, lambda places: self._make(places).query.sql_with_params()))
            return [tuple(row) for row in cursor.fetchall()]


class ChangeTogether:
    """A change of some rows by numbers: `make` gives which they are, and what becomes of them, for the numbers it is handed.

    Negative numbers stand for those in it, as in `PutTogether`.
    """

    def __init__(self, make: Callable[[Sequence[int]], tuple[QuerySet[Any], Mapping[str, Any]]]) -> None:
        self._make = make
        self._known = _ByCount()

    def change(self, numbers: Sequence[int]) -> None:
        """Change them, inside the transaction that is open; none where no number is given."""
        if numbers:
            with mark_for_rollback_on_error(DEFAULT_DB_ALIAS), connection.cursor() as cursor:
                cursor.execute(*self._known.of(numbers, self._put))

    def _put(self, places: list[int]) -> Asked:
        rows, values = self._make(places)
        query: Any = rows.query.chain(UpdateQuery)
        query.add_update_values(dict(values))
        sql, params = query.get_compiler(DEFAULT_DB_ALIAS).as_sql()
        return sql, tuple(params)


class Objects(Generic[M]):
    """A query for whole objects, with those it reads along, by one text or by none.

    `make` gives the query for the text it is handed; all other values in it are fixed.
    """

    _PLACE = "\x00"  # [T] no text that a database stores

    def __init__(self, make: Callable[[str], QuerySet[M]]) -> None:
        self._make = make
        self._known: dict[str, tuple[Any, str, tuple[Any, ...]]] = {}

    def of(self, text: str = "") -> list[M]:
        """The objects as they stand now, in the order of their query."""
        here = connections[DEFAULT_DB_ALIAS]
        if here.vendor not in self._known:
            compiler = self._make(self._PLACE).query.get_compiler(DEFAULT_DB_ALIAS)
            sql, params = compiler.as_sql()
            compiler.connection = None  # it is kept for every thread, each of which has its own
            self._known[here.vendor] = (compiler, sql, tuple(params))
        compiler, sql, params = self._known[here.vendor]
        with here.cursor() as cursor:
            cursor.execute(sql, [text if p == self._PLACE else p for p in params])
            rows = cursor.fetchall()
        own = copy.copy(compiler)
        own.connection = here
        return list(ModelIterable(_Answered(own, rows)))  # type: ignore[arg-type]


class _Answered:
    """A query that has been asked already, as whoever makes objects of rows wants to see it: put together, and with its rows."""

    db = DEFAULT_DB_ALIAS
    _known_related_objects: Mapping[Any, Any] = {}

    def __init__(self, compiler: Any, rows: list[tuple[Any, ...]]) -> None:
        self.query = self
        self._compiler, self._rows = compiler, rows
        self.select, self.klass_info, self.annotation_col_map = compiler.select, compiler.klass_info, compiler.annotation_col_map

    def get_compiler(self, using: str) -> _Answered:
        return self

    def execute_sql(self, chunked_fetch: bool = False, chunk_size: int = 0) -> Iterable[list[tuple[Any, ...]]]:
        return [self._rows]

    def results_iter(self, results: Iterable[list[tuple[Any, ...]]]) -> Iterator[tuple[Any, ...]]:
        rows: Iterator[tuple[Any, ...]] = self._compiler.results_iter(results)
        return rows
