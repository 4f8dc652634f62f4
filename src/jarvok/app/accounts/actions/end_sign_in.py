"""Somebody is signed out of a browser from another one."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import SignedIn


def run(who: Who, row: SignedIn) -> None:
    """End a sign-in."""
    with acting(who, "end_sign_in", f"signed out of {row.device or 'a browser'}"):
        row.delete()
