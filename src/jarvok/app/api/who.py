"""Who a request comes from, and whether they may."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.security.session import SessionAuth
from ninja.utils import check_csrf

from jarvok.app.accounts.permission import open_door, person_of
from jarvok.app.acts import Who
from jarvok.app.facts.people.models import Via
from jarvok.app.plan_acts import PAGE, SEEN
from jarvok.app.room.links import link_of, rack_token


class Door(SessionAuth):
    """Somebody signed in whose role opens the address, and whose squads what it names is of."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        """Return who it is, None for a stranger; raise `Refused` where they may not."""
        if person_of(request) is None:
            return None
        open_door(request)
        return request.user


signed_in = Door()


def from_a_page(request: HttpRequest) -> bool:
    """Let a form through that one of our own pages has sent: for addresses that nobody has to be signed in for."""
    if check_csrf(request) is not None:
        raise HttpError(403, "This page is from an earlier visit. Load it again; what you typed can be typed anew.")
    return True


def who_of(request: HttpRequest) -> Who:
    """The person signed in; over a rack's link, whoever made it."""
    person = person_of(request)
    if person is None:
        return who_by_link(rack_token(request))
    seen = request.headers.get(SEEN, "")
    return Who(person, page=request.headers.get(PAGE, "")[:12], seen=int(seen) if seen.isdecimal() and len(seen) < 18 else None)


def who_by_link(token: str) -> Who:
    """The person a link acts for: whoever made it, nobody for one from before makers were kept."""
    link = link_of(token)
    return Who(link.maker if link is not None else None, Via.LINK, str(link.pk) if link is not None else "")
