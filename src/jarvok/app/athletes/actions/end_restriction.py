"""A restriction is ended: yesterday was its last day; it stays in the history."""

from __future__ import annotations

from datetime import timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Restriction
from jarvok.app.problems import Conflict


def run(who: Who, restriction: Restriction) -> None:
    """End a restriction that stands."""
    yesterday = clock.today() - timedelta(days=1)
    if restriction.until is not None and restriction.until <= yesterday:
        raise Conflict("This restriction is over already.")
    with acting(who, "end_restriction", f"{restriction.words}: ended", athlete=restriction.athlete):
        restriction.until = yesterday
        restriction.save()
