"""A local demo signs its one coach in by itself, and answers nobody but this machine."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.http import HttpRequest, HttpResponse, HttpResponseForbidden
from django.utils.decorators import sync_only_middleware

DEMO_COACH = "coach"
LOOPBACK = {"127.0.0.1", "::1"}


@sync_only_middleware
class LocalDemoSignIn:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if settings.LOCAL_DEMO:
            if request.META.get("REMOTE_ADDR") not in LOOPBACK:
                return HttpResponseForbidden("This demo answers on its own machine only.")
            if not request.path.startswith(("/static/", "/api/streams/")) and not request.user.is_authenticated:
                coach = get_user_model().objects.filter(username=DEMO_COACH).first()
                if coach is not None:
                    login(request, coach, backend="django.contrib.auth.backends.ModelBackend")
        return self.get_response(request)
