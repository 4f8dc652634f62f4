from __future__ import annotations

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError

from jarvok.app import clock
from jarvok.app.problems import Problem
from jarvok.app.schema import Schema

router = Router(tags=["accounts"])


class Me(Schema):
    name: str
    signed_in: bool
    today: str
    csrf_token: str


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
