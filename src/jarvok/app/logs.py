"""What the log says of each line: when, how grave, which person by number, from which address. No names, nothing typed."""

from __future__ import annotations

import logging
import re
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from django.contrib.auth import SESSION_KEY
from django.http import HttpRequest

_REQUEST: ContextVar[HttpRequest | None] = ContextVar("request", default=None)
LINE = "{asctime} {levelname} person={person} address={address} {name}: {message}"


@contextmanager
def said_by(request: HttpRequest) -> Iterator[None]:
    """Lines written within belong to a request."""
    token = _REQUEST.set(request)
    try:
        yield
    finally:
        _REQUEST.reset(token)


_SECRETS = re.compile(r"(/(?:ready|rack|rack-links|welcome|streams|sensors|calendars|sign-ins)/)[\w-]{8,}")


class Line(logging.Formatter):
    """A line without the secrets that addresses of links and sensors hold."""

    def format(self, record: logging.LogRecord) -> str:
        """The line, its secrets left out."""
        return _SECRETS.sub(r"\1…", super().format(record))


class OfRequest(logging.Filter):
    """Adds who and from where to a line of the log."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Always true; sets `person` and `address`."""
        request = _REQUEST.get() or getattr(record, "request", None)  # the framework's own lines come after the answer
        session = getattr(request, "session", None)
        kept = getattr(session, "_session_cache", {})  # only what was read already: a log reads nothing itself
        record.person = kept.get(SESSION_KEY, "-")
        record.address = request.META.get("REMOTE_ADDR", "-") if request is not None else "-"
        return True
