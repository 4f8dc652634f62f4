"""The centre is called otherwise."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.centre.models import Centre
from jarvok.core.errors import CoachError

LONGEST = 80


def run(who: Who, name: str) -> None:
    """Call the centre by a name."""
    name = name.strip()
    if not 1 <= len(name) <= LONGEST:
        raise CoachError("A centre has a name.", where="name", accepted=f"1 to {LONGEST} characters.")
    with acting(who, "rename_centre", f"the centre is called {name}"):
        Centre.objects.update_or_create(pk=1, defaults={"name": name})
