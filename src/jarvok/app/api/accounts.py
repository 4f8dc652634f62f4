from __future__ import annotations

import time
from functools import partial
from math import ceil

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError

from jarvok.app import clock
from jarvok.app.accounts import throttle
from jarvok.app.accounts.actions import change_password as change
from jarvok.app.accounts.actions import set_own_habits as own
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import forget_person, may, person_of
from jarvok.app.accounts.sessions import DEVICE, device_of, renewed
from jarvok.app.api.problems import ERRORS, Problem
from jarvok.app.api.who import from_a_page, who_of
from jarvok.app.centre.habits import day_order_of, unit_of_person
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Person
from jarvok.app.schema import Schema

router = Router(tags=["accounts"])


class Me(Schema):
    name: str
    signed_in: bool
    is_demo: bool
    is_empty: bool
    role: str
    may: list[str]
    person_id: int | None
    athlete_id: int | None
    centre: str
    unit: str
    own_unit: str
    day_order: str
    own_day_order: str
    today: str
    csrf_token: str


class OwnHabits(Schema):
    unit: str
    day_order: str


class Now(Schema):
    now_ms: float


class SignIn(Schema):
    name: str
    password: str


def me_out(request: HttpRequest) -> Me:
    user = request.user
    person = person_of(request)
    centre = Centre.objects.filter(pk=1).values_list("name", flat=True).first() if person is not None else ""
    return Me(
        name=(user.get_full_name() if user.is_authenticated else "") or user.get_username(),
        signed_in=person is not None,
        is_demo=settings.LOCAL_DEMO,
        is_empty=not user.is_authenticated and not settings.LOCAL_DEMO and not User.objects.exists(),
        role=person.role if person is not None else "",
        may=[need.value for need in Need if person is not None and may(person, need)],
        person_id=person.pk if person is not None else None,
        athlete_id=person.athlete_id if person is not None else None,
        centre=centre or "",
        unit=unit_of_person(person),
        own_unit=person.unit if person is not None else "",
        day_order=day_order_of(person),
        own_day_order=person.day_order if person is not None else "",
        today=clock.today().isoformat(),
        csrf_token=get_token(request),
    )


@router.get("/me", response=Me, auth=None)
def me(request: HttpRequest) -> Me:
    return me_out(request)


@router.put("/me/habits", response={200: Me, **ERRORS})
def set_own_habits(request: HttpRequest, payload: OwnHabits) -> Me:
    """In which one types masses and reads body mass, and how dates are written; nothing for the centre's."""
    person = person_of(request)
    if person is not None:
        own.run(who_of(request), person, payload.unit, payload.day_order)
    return me_out(request)


@router.get("/now", response=Now, auth=None)
def now(request: HttpRequest) -> Now:
    """The server's time: pages with a clock set theirs by it."""
    return Now(now_ms=time.time() * 1000)


@router.post("/sign-in", response={200: Me, 429: Problem, **ERRORS}, auth=from_a_page)
def sign_in(request: HttpRequest, payload: SignIn) -> Me:
    name, address = payload.name.strip(), str(request.META.get("REMOTE_ADDR", ""))
    wait = throttle.wait_s(name, address)
    if wait > 0:
        raise HttpError(429, f"Too many wrong passwords. Try again in {ceil(wait)} seconds.")
    user = authenticate(request, username=name, password=payload.password)
    if user is None:
        throttle.was_wrong(name, address)
        raise HttpError(401, "Name and password do not match. Nothing else was wrong.")
    person = Person.objects.filter(user_id=user.pk).first()
    if person is not None and person.ended_at is not None:
        raise HttpError(401, "This account has ended. The head of the centre can bring it back.")
    throttle.was_right(name)
    request.session[DEVICE] = device_of(request)
    login(request, user)
    forget_person(request)
    return me_out(request)


@router.post("/sign-out", response={200: Me, **ERRORS})
def sign_out(request: HttpRequest) -> Me:
    logout(request)
    forget_person(request)
    return me_out(request)


class NewPassword(Schema):
    old: str
    password: str


@router.post("/password", response={200: Me, **ERRORS})
def change_password(request: HttpRequest, payload: NewPassword) -> Me:
    """Take a new password; the page stays signed in, other places do not."""
    user = User.objects.get(username=request.user.get_username())
    change.run(who_of(request), user, payload.old, payload.password, partial(renewed, request))
    return me_out(request)
