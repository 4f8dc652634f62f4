"""What an action may refuse beside what the core refuses."""

from __future__ import annotations

from jarvok.core.errors import CoachError


class Conflict(Exception):
    """The stored state is not what the caller thought; the message says what is.

    `stored_id` and `stored` name the set that stands there, where one does, so that a person can choose between the two.
    """

    def __init__(self, message: str, *, stored_id: int | None = None, stored: str = "") -> None:
        super().__init__(message)
        self.stored_id = stored_id
        self.stored = stored


class Changed(Conflict):
    """Somebody else has changed a plan since the page was read; `newest` is the act, sent again as seen it is written over."""

    def __init__(self, message: str, *, newest: int) -> None:
        super().__init__(message)
        self.newest = newest


class NeedsConfirmation(CoachError):
    """Improbable, but possible: sent again with `confirm` it is taken."""


class Refused(Exception):
    """Who asks may not do this; the message says who may."""
