from __future__ import annotations

import time

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError

from jarvok.app import clock
from jarvok.app.api.problems import Problem
from jarvok.app.schema import Schema

router = Router(tags=["accounts"])


class Me(Schema):
    name: str
    signed_in: bool
    today: str
    csrf_token: str


class Now(Schema):
    now_ms: float


class SignIn(Schema):
    name: str
    password: str


def _me(request: HttpRequest) -> Me:
    user = request.user
    return Me(
        name=(user.get_full_name() if user.is_authenticated else "") or user.get_username(),
        signed_in=user.is_authenticated,
        today=clock.today().isoformat(),
        csrf_token=get_token(request),
    )


@router.get("/me", response=Me, auth=None)
def me(request: HttpRequest) -> Me:
    return _me(request)


@router.get("/now", response=Now, auth=None)
def now(request: HttpRequest) -> Now:
    """The server's time: pages with a clock set theirs by it."""
    return Now(now_ms=time.time() * 1000)


@router.post("/sign-in", response={200: Me, 401: Problem, 403: Problem, 422: Problem}, auth=None)
def sign_in(request: HttpRequest, payload: SignIn) -> Me:
    user = authenticate(request, username=payload.name.strip(), password=payload.password)
    if user is None:
        raise HttpError(401, "Name and password do not match. Nothing else was wrong.")
    login(request, user)
    return _me(request)


@router.post("/sign-out", response={200: Me, 401: Problem, 403: Problem})
def sign_out(request: HttpRequest) -> Me:
    logout(request)
    return _me(request)
