"""The plan as it is becomes the original, or the original comes back."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.seasons.season_book import snapshot_of
from jarvok.app.seasons.typed_season import changed, restore, style_of


def run(who: Who, athlete: Athlete, keep: bool) -> None:
    """Take the plan as it is now for the original, or go back to the original."""
    with acting(who, "keep_or_restore_season", "original kept" if keep else "back to the original", athlete=athlete):
        style = style_of(athlete)
        if keep:
            style.baseline = snapshot_of(athlete)
            style.save()
            return
        if style.baseline is None:
            raise Conflict("There is no original to return to.")
        with changed(athlete, ["back to the original plan"]):
            restore(athlete, style.baseline)
