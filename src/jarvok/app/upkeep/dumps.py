"""Copies of a PostgreSQL database, by its own tools: made while it is in use, looked through, and put back as one."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Iterator
from pathlib import Path

from django.db import connection

from jarvok.core.errors import CoachError

SUFFIX = ".pgdump"


def is_wanted() -> bool:
    """Whether the centre stands in PostgreSQL."""
    return connection.vendor == "postgresql"


def _tool(name: str) -> str:
    found = shutil.which(name)
    if found is None:
        raise CoachError(
            f"A copy of a PostgreSQL centre needs its own {name}, which is not on this machine.",
            accepted="PostgreSQL's client tools beside the server.",
        )
    return found


def _run(name: str, *words: str) -> str:
    """Run one of PostgreSQL's tools on the centre's database. Raises `CoachError` with what it says where it fails."""
    said = connection.settings_dict
    where = {
        "PGHOST": said["HOST"], "PGPORT": str(said["PORT"] or ""), "PGUSER": said["USER"], "PGPASSWORD": said["PASSWORD"],
        "PGDATABASE": str(said["NAME"]),
    }  # fmt: skip
    environment = {**os.environ, **{k: v for k, v in where.items() if v}}
    done = subprocess.run([_tool(name), *words], env=environment, capture_output=True, text=True, check=False)
    if done.returncode:
        raise CoachError(f"{name}: {done.stderr.strip().splitlines()[-1] if done.stderr.strip() else 'it did not work'}.")
    return done.stdout


def dump(target: Path) -> None:
    """Write the whole database into a file. Raises `CoachError` where that does not work."""
    target.touch(mode=0o600)
    _run("pg_dump", "--format=custom", "--no-owner", f"--file={target}")


def put_back(source: Path) -> None:
    """Put what a file holds in the place of what there is: all of it or nothing. Raises `CoachError` where it does not work."""
    name = str(connection.settings_dict["NAME"])
    connection.close()
    _run(
        "pg_restore", "--clean", "--if-exists", "--no-owner", "--single-transaction", "--exit-on-error", f"--dbname={name}",
        str(source),
    )  # fmt: skip


def rows_of(source: Path, table: str) -> Iterator[dict[str, str]]:
    """The rows of a table of a file, each by the names of its columns. Raises `CoachError` for a file that is no dump."""
    columns: list[str] | None = None
    for line in _run("pg_restore", "--data-only", f"--table={table}", "--file=-", str(source)).splitlines():
        if columns is None:
            if line.startswith("COPY "):
                columns = [c.strip(' "') for c in line[line.index("(") + 1 : line.rindex(")")].split(",")]
        elif line == "\\.":
            return
        else:
            yield dict(zip(columns, line.split("\t"), strict=True))
