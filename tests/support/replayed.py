"""What many tests begin with is made once by the interface; afterwards its rows are written again as they were."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterable, Sequence
from datetime import UTC, datetime
from functools import lru_cache
from typing import Any, NamedTuple

from django.apps import apps
from django.conf import settings
from django.core.management.color import no_style
from django.db import connection, transaction

Rows = dict[str, list[tuple[Any, ...]]]

# who is signed in is another each time, and is no part of what was made; the others are the same for all tests
OTHERS = frozenset(
    {"auth_user", "django_session", "people_signedin", "django_migrations", "django_content_type", "auth_permission"}
)


class Made(NamedTuple):
    columns: dict[str, list[str]]
    rows: Rows
    answer: str


BEGAN = datetime.now(UTC)
_made: dict[tuple[str, str], Made] = {}


@lru_cache(maxsize=1)
def _tables() -> tuple[str, ...]:
    return tuple(t for t in connection.introspection.table_names() if t not in OTHERS)


@lru_cache(maxsize=1)
def _numbering() -> dict[str, str]:
    """By the name of a table's sequence: how its next number becomes the one after the highest there, if not by itself."""
    return {
        f"{model._meta.db_table}_{model._meta.pk.column}_seq": statement
        for model in apps.get_models(include_auto_created=True)
        if model._meta.pk is not None
        for statement in connection.ops.sequence_reset_sql(no_style(), [model])
    }


def number_rows_anew(written: Iterable[str] = ()) -> None:
    """New rows get the numbers after those that are there, whatever earlier tests wrote and took back.

    Of tables whose numbers were asked for, and of those `written` with numbers.
    """
    if not _numbering():  # SQLite
        return
    with connection.cursor() as cursor:
        cursor.execute("SELECT sequencename FROM pg_sequences WHERE last_value IS NOT NULL")
        names = {name for (name,) in cursor.fetchall()} | {f"{table}_id_seq" for table in written}
        if known := names & _numbering().keys():
            cursor.execute("".join(_numbering()[name] for name in known))


def _rows(tables: Iterable[str], columns: dict[str, list[str]] | None = None) -> Rows:
    found: Rows = {}
    with connection.cursor() as cursor:
        for table in tables:
            cursor.execute(f'SELECT * FROM "{table}" ORDER BY 1')
            if rows := cursor.fetchall():
                found[table] = rows
                if columns is not None:
                    columns[table] = [c[0] for c in cursor.description]
    return found


def _without_now(rows: Rows) -> Rows:
    """The rows without the moment at which a test wrote them."""

    def said(value: Any) -> Any:
        return "now" if isinstance(value, datetime) and value.replace(tzinfo=UTC) >= BEGAN else value

    return {table: [tuple(said(v) for v in row) for row in found] for table, found in rows.items()}


def replayed(name: str, make: Callable[[], Any], of_tables: Sequence[str] = ()) -> Any:
    """Return what `make` answers, and leave the rows it writes; the second time from the same facts without asking it.

    Facts are all that is in the tables, or in `of_tables` where it reads and writes nothing else.
    """
    tables = of_tables or _tables()
    before = _rows(tables)
    of = hashlib.sha256(repr((settings.TODAY, _without_now(before))).encode()).hexdigest()
    made = _made.get((name, of))
    if made is None:
        answer = make()
        columns: dict[str, list[str]] = {}
        after = _rows(tables, columns)
        written = {t: new for t, rows in after.items() if (new := [r for r in rows if r not in before.get(t, ())])}
        gone = [t for t, rows in before.items() if {r[0] for r in rows} - {r[0] for r in after.get(t, ())}]
        if not gone:
            _made[name, of] = Made(columns, written, json.dumps(answer))
        return answer
    with transaction.atomic(), connection.cursor() as cursor:  # they name each other: looked at together
        for table, rows in made.rows.items():
            number, *others = made.columns[table]
            places = ", ".join(["%s"] * len(rows[0]))
            over = ", ".join(f'"{c}" = excluded."{c}"' for c in others)
            cursor.executemany(f'INSERT INTO "{table}" VALUES ({places}) ON CONFLICT ("{number}") DO UPDATE SET {over}', rows)
    number_rows_anew(made.rows)
    return json.loads(made.answer)
