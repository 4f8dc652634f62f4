"""The first page of a new centre: its name, where it lies, the first person."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router
from ninja.errors import HttpError

from jarvok.app.accounts.backend import BACKEND
from jarvok.app.accounts.permission import forget_person
from jarvok.app.accounts.sessions import DEVICE, device_of
from jarvok.app.api.accounts import Me, me_out
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import from_a_page
from jarvok.app.centre.actions import begin_centre
from jarvok.app.schema import Schema

router = Router(tags=["centre"])


class FirstRun(Schema):
    name: str
    zone: str = ""
    unit: str = "kg"
    day_order: str = "day first"
    person: str
    sign_in: str
    password: str


@router.post("/first-run", response={200: Me, **ERRORS}, auth=from_a_page)
def begin(request: HttpRequest, payload: FirstRun) -> Me:
    """Make the centre and its first account, and sign them in; refused once anybody has an account."""
    if settings.LOCAL_DEMO:
        raise HttpError(403, "The demo has its own coach.")
    user = begin_centre.run(
        payload.name,
        payload.zone,
        payload.person,
        payload.sign_in,
        payload.password,
        unit=payload.unit,
        day_order=payload.day_order,
    )
    request.session[DEVICE] = device_of(request)
    login(request, user, backend=BACKEND)
    forget_person(request)
    return me_out(request)
