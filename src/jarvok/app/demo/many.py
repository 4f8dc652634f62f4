"""Many new rows at once, for filling a centre."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import repeat
from typing import Any

from django.db import DEFAULT_DB_ALIAS, connections
from django.db.models import Max, Model
from django.db.models.sql import InsertQuery
from django.db.transaction import mark_for_rollback_on_error


class Many:
    """Rows of one kind as the database takes them, column by column: to be stored as often as wanted, some columns changed.

    The statement is put together for the first of them. Nobody is told of what is stored, and the rows do not learn
    their numbers.
    """

    def __init__(self, rows: Sequence[Model]) -> None:
        self.many = len(rows)
        self.fields, self.columns = dict[str, Any](), dict[str, list[Any]]()
        if not rows:
            return
        kind = type(rows[0])
        self.fields = {f.attname: f for f in kind._meta.concrete_fields if not f.primary_key}
        query = InsertQuery(kind)
        query.insert_values(list(self.fields.values()), [rows[0]])
        ((self.statement, _),) = query.get_compiler(DEFAULT_DB_ALIAS).as_sql()
        self.columns = {n: self.prepared(n, [f.pre_save(row, True) for row in rows]) for n, f in self.fields.items()}

    def prepared(self, column: str, values: Sequence[Any]) -> list[Any]:
        """Values of a column, as the database takes them."""
        here = connections[DEFAULT_DB_ALIAS]
        return [self.fields[column].get_db_prep_save(value, here) for value in values]

    def store(self, **changed: Any) -> None:
        """Store all of them, in the transaction that is open.

        Args:
            changed: columns with other values than the rows have, as the database takes them: one for all, or a list.
        """
        if not self.many:
            return
        columns = self.columns | {n: v if isinstance(v, list) else list(repeat(v, self.many)) for n, v in changed.items()}
        if len(columns) > len(self.columns):
            raise ValueError(f"{set(changed) - set(self.columns)}: no such column")
        rows = list(zip(*columns.values(), strict=True))
        with mark_for_rollback_on_error(DEFAULT_DB_ALIAS), connections[DEFAULT_DB_ALIAS].cursor() as cursor:
            cursor.executemany(self.statement, rows)


def store_numbered(rows: Sequence[Model]) -> None:
    """Store rows of one kind that others hang on: they learn their numbers. Nobody else may be storing such rows meanwhile."""
    if not rows:
        return
    known = type(rows[0])._default_manager
    last = known.aggregate(newest=Max("pk"))["newest"] or 0
    Many(rows).store()
    for row, pk in zip(rows, known.filter(pk__gt=last).order_by("pk").values_list("pk", flat=True), strict=True):
        row.pk = pk
        row._state.adding, row._state.db = False, DEFAULT_DB_ALIAS
