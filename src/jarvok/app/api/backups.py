"""Copies of the whole centre: made, looked into, fetched, put back."""

from __future__ import annotations

import tempfile
from datetime import date, datetime
from typing import IO

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest, StreamingHttpResponse
from ninja import File, Form, Router, UploadedFile
from ninja.errors import HttpError

from jarvok.app import clock
from jarvok.app.accounts.backend import BACKEND
from jarvok.app.accounts.permission import forget_person
from jarvok.app.accounts.sessions import DEVICE, device_of
from jarvok.app.api.accounts import Me, me_out
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.sending import send_file
from jarvok.app.api.who import from_a_page, who_of
from jarvok.app.facts.centre.models import Centre
from jarvok.app.problems import Conflict
from jarvok.app.schema import Schema
from jarvok.app.upkeep import backups, whole_centre
from jarvok.app.upkeep.actions import make_backup, restore_backup, set_backup_folder, take_in_centre

router = Router(tags=["backups"])


class BackupOut(Schema):
    name: str
    at: datetime
    words: str
    size_mb: float


class BackupsOut(Schema):
    """`chosen` is empty while copies are kept beside the data. `problem` is why today's copy could not be made."""

    folder: str
    chosen: str
    problem: str
    daily: bool
    backups: list[BackupOut]


class InsideOut(Schema):
    name: str
    athletes: int
    sets: int
    newest: date | None
    problem: str


class RestoredOut(Schema):
    """What the centre was before is kept under `before`. Everybody signs in again."""

    before: str


class TakeIn(Schema):
    person: str
    sign_in: str
    password: str


class FolderIn(Schema):
    folder: str


def _out(backup: backups.Backup) -> BackupOut:
    return BackupOut(name=backup.name, at=backup.at, words=backups.KIND_WORDS[backup.kind], size_mb=backup.size_mb)


@router.get("/backups", response={200: BackupsOut, **ERRORS})
def read_backups(request: HttpRequest) -> BackupsOut:
    """The copies that are there, where they are, and whether one is made every day."""
    centre = Centre.objects.filter(pk=1).first() or Centre()
    return BackupsOut(
        folder=str(backups.folder()),
        chosen=centre.backup_folder,
        problem=centre.backup_problem,
        daily=centre.begun_at is not None and not settings.LOCAL_DEMO,
        backups=[_out(b) for b in backups.listing()],
    )


@router.post("/backups", response={200: BackupsOut, **ERRORS})
def back_up(request: HttpRequest) -> BackupsOut:
    make_backup.run(who_of(request))
    return read_backups(request)


@router.put("/backups/folder", response={200: BackupsOut, **ERRORS})
def set_folder(request: HttpRequest, payload: FolderIn) -> BackupsOut:
    set_backup_folder.run(who_of(request), payload.folder)
    return read_backups(request)


@router.get("/backups/{name}", response={200: InsideOut, **ERRORS})
def look_into(request: HttpRequest, name: str) -> InsideOut:
    """What a copy holds, and whether it can be put back."""
    inside = backups.look_into(backups.path_of(name))
    newest = date.fromisoformat(inside.newest) if inside.newest else None
    return InsideOut(name=name, athletes=inside.athletes, sets=inside.sets, newest=newest, problem=inside.problem)


@router.post("/backups/{name}/restore", response={200: RestoredOut, **ERRORS})
def restore(request: HttpRequest, name: str) -> RestoredOut:
    """Put a copy in the place of what there is. The demo keeps its own data."""
    if settings.LOCAL_DEMO:
        raise Conflict("The demo keeps its data. A centre of your own goes back to its copies.")
    return RestoredOut(before=restore_backup.run(who_of(request), name).name)


@router.get("/export/centre.zip", include_in_schema=False)
def fetch_everything(request: HttpRequest) -> StreamingHttpResponse:
    """Everything as one open file."""
    file = tempfile.TemporaryFile()  # noqa: SIM115  closed when it has been sent
    whole_centre.write(file)
    file.seek(0)
    return send_file(file, f"centre-{clock.today():%Y-%m-%d}.zip")


@router.post("/first-run/file", response={200: Me, **ERRORS}, auth=from_a_page)
def take_in(request: HttpRequest, payload: Form[TakeIn], file: File[UploadedFile]) -> Me:
    """Read a whole centre where there is none, and sign in whoever brought it."""
    if settings.LOCAL_DEMO:
        raise HttpError(403, "The demo has its own centre.")
    stream: IO[bytes] = file
    user = take_in_centre.run(stream, payload.person, payload.sign_in, payload.password)
    request.session[DEVICE] = device_of(request)
    login(request, user, backend=BACKEND)
    forget_person(request)
    return me_out(request)


@router.get("/export/backups/{name}", include_in_schema=False)
def fetch(request: HttpRequest, name: str) -> StreamingHttpResponse:
    """The file of a copy, to be kept elsewhere."""
    return send_file(backups.path_of(name).open("rb"), name)
