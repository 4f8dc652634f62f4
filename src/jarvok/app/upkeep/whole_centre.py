"""The whole centre as one open file: a zip with a file of JSON lines for each kind of row. See docs/formats/whole-centre.md."""

from __future__ import annotations

import hashlib
import json
import secrets
import zipfile
from collections.abc import Iterator
from datetime import date, time
from itertools import islice
from typing import IO, Any

from django.apps import apps
from django.core.exceptions import ValidationError
from django.core.management.color import no_style
from django.db import DatabaseError, connection
from django.db.models import Field, Model

from jarvok.app import clock
from jarvok.app.facts.writing import as_it_stands, writing
from jarvok.app.upkeep import earlier_kinds
from jarvok.core.errors import CoachError

FORMAT, VERSION = "jarvok centre", 1
MANIFEST = "manifest.json"
ROWS_AT_ONCE = 500  # [T]
LONGEST_LINE = 20_000_000  # [T] bytes: no row of a centre comes near it
OURS = "jarvok.app.facts."
USER = "auth.user"
# what is no fact of the centre, and why it is in no file
LEFT_OUT = {
    "people.signedin": "where people are signed in",
    "people.link": "addresses that open something for a while",
    "people.wrongpassword": "tries to sign in, kept for half an hour",
    "floor.idempotentwrite": "answers to what was sent twice",
    "floor.floorevent": "what open pages have been told",
}
# what opens something: made anew where the file is read
SECRETS = {("floor.sensorstream", "token"), ("room.sensor", "token"), (USER, "password")}
NOT_A_FILE = CoachError("This is no file of a whole centre.", where="file", accepted="The zip that Settings, Data gives.")


def kinds() -> list[type[Model]]:
    """Every kind of row that is in the file, those that others hang on first."""
    found = [apps.get_model(USER)]
    for config in apps.get_app_configs():
        if config.name.startswith(OURS):
            found += [m for m in config.get_models(include_auto_created=True) if m._meta.label_lower not in LEFT_OUT]
    return found


def write(into: IO[bytes]) -> None:
    """Write the centre as it stands, row by row: memory does not grow with it."""
    files: dict[str, Any] = {}
    with as_it_stands(), zipfile.ZipFile(into, "w", zipfile.ZIP_DEFLATED) as whole:
        for kind in kinds():
            name, digest, rows = f"{kind._meta.label_lower}.jsonl", hashlib.sha256(), 0
            with whole.open(name, "w", force_zip64=True) as file:
                for row in kind._default_manager.order_by("pk").iterator(ROWS_AT_ONCE):
                    line = json.dumps(to_raw(row), default=told, ensure_ascii=False).encode() + b"\n"
                    digest.update(line)
                    file.write(line)
                    rows += 1
            files[name] = {"rows": rows, "sha256": digest.hexdigest()}
        manifest = {"format": FORMAT, "version": VERSION, "written": clock.now().isoformat(timespec="seconds"), "files": files}
        whole.writestr(MANIFEST, json.dumps(manifest, indent=1))


def read(source: IO[bytes]) -> int:
    """Take a centre in where there is none; return how many rows. Raises `CoachError` for a file that is not whole.

    All of it or nothing. Accounts come without their passwords, sensors with new addresses.
    """
    rows = 0
    try:
        with zipfile.ZipFile(source) as whole, writing():
            manifest = _manifest(whole)
            for kind in kinds():
                kind._default_manager.all().delete()
            for kind in kinds():
                rows += _take(whole, kind, manifest["files"])
            _number_on()
            rows += earlier_kinds.take({n: _whole_lines(whole, n, manifest["files"]) for n in earlier_kinds.FILES})
    except (zipfile.BadZipFile, OSError, UnicodeDecodeError):
        raise NOT_A_FILE from None
    except DatabaseError as error:
        said = f"The rows of the file do not fit together: {error}."
        raise CoachError(said, where="file", accepted="A file as it was written.") from None
    return rows


def _number_on() -> None:
    """New rows are numbered behind those that came with their numbers; SQLite does so by itself."""
    with connection.cursor() as cursor:
        for statement in connection.ops.sequence_reset_sql(no_style(), kinds()):
            cursor.execute(statement)


def _manifest(whole: zipfile.ZipFile) -> dict[str, Any]:
    try:
        manifest = json.loads(whole.read(MANIFEST))
    except (KeyError, ValueError):
        raise NOT_A_FILE from None
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT or not isinstance(manifest.get("files"), dict):
        raise NOT_A_FILE
    known = {f"{k._meta.label_lower}.jsonl" for k in kinds()} | set(earlier_kinds.FILES)
    if manifest.get("version") != VERSION or set(manifest["files"]) - known:
        raise CoachError("This file is from a newer version.", where="file", accepted="Upgrade first, then read it.")
    return manifest


def _take(whole: zipfile.ZipFile, kind: type[Model], files: dict[str, Any]) -> int:
    name = f"{kind._meta.label_lower}.jsonl"
    if name not in files:
        return 0  # a kind that there was not yet when the file was written
    digest, rows = hashlib.sha256(), 0
    stamped = [f for f in kind._meta.concrete_fields if getattr(f, "auto_now", False) or getattr(f, "auto_now_add", False)]
    found = _lines(whole, name)
    while lines := list(islice(found, ROWS_AT_ONCE)):
        made = []
        for line in lines:
            digest.update(line)
            made.append(_from_raw(kind, line))
        stood = [{f.attname: getattr(m, f.attname) for f in stamped} for m in made]
        kind._default_manager.bulk_create(made)
        for row, values in zip(made, stood, strict=True) if stamped else ():
            for key, value in values.items():
                setattr(row, key, value)
        if stamped:
            kind._default_manager.bulk_update(made, [f.name for f in stamped])
        rows += len(made)
    if files[name] != {"rows": rows, "sha256": digest.hexdigest()}:
        raise _not_as_written(name)
    return rows


def _whole_lines(whole: zipfile.ZipFile, name: str, files: dict[str, Any]) -> list[dict[str, Any]]:
    """The rows of a kind that there is no more, as they were written."""
    if name not in files:
        return []
    lines = list(_lines(whole, name))
    if files[name] != {"rows": len(lines), "sha256": hashlib.sha256(b"".join(lines)).hexdigest()}:
        raise _not_as_written(name)
    try:
        return [dict(json.loads(line)) for line in lines]
    except (ValueError, TypeError):
        raise _not_as_written(name) from None


def _not_as_written(name: str) -> CoachError:
    return CoachError(f"{name} is not as it was written.", where="file", accepted="The file as it was downloaded.")


def _lines(whole: zipfile.ZipFile, name: str) -> Iterator[bytes]:
    with whole.open(name) as file:
        while line := file.readline(LONGEST_LINE):
            yield line


def told(value: Any) -> str:
    """A day or a moment, to the last digit."""
    if isinstance(value, date | time):
        return value.isoformat()
    raise TypeError(f"{type(value)} has no form in the file")


def to_raw(row: Model) -> dict[str, Any]:
    """A row as plain data, without what opens something."""
    kind = row._meta.label_lower
    return {f.attname: f.value_from_object(row) for f in row._meta.concrete_fields if (kind, f.attname) not in SECRETS}


def _from_raw(kind: type[Model], line: bytes) -> Model:
    try:
        raw = json.loads(line)
        known: dict[str, Field[Any, Any]] = {f.attname: f for f in kind._meta.concrete_fields}
        values = {k: known[k].to_python(v) for k, v in raw.items()}
    except (ValueError, KeyError, TypeError, AttributeError, ValidationError):
        said = f"A row of {kind._meta.label_lower} cannot be read."
        raise CoachError(said, where="file", accepted="A file as it was written.") from None
    for label, name in SECRETS:
        if label == kind._meta.label_lower:
            values[name] = "!" if label == USER else secrets.token_urlsafe(24)
    return kind(**values)
