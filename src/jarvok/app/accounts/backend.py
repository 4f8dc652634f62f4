"""Whoever signs in is read together with the person they are."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.backends import ModelBackend
from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest

from jarvok.app.accounts.sessions import read_with_session

BACKEND = "jarvok.app.accounts.backend.Backend"


class Backend(ModelBackend):
    """Name and password as ever; the plain one is listed beside it for sign-ins from before, and is not asked for passwords."""

    def get_user(self, user_id: int) -> User | None:
        """Return an active user with their person: read with the session, or in one query."""
        user = read_with_session(user_id) or User.objects.select_related("person").filter(pk=user_id).first()
        return user if user is not None and self.user_can_authenticate(user) else None

    def authenticate(self, request: HttpRequest | None, **given: Any) -> User:  # type: ignore[override]
        """Return the user whose name and password they are, or end the search."""
        user = super().authenticate(request, **given)
        if not isinstance(user, User):
            raise PermissionDenied
        return user
