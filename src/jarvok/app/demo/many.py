"""Many new rows at once, for filling a centre."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import DEFAULT_DB_ALIAS, connections
from django.db.models import Model
from django.db.models.sql import InsertQuery
from django.db.transaction import mark_for_rollback_on_error


def insert_many(rows: Sequence[Model]) -> None:
    """Store new rows of one kind by the thousand, in the transaction that is open.

    The statement is put together for one of them. Nobody is told of it, and they do not learn their numbers.
    """
    if not rows:
        return
    here, kind = connections[DEFAULT_DB_ALIAS], type(rows[0])
    fields = [f for f in kind._meta.concrete_fields if not f.primary_key]
    query = InsertQuery(kind)
    query.insert_values(fields, [rows[0]])
    ((sql, _),) = query.get_compiler(DEFAULT_DB_ALIAS).as_sql()
    with mark_for_rollback_on_error(DEFAULT_DB_ALIAS), here.cursor() as cursor:
        cursor.executemany(sql, [[f.get_db_prep_save(f.pre_save(row, True), here) for f in fields] for row in rows])
