"""An athlete leaves: they stand in no list any more and keep everything."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete


def run(who: Who, athlete: Athlete) -> None:
    """Take an athlete out of the lists; done twice it is done once."""
    with acting(who, "archive_athlete", f"{athlete.name} archived", athlete=athlete):
        Athlete.objects.filter(pk=athlete.pk, archived_on__isnull=True).update(archived_on=clock.today())
