"""A weekly practice is removed."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Practice


def run(who: Who, practice: Practice) -> None:
    """Remove a practice, for the athlete or the squad it is of."""
    words = "practice removed"
    if practice.athlete is not None:
        with acting(who, "remove_practice", words, athlete=practice.athlete):
            practice.delete()
    else:
        with acting(who, "remove_practice", words, squad=practice.squad):
            practice.delete()
