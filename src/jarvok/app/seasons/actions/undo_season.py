"""The newest change of a season is taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Change
from jarvok.app.problems import Conflict
from jarvok.app.seasons.typed_season import restore


def run(who: Who, athlete: Athlete) -> None:
    """Take the newest change back; the season is exactly what it was before."""
    with acting(who, "undo_season", "season: one step back", athlete=athlete):
        last = Change.objects.filter(athlete=athlete, undone_at__isnull=True).first()
        if last is None:
            raise Conflict("There is nothing to undo.")
        restore(athlete, last.before)
        last.undone_at = clock.now()
        last.save()
