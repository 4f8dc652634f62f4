"""A competition is taken out of the season."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.seasons.typed_season import changed


def run(who: Who, competition: Entry) -> None:
    """A competition is taken out of the season."""
    words, athlete = f"{competition.name} taken out", competition.athlete
    with acting(who, "withdraw_competition", words, athlete=athlete), changed(athlete, [words]):
        competition.withdrawn_at = clock.now()
        competition.save()
