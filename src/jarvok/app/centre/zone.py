"""The centre's time zone, read once by the process that answers, and again when it is changed."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from jarvok.app import clock
from jarvok.app.facts.centre.models import Centre


class CentreZone:
    """Middleware: the first request finds out where the centre lies."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self.is_known = False

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer in the centre's zone."""
        if not self.is_known:
            live_where_the_centre_lies()
            self.is_known = True
        return self.get_response(request)


def live_where_the_centre_lies() -> None:
    """Take the zone that is stored."""
    clock.live_in(Centre.objects.filter(pk=1).values_list("zone", flat=True).first() or "")
