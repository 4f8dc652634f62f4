"""A person is called otherwise, may do something else, or has other squads."""

from __future__ import annotations

from jarvok.app.accounts.people import Wanted, checked, keep, leave_a_head
from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import Person, Role


def run(who: Who, person: Person, wanted: Wanted) -> None:
    """Change a person; from the next thing they do it holds. Refused where no head would be left."""
    wanted = checked(wanted, person)
    with acting(who, "change_person", f"{wanted.name}: {wanted.role.label.lower()}"):
        if wanted.role != Role.HEAD:
            leave_a_head(person)
        keep(person, wanted)
