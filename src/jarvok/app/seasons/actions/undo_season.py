"""The newest change of a season is taken back, for one athlete or for all it was made for."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.seasons.steps import last_step, refuse_what_lies_below, wanted
from jarvok.app.seasons.typed_season import restore


def run(who: Who, athlete: Athlete, scope: str = "athlete") -> None:
    """Take the newest change back; each season is exactly what it was before."""
    last = last_step(athlete)
    if last is None:
        raise Conflict("There is nothing to undo.")
    changes = wanted(last, scope)
    also = [c.athlete for c in changes if c.athlete is not None]
    with acting(who, "undo_season", f"undone: {last.words}", athlete=athlete if len(also) == 1 else None, also=also):
        refuse_what_lies_below(changes, redo=False)
        for change in changes:
            if change.athlete is not None:
                restore(change.athlete, change.before)
                change.undone_at = clock.now()
                change.save(update_fields=["undone_at"])
