"""What every answer carries, and what is said where an answer would have been a page of the framework's own."""

from __future__ import annotations

import logging
import sys
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from django.utils.decorators import sync_only_middleware

from jarvok.app.api.problems import BUSY, EARLIER_VISIT, KEPT, OF_THE_MACHINE, database_words, plain
from jarvok.app.logs import said_by
from jarvok.app.once import WAITED, waited, waited_of

log = logging.getLogger(__name__)

# nothing but this installation's own files; style as the browser's own objects set it needs no leave
POLICY = "; ".join(
    (
        "default-src 'none'", "script-src 'self'", "style-src 'self'", "img-src 'self' data:", "font-src 'self' data:",
        "connect-src 'self'", "manifest-src 'self'", "worker-src 'self'", "form-action 'self'",
        "base-uri 'none'", "frame-ancestors 'none'", "object-src 'none'",
    )
)  # fmt: skip
FEATURES = ", ".join(f"{name}=()" for name in ("camera", "geolocation", "microphone", "payment", "usb", "bluetooth", "serial"))
PROBLEM = "application/problem+json"
_WORDS = {
    400: "The server could not read this. Nothing was stored.",
    401: "Sign in first.",
    403: EARLIER_VISIT,
    404: "There is nothing at this address.",
    405: "This cannot be done at this address.",
    413: "This is too large. Nothing was stored.",
    503: f"{BUSY} {KEPT}",
}
FAILED = "Something failed on the server. Nothing was changed."


@sync_only_middleware
class Answers:
    """Headers of safety on everything; personal answers are kept nowhere; errors of the API have one shape."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        token = waited.set(waited_of(request.headers.get(WAITED, "")))
        try:
            with said_by(request):
                response = self.get_response(request)
        finally:
            waited.reset(token)
        is_api = request.path.startswith("/api/")
        if is_api and response.status_code >= 400 and not response.get("Content-Type", "").startswith(PROBLEM):
            response = problem(response.status_code)
        if not response.get("Content-Type", "").startswith("application/pdf"):  # browsers show those with a tool of their own
            response.setdefault("Content-Security-Policy", POLICY)
        response["Permissions-Policy"] = FEATURES
        response["Cross-Origin-Resource-Policy"] = "same-origin"
        if is_api:
            response.setdefault("Cache-Control", "no-store")
        return response


class Packed(GZipMiddleware):
    """Answers of some length travel compressed to browsers that ask for it; what is told as it happens is not held up."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        """The answer, compressed where it is a whole one of the API."""
        if response.streaming or not request.path.startswith("/api/"):
            return response
        packed: HttpResponseBase = super().process_response(request, response)
        return packed


def problem(status: int, title: str = "") -> JsonResponse:
    """An error that the framework found, in our own shape."""
    return JsonResponse(plain(title or _WORDS.get(status, FAILED), status), status=status, content_type=PROBLEM)


def _said(request: HttpRequest, status: int, title: str = "") -> HttpResponse:
    if request.path.startswith("/api/"):
        return problem(status, title)
    return HttpResponse(title or _WORDS.get(status, FAILED), status=status, content_type="text/plain; charset=utf-8")


def bad(request: HttpRequest, exception: Exception) -> HttpResponse:
    """A request that could not be read."""
    return _said(request, 400)


def missing(request: HttpRequest, exception: Exception) -> HttpResponse:
    """An address that leads nowhere."""
    return _said(request, 404)


def forbidden(request: HttpRequest, exception: Exception | None = None, reason: str = "") -> HttpResponse:
    """A form that none of our own pages has sent."""
    return _said(request, 403)


def failed(request: HttpRequest) -> HttpResponse:
    """What was raised outside the API, as by reading the sign-in while the database is locked."""
    error = sys.exc_info()[1]
    if isinstance(error, OF_THE_MACHINE):
        return _said(request, 503, database_words(error)[0])
    return _said(request, 500)
