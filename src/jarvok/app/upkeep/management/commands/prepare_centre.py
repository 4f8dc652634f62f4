"""Make a centre's own database ready to be served: a copy before anything in it is changed, put back where that fails."""

from __future__ import annotations

import sqlite3
import sys
from argparse import ArgumentParser
from contextlib import closing
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connection

from jarvok.app import clock
from jarvok.app.upkeep import dumps
from jarvok.app.upkeep.up_to_date import is_up_to_date


def copied(database: Path, folder: Path) -> Path:
    """Copy a database that may be in use, with what is still in its log; returns where to."""
    folder.mkdir(parents=True, exist_ok=True)
    target = folder / f"jarvok-{clock.now():%Y%m%d-%H%M%S}-before-upgrade{dumps.SUFFIX if dumps.is_wanted() else '.sqlite3'}"
    if dumps.is_wanted():
        dumps.dump(target)
        return target
    with closing(sqlite3.connect(database)) as source, closing(sqlite3.connect(target)) as copy:
        source.backup(copy)
    target.chmod(0o600)
    return target


def put_back(copy: Path, database: Path) -> None:
    """Put a copy in the place of a database that nobody uses."""
    connection.close()
    if dumps.is_wanted():
        dumps.put_back(copy)
        return
    for name in ("-wal", "-shm"):
        database.with_name(database.name + name).unlink(missing_ok=True)
    with closing(sqlite3.connect(copy)) as source, closing(sqlite3.connect(database)) as target:
        source.backup(target)


class Command(BaseCommand):
    help = "Bring the centre's database to this version; what it was before is kept beside it."
    requires_system_checks: list[str] = []  # they read every page's code, which the server does once more a second later

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--quiet", action="store_true")

    def handle(self, *args: Any, quiet: bool = False, **options: Any) -> None:
        database = Path(str(settings.DATABASES["default"]["NAME"]))
        if dumps.is_wanted():
            is_new = not connection.introspection.table_names()
        else:
            is_new = not database.exists() or database.stat().st_size == 0
        if is_up_to_date():
            return
        copy = None if is_new else copied(database, Path(settings.VAR) / "backups")
        try:
            call_command("migrate", verbosity=0, interactive=False)
        except Exception as error:
            if copy is None:
                raise
            put_back(copy, database)
            self.stderr.write(f"The upgrade did not work ({error}). The centre is as it was; its copy is {copy}.")
            sys.exit(1)
        if not quiet and copy is not None:
            self.stdout.write(f"Upgraded. What it was before: {copy}")
