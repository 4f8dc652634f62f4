"""A weekly practice is removed."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Practice
from jarvok.app.kept import kept


def run(who: Who, practice: Practice) -> None:
    """Remove a practice, for the athlete or the squad it is of; undo on the calendar brings it back."""
    scope = {"athlete": practice.athlete} if practice.athlete is not None else {"squad": practice.squad}
    with acting(who, "remove_practice", "practice removed", **scope), kept(practice):
        practice.withdrawn_at = clock.now()
