"""Reading waits in line, writing does not: a set is stored at once, however many pages are being read."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils.decorators import sync_only_middleware

AT_ONCE = 1  # [T] pages are worked out, not fetched: two at once would only take turns with each other
AT_ONCE_PATHS = frozenset({"/api/now", "/api/me"})  # the time, by which pages set their clocks, and who is asking
LONGEST_S = 3.0  # [T] who has waited so long behind something large goes on all the same
_turns = threading.BoundedSemaphore(AT_ONCE)


@contextmanager
def a_turn() -> Iterator[None]:
    """Work something out as a page is read: one at a time, and not for longer than a reader would wait."""
    has_turn = _turns.acquire(timeout=LONGEST_S)
    try:
        yield
    finally:
        if has_turn:
            _turns.release()


@sync_only_middleware
class InTurn:
    """Middleware: one page is read at a time. What streams has its turn until it begins."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.method != "GET" or not request.path.startswith("/api/") or request.path in AT_ONCE_PATHS:
            return self.get_response(request)
        with a_turn():
            return self.get_response(request)
