"""Secret addresses: made once, shown once, known afterwards only as a hash; over with their maker, by word, or by time."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Any

from jarvok.app import clock
from jarvok.app.facts.people.models import Link, LinkKind, Person
from jarvok.core.errors import CoachError

OVER = CoachError("This link is over or was never valid.", where="link", accepted="Ask the coach for a new one.")


def hash_of(token: str) -> str:
    """Return what is kept of a token."""
    return hashlib.sha256(token.encode()).hexdigest()


def make(kind: LinkKind, maker: Person | None, hours: float, **opens: Any) -> tuple[Link, str]:
    """Make a link that is good for so many hours; return it with its token, which is kept nowhere."""
    token, now = secrets.token_urlsafe(24), clock.now()
    until = now + timedelta(hours=hours)
    return Link.objects.create(kind=kind, token_hash=hash_of(token), maker=maker, made_at=now, until=until, **opens), token


def find(token: str, *kinds: LinkKind) -> Link | None:
    """Return the link of a token while it is good; None for one that is over, of another kind, or made up."""
    if not token:
        return None
    rows = Link.objects.select_related("maker", "person").filter(
        token_hash=hash_of(token), kind__in=kinds, ended_at__isnull=True, until__gt=clock.now()
    )
    link = rows.first()
    return link if link is not None and (link.maker is None or link.maker.ended_at is None) else None
