"""The lengths of the phases to a competition are set."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.seasons.typed_season import changed, style_of
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.model import weeks_words


def run(who: Who, competition: Entry, weeks: dict[str, int]) -> None:
    """Keep the lengths the coach has set on the way to a competition; an empty mapping goes back to the proposal."""
    with acting(who, "set_phases", "phase lengths", athlete=competition.athlete):
        names = {p.id: p.name for p in arrangement(style_of(competition.athlete).arrangement).phases_for(30)} | {"taper": "Taper"}
        words = ", ".join(f"{names.get(k, k)} {weeks_words(w)}" for k, w in weeks.items()) or "phase lengths as proposed"
        with changed(competition.athlete, [words]):
            competition.pinned_weeks = weeks
            competition.save()
