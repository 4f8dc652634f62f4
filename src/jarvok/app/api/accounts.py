from __future__ import annotations

import time
from math import ceil

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError

from jarvok.app import clock
from jarvok.app.accounts import throttle
from jarvok.app.accounts.actions import change_password as change
from jarvok.app.api.problems import ERRORS, Problem
from jarvok.app.api.who import who_of
from jarvok.app.schema import Schema

router = Router(tags=["accounts"])


class Me(Schema):
    name: str
    signed_in: bool
    is_demo: bool
    is_empty: bool
    today: str
    csrf_token: str


class Now(Schema):
    now_ms: float


class SignIn(Schema):
    name: str
    password: str


def me_out(request: HttpRequest) -> Me:
    user = request.user
    return Me(
        name=(user.get_full_name() if user.is_authenticated else "") or user.get_username(),
        signed_in=user.is_authenticated,
        is_demo=settings.LOCAL_DEMO,
        is_empty=not user.is_authenticated and not settings.LOCAL_DEMO and not User.objects.exists(),
        today=clock.today().isoformat(),
        csrf_token=get_token(request),
    )


@router.get("/me", response=Me, auth=None)
def me(request: HttpRequest) -> Me:
    return me_out(request)


@router.get("/now", response=Now, auth=None)
def now(request: HttpRequest) -> Now:
    """The server's time: pages with a clock set theirs by it."""
    return Now(now_ms=time.time() * 1000)


@router.post("/sign-in", response={200: Me, 401: Problem, 403: Problem, 422: Problem, 429: Problem}, auth=None)
def sign_in(request: HttpRequest, payload: SignIn) -> Me:
    name, address = payload.name.strip(), str(request.META.get("REMOTE_ADDR", ""))
    wait = throttle.wait_s(name, address)
    if wait > 0:
        raise HttpError(429, f"Too many wrong passwords. Try again in {ceil(wait)} seconds.")
    user = authenticate(request, username=name, password=payload.password)
    if user is None:
        throttle.was_wrong(name, address)
        raise HttpError(401, "Name and password do not match. Nothing else was wrong.")
    throttle.was_right(name)
    login(request, user)
    return me_out(request)


@router.post("/sign-out", response={200: Me, 401: Problem, 403: Problem})
def sign_out(request: HttpRequest) -> Me:
    logout(request)
    return me_out(request)


class NewPassword(Schema):
    old: str
    password: str


@router.post("/password", response={200: Me, **ERRORS})
def change_password(request: HttpRequest, payload: NewPassword) -> Me:
    """Take a new password; the page stays signed in, other places do not."""
    user = User.objects.get(username=request.user.get_username())
    change.run(who_of(request), user, payload.old, payload.password)
    update_session_auth_hash(request, user)
    return me_out(request)
