"""A copy of the whole centre, by somebody's word."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.upkeep import backups


def run(who: Who) -> backups.Backup:
    """Make a copy. Raises `CoachError` where it cannot be written."""
    made = backups.make(backups.BY_HAND)
    with acting(who, "make_backup", f"a copy of the centre made: {made.name}"):
        return made
