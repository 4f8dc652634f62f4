"""An account that ended is there again, with what it may do."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import Person


def run(who: Who, person: Person) -> None:
    """Let a person in again; their password stands as it was."""
    with acting(who, "bring_back_person", f"the account of {person.name} is there again"):
        person.ended_at = None
        person.save(update_fields=["ended_at"])
