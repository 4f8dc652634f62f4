"""Errors of the core: each carries a sentence a coach can act on."""

from __future__ import annotations


class CoachError(ValueError):
    """Something the coach gave cannot be used. `message` says what was wrong, `accepted` what would be accepted."""

    def __init__(self, message: str, *, where: str = "", accepted: str = "") -> None:
        self.message = message
        self.where = where
        self.accepted = accepted
        super().__init__(f"{message} {accepted}".strip())
