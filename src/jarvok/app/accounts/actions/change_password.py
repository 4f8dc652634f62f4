"""Somebody changes their own password."""

from __future__ import annotations

from collections.abc import Callable

from django.contrib.auth.models import User

from jarvok.app.accounts.passwords import checked_password
from jarvok.app.acts import Who, acting
from jarvok.core.errors import CoachError


def run(who: Who, user: User, old: str, new: str, renew_sign_in: Callable[[User], None]) -> None:
    """Take a new password in place of the old one. Other places where they are signed in are signed out; the one it is
    changed from is signed in anew in the same transaction, so that at no moment its sign-in does not hold."""
    with acting(who, "change_password", "own password changed"):
        if not user.check_password(old):
            raise CoachError("That is not the password so far.", where="old", accepted="The one you sign in with now.")
        user.set_password(checked_password(new, user))
        user.save(update_fields=["password"])
        renew_sign_in(user)
