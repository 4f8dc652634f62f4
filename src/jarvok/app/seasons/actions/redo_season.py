"""What was taken back of a season is brought again, for one athlete or for all it was made for."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.seasons.steps import next_step, refuse_what_lies_below, wanted
from jarvok.app.seasons.typed_season import restore


def run(who: Who, athlete: Athlete, scope: str = "athlete") -> None:
    """Bring the last undone change again; each season is exactly what it was after it."""
    step = next_step(athlete)
    if step is None:
        raise Conflict("There is nothing to bring again.")
    changes = [c for c in wanted(step, scope) if c.undone_at is not None]
    also = [c.athlete for c in changes if c.athlete is not None]
    with acting(who, "redo_season", f"again: {step.words}", athlete=athlete if len(also) == 1 else None, also=also):
        refuse_what_lies_below(changes, redo=True)
        for change in changes:
            if change.athlete is not None:
                restore(change.athlete, change.after)
                change.undone_at = None
                change.save(update_fields=["undone_at"])
