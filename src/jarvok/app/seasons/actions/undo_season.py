"""The newest change of a season is taken back, or brought again, for one athlete or for all it was made for."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import CalendarChange, Change
from jarvok.app.kept import put_back
from jarvok.app.problems import Conflict
from jarvok.app.seasons.steps import last_step, next_step, refuse_what_lies_below, shared_of, wanted
from jarvok.app.seasons.typed_season import restore


def run(who: Who, athlete: Athlete, scope: str = "athlete") -> None:
    """Take the newest change back; each season is exactly what it was before."""
    last = last_step(athlete)
    if last is None:
        raise Conflict("There is nothing to undo.")
    changes = wanted(last, scope)
    also = [c.athlete for c in changes if c.athlete is not None]
    with acting(who, "undo_season", f"undone: {last.words}", athlete=athlete if len(also) == 1 else None, also=also):
        turn(changes, shared_of(changes), redo=False)


def again(who: Who, athlete: Athlete, scope: str = "athlete") -> None:
    """Bring the last undone change again; each season is exactly what it was after it."""
    step = next_step(athlete)
    if step is None:
        raise Conflict("There is nothing to bring again.")
    changes = [c for c in wanted(step, scope) if c.undone_at is not None]
    also = [c.athlete for c in changes if c.athlete is not None]
    with acting(who, "redo_season", f"again: {step.words}", athlete=athlete if len(also) == 1 else None, also=also):
        turn(changes, [s for s in shared_of(changes) if s.undone_at is not None], redo=True)


def turn(seasons: Sequence[Change], kept: Sequence[CalendarChange], *, redo: bool) -> None:
    """Let seasons, and what else was changed with them, stand as before a step, or as after it again."""
    refuse_what_lies_below(list(seasons), redo=redo)
    undone_at = None if redo else clock.now()
    for change in seasons:
        if change.athlete is not None:
            restore(change.athlete, change.after if redo else change.before)
            change.undone_at = undone_at
            change.save(update_fields=["undone_at"])
    for changed in kept:
        put_back(changed.of, changed.after if redo else changed.before)
        changed.undone_at = undone_at
        changed.save(update_fields=["undone_at"])
