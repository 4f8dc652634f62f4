"""Where people are signed in, kept as rows that can be listed and ended."""

from __future__ import annotations

import hashlib
from contextvars import ContextVar
from typing import Any

from django.contrib.auth import SESSION_KEY, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.sessions.backends.db import SessionStore as Stored
from django.http import HttpRequest
from django.utils import timezone

from jarvok.app import clock
from jarvok.app.facts.people.models import SignedIn
from jarvok.app.facts.put_together import Objects

DEVICE, BEGUN = "device", "begun_at"
_SYSTEMS = (
    ("Android", "Android"),
    ("iPhone", "iPhone"),
    ("iPad", "iPad"),
    ("Windows", "Windows"),
    ("Mac OS", "Mac"),
    ("Linux", "Linux"),
)
_BROWSERS = (("Edg/", "Edge"), ("Firefox/", "Firefox"), ("Chrome/", "Chrome"), ("Safari/", "Safari"))


_BY_KEY = Objects(lambda _, key: SignedIn.objects.select_related("user__person").filter(session_key=key))
_just_read: ContextVar[User | None] = ContextVar("read with the session", default=None)


def read_with_session(user_id: int) -> User | None:
    """The user that was read with the session that this request has just loaded, once; None where that was another's."""
    user = _just_read.get()
    _just_read.set(None)
    return user if user is not None and user.pk == user_id else None


class SessionStore(Stored):
    """A session whose row says whose it is and where."""

    @classmethod
    def get_model_class(cls) -> type[SignedIn]:
        """The rows."""
        return SignedIn

    def load(self) -> dict[str, Any]:
        """What the session holds; whose it is is read with it, since every request asks for both."""
        key = self.session_key or ""
        found = _BY_KEY.all(key) if key.isascii() and key.isalnum() else []  # another form is nobody's, and no engine's text
        row = next((x for x in found if x.expire_date > timezone.now()), None)
        _just_read.set(row.user if row is not None else None)
        if row is None:
            self._session_key = None
            return {}
        held: dict[str, Any] = self.decode(row.session_data)
        return held

    def create_model_instance(self, data: dict[str, Any]) -> SignedIn:
        """A row with what is listed of it beside what it holds."""
        row = super().create_model_instance(data)
        assert isinstance(row, SignedIn)
        user = data.get(SESSION_KEY)
        row.user_id = int(user) if user is not None else None
        row.device = str(data.get(DEVICE, ""))[:200]
        kept = SignedIn.objects.filter(pk=row.pk).values_list("begun_at", flat=True).first() if row.pk else None
        row.begun_at = kept or clock.now()
        row.seen_at = clock.now()
        return row


def renewed(request: HttpRequest, user: User) -> None:
    """Put a new sign-in in place of the one of a request, whose password has changed, and store it at once."""
    update_session_auth_hash(request, user)
    request.session.save()


def device_of(request: HttpRequest) -> str:
    """The browser and the machine a request comes from, in words; nothing where it does not say."""
    agent = request.headers.get("User-Agent", "")
    browser = next((name for part, name in _BROWSERS if part in agent), "")
    system = next((name for part, name in _SYSTEMS if part in agent), "")
    return " on ".join(x for x in (browser, system) if x)


def handle_of(row: SignedIn) -> str:
    """What names a row outside: its key is the credential and is never shown."""
    return hashlib.sha256(f"handle {row.session_key}".encode()).hexdigest()[:16]
