"""The tables of a new centre, made at once, are those its migrations lead to."""

from __future__ import annotations

import hashlib
import os
import shutil
import sqlite3
import subprocess
import sys
from contextlib import closing
from importlib.metadata import version
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.core.management import call_command
from django.db import connections
from django.db.migrations.recorder import MigrationRecorder
from support.demo_file import ROOT

STEPS = ROOT / ".build" / "tables"  # what the migrations lead to, by what they say: they take ten seconds
ONE_BY_ONE = """
import os, django
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jarvok.app.settings")
django.setup()
from django.core.management import call_command
from django.core.management.commands import migrate
call_command(migrate.Command(), verbosity=0, interactive=False)
"""


def migrated_one_by_one() -> Path:
    """A file that went through every migration, made once for the migrations as they are."""
    said = hashlib.sha256(version("django").encode())
    for step in sorted((ROOT / "src").glob("**/migrations/*.py")):
        said.update(step.read_bytes())
    STEPS.mkdir(parents=True, exist_ok=True)
    kept = STEPS / f"{said.hexdigest()[:16]}.sqlite3"
    if not kept.exists():
        made = STEPS / f"{os.getpid()}.sqlite3"  # a process of its own: some old migrations ask the default database
        subprocess.run(
            [sys.executable, "-c", ONE_BY_ONE],
            env={k: v for k, v in os.environ.items() if k != "JARVOK_DATABASE_URL"}
            | {"JARVOK_DB": str(made), "PYTHONPATH": "src"},
            cwd=ROOT,
            check=True,
        )
        with closing(sqlite3.connect(made)) as whole:
            whole.execute("PRAGMA journal_mode = DELETE")  # all of it in one file
        made.replace(kept)
    return kept


def tables_of(alias: str) -> dict[str, Any]:
    """Columns, keys, indexes and checks of every table, whatever their order and the names of the indexes."""
    connection = connections[alias]
    found: dict[str, Any] = {}
    with connection.cursor() as cursor:
        for table in connection.introspection.table_names(cursor):
            columns = {
                c.name: (c.type_code, c.null_ok, c.default, c.pk, c.display_size)
                for c in connection.introspection.get_table_description(cursor, table)
            }
            rules = sorted(
                repr((sorted(r["columns"]), r["primary_key"], r["unique"], r["foreign_key"], r["check"], r["index"]))
                for r in connection.introspection.get_constraints(cursor, table).values()
            )
            found[table] = (columns, rules)
    return found


@pytest.fixture
def two(tmp_path: Path, django_db_blocker) -> Any:
    with django_db_blocker.unblock():
        for alias in ("at_once", "one_by_one"):
            connections.databases[alias] = connections.databases["default"] | {  # files, whatever the tests stand on
                "ENGINE": settings.SQLITE["ENGINE"],
                "OPTIONS": settings.SQLITE["OPTIONS"],
                "NAME": str(tmp_path / f"{alias}.sqlite3"),
                "ATOMIC_REQUESTS": False,
            }
        yield
        for alias in ("at_once", "one_by_one"):
            connections[alias].close()
            del connections[alias]
            del connections.databases[alias]


def test_a_new_centre_has_the_tables_its_migrations_lead_to(two: Any) -> None:
    call_command("migrate", database="at_once", verbosity=0, interactive=False)
    shutil.copy(migrated_one_by_one(), connections.databases["one_by_one"]["NAME"])
    here, there = tables_of("at_once"), tables_of("one_by_one")
    assert len(here) > 60
    assert here.keys() == there.keys()
    for table in here:
        assert here[table] == there[table], table
    at_once, one_by_one = (MigrationRecorder(connections[a]).applied_migrations().keys() for a in ("at_once", "one_by_one"))
    assert at_once == one_by_one
    with connections["at_once"].cursor() as cursor:
        assert connections["at_once"].introspection.get_sequences(cursor, "athletes_athlete")


def test_a_database_with_rows_goes_through_its_migrations(two: Any) -> None:
    with connections["at_once"].cursor() as cursor:
        cursor.execute("CREATE TABLE something (id integer)")
    call_command("migrate", "contenttypes", "0001", database="at_once", verbosity=0, interactive=False)
    assert len(MigrationRecorder(connections["at_once"]).applied_migrations()) == 1
