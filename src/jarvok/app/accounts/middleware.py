"""What happens around every request: a local demo signs its one coach in, and the sign-in is marked as heard of."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.contrib.sessions.middleware import SessionMiddleware
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse, HttpResponseForbidden
from django.utils.decorators import sync_only_middleware

from jarvok.app.accounts import seen
from jarvok.app.accounts.backend import BACKEND
from jarvok.app.accounts.sessions import DEVICE, device_of
from jarvok.app.plan_acts import PLAN, newest_of, plan_of_path

DEMO_COACH = "coach"
LOOPBACK = {"127.0.0.1", "::1"}
SIGN_OUT = "/api/sign-out"


class SignIns(SessionMiddleware):
    """Sign-ins by cookie. Only signing out takes the cookie away: a reading that was sent just before a password was
    changed is answered just after, and would take the one away that the page has been given for its new sign-in."""

    def process_response(self, request: HttpRequest, response: HttpResponse) -> HttpResponse:
        """The answer, with the cookie of a sign-in that has begun, or without that of one that has ended."""
        response = super().process_response(request, response)
        cookie = response.cookies.get(settings.SESSION_COOKIE_NAME)
        if cookie is not None and not cookie.value and request.path != SIGN_OUT:
            del response.cookies[settings.SESSION_COOKIE_NAME]
        return response


@sync_only_middleware
class LocalDemoSignIn:
    """The demo answers nobody but this machine, and its coach is signed in without a password."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if settings.LOCAL_DEMO:
            if request.META.get("REMOTE_ADDR") not in LOOPBACK:
                return HttpResponseForbidden("This demo answers on its own machine only.")
            if not request.path.startswith(("/static/", "/api/streams/")) and not request.user.is_authenticated:
                coach = get_user_model().objects.filter(username=DEMO_COACH).first()
                if coach is not None:
                    request.session[DEVICE] = device_of(request)
                    login(request, coach, backend=BACKEND)
        return self.get_response(request)


@sync_only_middleware
class LastSeen:
    """When a sign-in was last heard of. Reading writes nothing: it is remembered, and written down with the next change,
    every ten minutes at most, or by the housekeeper."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.session.session_key:
            seen.heard(request.session.session_key)
        if request.method not in ("GET", "HEAD", "OPTIONS"):
            with suppress(DatabaseError):
                seen.write_down()
        return response


@sync_only_middleware
class PlanSeen:
    """Every answer about an athlete or a squad says up to which act it holds their plan."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        athletes, squads = plan_of_path(request.path)
        if not athletes and not squads:
            return self.get_response(request)
        before = newest_of(athletes, squads) if request.method == "GET" else 0  # what is changed while it is read is not in it
        response = self.get_response(request)
        if response.status_code < 400:
            response[PLAN] = str(before if request.method == "GET" else newest_of(athletes, squads))
        return response
