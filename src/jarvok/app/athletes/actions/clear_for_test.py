"""A licensed professional's word that the conservative test may be done; the restriction itself stands."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Restriction
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError


def run(who: Who, restriction: Restriction, cleared_by: str) -> None:
    """Note who cleared the athlete, today."""
    cleared_by = cleared_by.strip()
    if not 1 <= len(cleared_by) <= 60:
        raise CoachError("A clearance note says who gave it.", where="cleared_by", accepted="1 to 60 characters are accepted.")
    if restriction.until is not None and restriction.until < clock.today():
        raise Conflict("This restriction is over already.")
    with acting(who, "clear_for_test", f"cleared by {cleared_by}", athlete=restriction.athlete):
        restriction.cleared_by, restriction.cleared_on = cleared_by, clock.today()
        restriction.save()
