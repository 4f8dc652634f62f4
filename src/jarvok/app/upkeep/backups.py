"""Copies of the whole centre: made while it is in use, looked through before one is put back, kept for as long as they serve."""

from __future__ import annotations

import os
import re
import sqlite3
from collections.abc import Sequence
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.utils import timezone

from jarvok.app import clock
from jarvok.app.facts.centre.models import Centre
from jarvok.app.upkeep import dumps
from jarvok.core.errors import CoachError

DAILY, BY_HAND, BEFORE_UPGRADE, BEFORE_RESTORE = "daily", "by-hand", "before-upgrade", "before-restore"
KIND_WORDS = {
    DAILY: "every day",
    BY_HAND: "by hand",
    BEFORE_UPGRADE: "before an upgrade",
    BEFORE_RESTORE: "before one was put back",
}
KEPT_DAYS, KEPT_WEEKS, KEPT_MONTHS = 7, 4, 12  # [C] of those made every day
_NAME = re.compile(r"^jarvok-(\d{8}-\d{6})-(daily|by-hand|before-upgrade|before-restore)\.(sqlite3|pgdump)$")
_STAMP = "%Y%m%d-%H%M%S"


@dataclass(frozen=True)
class Backup:
    """A copy in the folder: its file's name, when it was made (UTC), what for, and how large it is."""

    name: str
    at: datetime
    kind: str
    size_mb: float


@dataclass(frozen=True)
class Inside:
    """What a copy holds, as far as it was looked through; `problem` is why it cannot be put back, empty for a good one."""

    athletes: int
    sets: int
    newest: str
    problem: str = ""


def database() -> Path:
    """The file that the centre's data stand in."""
    return Path(str(connection.settings_dict["NAME"]))


def folder() -> Path:
    """Where copies are kept: the folder of the coach's choosing, else the one beside the data."""
    chosen = Centre.objects.filter(pk=1).values_list("backup_folder", flat=True).first()
    return Path(chosen) if chosen else Path(settings.VAR) / "backups"


def make(kind: str) -> Backup:
    """Copy the centre as it stands, with what is still in the database's log. Raises `CoachError` where there is no room.

    The copy is written under another name first: one that is there is whole.
    """
    into = folder()
    if not dumps.is_wanted() and not database().is_file():
        raise CoachError("The data stand in no file that could be copied.", accepted="A database in a file of its own.")
    try:
        into.mkdir(parents=True, exist_ok=True)
        suffix = dumps.SUFFIX if dumps.is_wanted() else ".sqlite3"
        target = into / f"jarvok-{clock.now().astimezone(timezone.get_fixed_timezone(0)):{_STAMP}}-{kind}{suffix}"
        unfinished = target.with_suffix(".part")
        if dumps.is_wanted():
            dumps.dump(unfinished)
        else:
            with closing(sqlite3.connect(database(), timeout=30)) as source, closing(sqlite3.connect(unfinished)) as copy:
                source.backup(copy)
        unfinished.chmod(0o600)
        unfinished.replace(target)
    except (OSError, sqlite3.Error) as error:
        raise CoachError(
            f"No copy could be made in {into}: {error}.", where="folder", accepted="A folder that can be written to, with room."
        ) from None
    return _backup(target)


def listing() -> list[Backup]:
    """The copies that are there, the newest first."""
    into = folder()
    found = [_backup(p) for p in into.iterdir() if _NAME.match(p.name)] if into.is_dir() else []
    return sorted(found, key=lambda b: b.at, reverse=True)


def path_of(name: str) -> Path:
    """The file of a copy. Raises `CoachError` for one that is not there."""
    path = folder() / name
    if not _NAME.match(name) or not path.is_file():
        raise CoachError("This copy is not there any more.", where="name", accepted="One of the list.")
    return path


def superfluous(backups: Sequence[Backup], now: datetime) -> list[Backup]:
    """Daily copies that have served: kept are the newest of each of seven days, four weeks and twelve months."""
    kept: set[str] = set()
    daily = sorted((b for b in backups if b.kind == DAILY), key=lambda b: b.at, reverse=True)
    for span, key, most in (
        (timedelta(days=KEPT_DAYS), "%Y-%m-%d", KEPT_DAYS),
        (timedelta(weeks=KEPT_WEEKS), "%G-%V", KEPT_WEEKS),
        (timedelta(days=366), "%Y-%m", KEPT_MONTHS),
    ):
        newest: dict[str, str] = {}
        for backup in daily:
            if now - backup.at < span:
                newest.setdefault(f"{backup.at:{key}}", backup.name)
        kept |= set(list(newest.values())[:most])
    return [b for b in daily if b.name not in kept]


def prune() -> int:
    """Delete the daily copies that have served; return how many."""
    gone = superfluous(listing(), clock.now())
    for backup in gone:
        (folder() / backup.name).unlink(missing_ok=True)
    return len(gone)


def look_into(path: Path) -> Inside:
    """Look a copy through: whether it is whole, of this application, and not from a newer version of it."""
    if (path.suffix == dumps.SUFFIX) is not dumps.is_wanted():
        other = "a PostgreSQL" if path.suffix == dumps.SUFFIX else "an SQLite"
        return Inside(0, 0, "", f"It is of {other} centre; the file of the whole centre moves between the two.")
    return _look_into_dump(path) if dumps.is_wanted() else _look_into_file(path)


def _look_into_dump(path: Path) -> Inside:
    try:
        applied = {(row["app"], row["name"]) for row in dumps.rows_of(path, "django_migrations")}
        athletes = sum(1 for _ in dumps.rows_of(path, "athletes_athlete"))
        sets = sum(1 for row in dumps.rows_of(path, "floor_setrecord") if row["taken_back_at"] == "\\N")
        newest = max((row["day"] for row in dumps.rows_of(path, "floor_trainingsession")), default="")
    except CoachError:
        return Inside(0, 0, "", "This file is no copy of a centre.")
    return Inside(athletes, sets, newest, _newer(applied))


def _look_into_file(path: Path) -> Inside:
    try:
        with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True)) as copy:
            whole = copy.execute("PRAGMA integrity_check").fetchone()[0]
            if whole != "ok":
                return Inside(0, 0, "", f"The file is damaged: {whole}.")
            applied = set(copy.execute("SELECT app, name FROM django_migrations").fetchall())
            athletes = copy.execute("SELECT COUNT(*) FROM athletes_athlete").fetchone()[0]
            sets = copy.execute("SELECT COUNT(*) FROM floor_setrecord WHERE taken_back_at IS NULL").fetchone()[0]
            newest = copy.execute("SELECT MAX(day) FROM floor_trainingsession").fetchone()[0] or ""
    except sqlite3.Error:
        return Inside(0, 0, "", "This file is no copy of a centre.")
    return Inside(athletes, sets, newest, _newer(applied))


def _newer(applied: set[tuple[str, str]]) -> str:
    """What is wrong with a copy whose tables know changes that this version does not; nothing where they know none."""
    known = MigrationLoader(connection).disk_migrations
    ours, replaced = {app for app, _ in known}, {key for m in known.values() for key in m.replaces}
    newer = {key for key in applied if key[0] in ours} - set(known) - replaced
    return "It is from a newer version. Upgrade first." if newer else ""


def put_in_place(copy: Path) -> None:
    """Let a database take the place of the centre's: all of it or nothing, while others may be reading."""
    connection.close()
    with closing(sqlite3.connect(copy)) as source, closing(sqlite3.connect(database(), timeout=30)) as target:
        source.backup(target)


def folder_that_works(typed: str) -> str:
    """A folder for copies, made where it was not there. Raises `CoachError` for one that cannot be written to."""
    if not typed.strip():
        return ""
    path = Path(typed.strip()).expanduser()
    if not path.is_absolute():
        raise CoachError(
            "The whole path of the folder is wanted.", where="folder", accepted="One that begins at the root, as /mnt/copies."
        )
    try:
        path.mkdir(parents=True, exist_ok=True)
        trial = path / ".jarvok"
        trial.write_bytes(os.urandom(8))
        trial.unlink()
    except OSError as error:
        raise CoachError(
            f"Nothing can be written to {path}: {error.strerror}.", where="folder", accepted="Another folder."
        ) from None
    return str(path)


def _backup(path: Path) -> Backup:
    match = _NAME.match(path.name)
    assert match is not None
    at = datetime.strptime(match[1], _STAMP).replace(tzinfo=timezone.get_fixed_timezone(0))
    return Backup(path.name, at, match[2], round(path.stat().st_size / 1e6, 1))
