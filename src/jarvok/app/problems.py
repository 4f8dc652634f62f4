"""What an action may refuse beside what the core refuses."""

from __future__ import annotations

from jarvok.core.errors import CoachError


class Conflict(Exception):
    """The stored state is not what the caller thought; the message says what is."""


class NeedsConfirmation(CoachError):
    """Improbable, but possible: sent again with `confirm` it is taken."""
