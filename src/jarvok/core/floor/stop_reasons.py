"""Why a lift is ended before its last set, when neither the numbers nor pain have ended it."""

from __future__ import annotations

from enum import StrEnum


class StopReason(StrEnum):
    """As it is tapped."""

    TIME = "time"
    ENOUGH = "enough"

    @property
    def words(self) -> str:
        """How it is said."""
        return {StopReason.TIME: "out of time", StopReason.ENOUGH: "enough for today"}[self]
