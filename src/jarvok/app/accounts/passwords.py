"""Passwords: which are taken, and how a new one comes in place of an old one."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from jarvok.core.errors import CoachError

ACCEPTED = "At least 10 characters, not a common one, not only digits, not like your name. Four words are a good password."


def checked_password(password: str, user: User) -> str:
    """Return a password that may be taken; raise `CoachError` with what is wrong with another."""
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise CoachError(" ".join(error.messages), where="password", accepted=ACCEPTED) from None
    return password
