"""Queries that nearly every request asks, put together once: to put one together takes longer than to answer it.

What a query is asked with stands in it as places: negative whole numbers for the ids, and values of their own kind for the
others. No fixed value in it may therefore be below nought, nor be one of those.
"""

from __future__ import annotations

import copy
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Generic, TypeVar, cast

from django.db import DEFAULT_DB_ALIAS, connections
from django.db.models import Model, QuerySet
from django.db.models.query import ModelIterable
from django.db.models.signals import post_save, pre_save
from django.db.models.sql import InsertQuery, UpdateQuery
from django.db.transaction import mark_for_rollback_on_error

from jarvok.app.facts.fact import Fact

M = TypeVar("M", bound=Model)
P = TypeVar("P")
Value = str | date
Row = tuple[Any, ...]
_PREFETCHED = "_prefetched_objects_cache"  # where the framework looks for what was read along
MOST = 64  # [T] counts kept of each query
STEPS = 2  # [T] counts between one and its double, as a power of two: 1, 2, 3, 4, 6, 8, 12, 16, 24 …


def _place(n: int, value: Value) -> Value:
    """What stands in a query for a value: no text that a database stores, no day that anybody writes."""
    return f"\x00{n}" if isinstance(value, str) else date(9000 + n, 1, 1)


@dataclass(frozen=True)
class _Text:
    """A query as text, with its values; where they stand for others, the number of those. `compiler` makes rows of its answer."""

    sql: str
    values: tuple[Any, ...]
    at: tuple[int | None, ...]  # of each value: which of those handed in, or none
    compiler: Any

    def asked(self, given: Sequence[Any]) -> list[Any]:
        """Its values with those handed in."""
        return [v if n is None else given[n] for v, n in zip(self.values, self.at, strict=True)]


def padded(asked: Sequence[P]) -> list[P]:
    """What is asked for, the last again up to one of a few counts: else each count is put together the first time it comes."""
    count = len(asked)
    step = max(1, 1 << max(0, count.bit_length() - STEPS))
    return [*asked, *[asked[-1]] * (-count % step)] if asked else []


class _Known:
    """What was put together, for each engine and count of ids and values."""

    def __init__(self, make: Callable[..., Any]) -> None:
        self._make = make
        self._texts: dict[tuple[str, int, int], _Text] = {}

    def __len__(self) -> int:
        return len(self._texts)

    def of(self, ids: Sequence[int], values: Sequence[Value]) -> _Text:
        here = connections[DEFAULT_DB_ALIAS]
        key = (here.vendor, len(ids), len(values))
        found = self._texts.get(key)
        if found is None:
            if len(self._texts) >= MOST:
                self._texts.clear()
            found = self._texts[key] = self._put_together(here, ids, values)
        return found

    def _put_together(self, here: Any, ids: Sequence[int], values: Sequence[Value]) -> _Text:
        places = [_place(n, value) for n, value in enumerate(values)]
        compiler = self._make([-1 - n for n in range(len(ids))], *places)
        sql, params = compiler.as_sql()
        stands = {v: len(ids) + n for n, v in enumerate(adapted(here, places))}
        compiler.connection = None  # it is kept for every thread, each of which has its own
        return _Text(sql, tuple(params), tuple(_stands_for(p, stands) for p in params), compiler)


def _stands_for(param: Any, stands: Mapping[Value, int]) -> int | None:
    """Which of what is handed in a value of a query stands for; None where it stands for itself."""
    if isinstance(param, int | float):
        return int(-1 - param) if param < 0 else None
    return stands.get(param) if isinstance(param, Value) else None


def adapted(here: Any, values: Iterable[Value]) -> list[Any]:
    """Values as the engine takes them."""
    return [here.ops.adapt_datefield_value(v) if isinstance(v, date) else v for v in values]


def _asked(known: _Known, ids: Sequence[int], values: Sequence[Value]) -> tuple[Any, list[Row]]:
    """A compiler of the thread's own, and what the database answers."""
    ids = padded(ids)
    text, here = known.of(ids, values), connections[DEFAULT_DB_ALIAS]
    with here.cursor() as cursor:
        cursor.execute(text.sql, text.asked([*ids, *adapted(here, values)]))
        rows = cursor.fetchall()
    own = copy.copy(text.compiler)
    own.connection = here
    return own, rows


class PutTogether:
    """A query of columns. `make` gives it for the ids and values it is handed."""

    def __init__(self, make: Callable[..., QuerySet[Any, Any]]) -> None:
        self._known = _Known(lambda *asked: make(*asked).query.get_compiler(DEFAULT_DB_ALIAS))

    def rows(self, ids: Sequence[int], *values: Value) -> list[Row]:
        """What it says of these ids, as many as there are; of none, nothing."""
        if not ids:
            return []
        compiler, rows = _asked(self._known, ids, values)
        return list(compiler.results_iter([rows], tuple_expected=True))


class Objects(Generic[M]):
    """A query of whole objects, with those it reads along. `make` gives it for the ids and values it is handed."""

    def __init__(self, make: Callable[..., QuerySet[M]]) -> None:
        self._known = _Known(lambda *asked: make(*asked).query.get_compiler(DEFAULT_DB_ALIAS))

    def of(self, ids: Sequence[int], *values: Value) -> list[M]:
        """Those of these ids as they stand now, in the order of their query; of none, nothing."""
        return self._read(ids, values) if ids else []

    def all(self, *values: Value) -> list[M]:
        """All there are, of a query that takes no ids."""
        return self._read((), values)

    def _read(self, ids: Sequence[int], values: Sequence[Value]) -> list[M]:
        return list(ModelIterable(_Answered(*_asked(self._known, ids, values))))  # type: ignore[arg-type]


class _Answered:
    """A query that has been asked already, as whoever makes objects of rows wants to see it: put together, and with its rows."""

    db = DEFAULT_DB_ALIAS
    _known_related_objects: Mapping[Any, Any] = {}

    def __init__(self, compiler: Any, rows: list[Row]) -> None:
        self.query = self
        self._compiler, self._rows = compiler, rows
        self.select, self.klass_info, self.annotation_col_map = compiler.select, compiler.klass_info, compiler.annotation_col_map

    def get_compiler(self, using: str) -> _Answered:
        return self

    def execute_sql(self, chunked_fetch: bool = False, chunk_size: int = 0) -> Iterable[list[Row]]:
        return [self._rows]

    def results_iter(self, results: Iterable[list[Row]]) -> Iterator[Row]:
        rows: Iterator[Row] = self._compiler.results_iter(results)
        return rows


class ChangeTogether:
    """A change of some rows by numbers: `make` gives which they are, and what becomes of them, for the numbers it is handed."""

    def __init__(self, make: Callable[[Sequence[int]], tuple[QuerySet[Any], Mapping[str, Any]]]) -> None:
        def compiler(numbers: list[int]) -> Any:
            rows, values = make(numbers)
            query: Any = rows.query.chain(UpdateQuery)
            query.add_update_values(dict(values))
            return query.get_compiler(DEFAULT_DB_ALIAS)

        self._known = _Known(compiler)

    def change(self, numbers: Sequence[int]) -> None:
        """Change them, inside the transaction that is open; none where no number is given."""
        if numbers:
            numbers = padded(numbers)
            text = self._known.of(numbers, ())
            with mark_for_rollback_on_error(DEFAULT_DB_ALIAS), connections[DEFAULT_DB_ALIAS].cursor() as cursor:
                cursor.execute(text.sql, text.asked(numbers))


class StoreTogether(Generic[M]):
    """New rows of one kind, one at a time: in place of `objects.create`."""

    def __init__(self, model: type[M]) -> None:
        self._fields = [f for f in model._meta.concrete_fields if f is not model._meta.auto_field]
        self._model, self._statements = model, dict[str, str]()

    def store(self, **values: Any) -> M:
        """Store a row with these values, inside the transaction that is open, under the act that is going on; returns it."""
        row = self._model(**values)
        if isinstance(row, Fact):
            row.name_the_act()
        about: dict[str, Any] = {"sender": self._model, "instance": row, "raw": False, "using": DEFAULT_DB_ALIAS}
        pre_save.send(**about, update_fields=None)
        here = connections[DEFAULT_DB_ALIAS]
        statement = self._statements.get(here.vendor) or self._put_together(here, row)
        given = [f.get_db_prep_save(f.pre_save(row, True), here) for f in self._fields]
        with mark_for_rollback_on_error(DEFAULT_DB_ALIAS), here.cursor() as cursor:
            cursor.execute(statement, given)
            (row.pk,) = cursor.fetchone()
        row._state.adding, row._state.db = False, DEFAULT_DB_ALIAS
        post_save.send(**about, created=True, update_fields=None)
        return row

    def _put_together(self, here: Any, row: M) -> str:
        query = InsertQuery(self._model)
        query.insert_values(self._fields, [row])
        compiler: Any = query.get_compiler(DEFAULT_DB_ALIAS)
        compiler.returning_fields = [self._model._meta.pk]
        ((statement, _),) = compiler.as_sql()
        self._statements[here.vendor] = statement
        return cast(str, statement)


class Part:
    """What hangs on some objects by a key of its own: read along with them as `prefetch_related` does.

    `rows` narrows or widens the query of it, `attr` keeps a plain list under that name, `parts` hang on it in turn. Where it
    is left out, nothing is asked and none is there.
    """

    def __init__(
        self, model: type[Model], name: str, rows: Callable[[QuerySet[Any]], QuerySet[Any]] = lambda rows: rows, *,
        attr: str = "", parts: Sequence[Part] = (), is_left_out: bool = False,
    ) -> None:  # fmt: skip
        self._name, self._attr, self._parts, self._is_left_out = name, attr, parts, is_left_out
        self._rel = cast(Any, model._meta.get_field(name))
        self._key: Any = self._rel.field
        of: Any = self._key.model._default_manager
        self._ready: Objects[Any] = Objects(lambda ids: rows(of.filter(**{f"{self._key.name}__in": ids})))

    def read(self, objects: Sequence[Any]) -> None:
        """Read it of those of these objects of which it was not read yet, in one query and those of its own parts."""
        without = [o for o in objects if not self._is_read(o)]
        by_pk = {o.pk: o for o in without}
        if not by_pk:
            return
        found, hung = [] if self._is_left_out else self._ready.of(list(by_pk)), defaultdict[Any, list[Any]](list)
        for row in found:
            pk = getattr(row, self._key.attname)
            self._key.set_cached_value(row, by_pk[pk])
            hung[pk].append(row)
        for o in without:
            self._hang(o, list(hung[o.pk]))
        for part in self._parts:
            part.read(found)

    def _is_read(self, o: Any) -> bool:
        if self._attr:
            return self._attr in o.__dict__
        return bool(self._rel.is_cached(o)) if self._rel.one_to_one else self._name in getattr(o, _PREFETCHED, {})

    def _hang(self, o: Any, found: list[Any]) -> None:
        if self._attr:
            setattr(o, self._attr, found)
        elif self._rel.one_to_one:
            self._rel.set_cached_value(o, next(iter(found), None))
        else:
            rows = getattr(o, self._name).get_queryset()
            rows._result_cache, rows._prefetch_done = found, True
            o.__dict__.setdefault(_PREFETCHED, {})[self._name] = rows
