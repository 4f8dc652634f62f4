"""The first page of a new centre: its name, where it lies, the first person."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router
from ninja.errors import HttpError

from jarvok.app.api.accounts import Me, me_out
from jarvok.app.api.problems import ERRORS
from jarvok.app.centre.actions import begin_centre
from jarvok.app.schema import Schema

router = Router(tags=["centre"])


class FirstRun(Schema):
    name: str
    zone: str = ""
    person: str
    sign_in: str
    password: str


@router.post("/first-run", response={200: Me, **ERRORS}, auth=None)
def begin(request: HttpRequest, payload: FirstRun) -> Me:
    """Make the centre and its first account, and sign them in; refused once anybody has an account."""
    if settings.LOCAL_DEMO:
        raise HttpError(403, "The demo has its own coach.")
    user = begin_centre.run(payload.name, payload.zone, payload.person, payload.sign_in, payload.password)
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return me_out(request)
