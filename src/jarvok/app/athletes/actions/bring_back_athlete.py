"""An athlete who had left trains here again."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict


def run(who: Who, athlete: Athlete) -> None:
    """Bring an archived athlete back. Refused where somebody of their name has come into the squad."""
    with acting(who, "bring_back_athlete", f"{athlete.name} is back", athlete=athlete):
        if Athlete.here.filter(squad=athlete.squad, name__iexact=athlete.name).exclude(pk=athlete.pk).exists():
            raise Conflict(f"There is a {athlete.name} in {athlete.squad.name} now. Rename one of them first.")
        athlete.archived_on = None
        athlete.save(update_fields=["archived_on"])
