"""The newest step of a calendar is taken back, or brought again."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Change
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions.undo_season import turn
from jarvok.app.seasons.calendar_steps import CalendarStep, Whose, last_step, next_step


def run(who: Who, whose: Whose, scope: str = "all") -> None:
    """Take the newest step back: for all it was made for, or of several seasons the page's athlete's alone."""
    step = last_step(whose)
    if step is None:
        raise Conflict("There is nothing to undo.")
    _turn(who, whose, step, scope, redo=False)


def again(who: Who, whose: Whose, scope: str = "all") -> None:
    """Bring the step again that was taken back last."""
    step = next_step(whose)
    if step is None:
        raise Conflict("There is nothing to bring again.")
    _turn(who, whose, step, scope, redo=True)


def _turn(who: Who, whose: Whose, step: CalendarStep, scope: str, *, redo: bool) -> None:
    seasons = _wanted(whose, step, scope)
    also = [c.athlete for c in seasons if c.athlete is not None]
    words = f"{'again' if redo else 'undone'}: {step.words}"
    own = [c.of.athlete for c in step.changes]
    squad = whose.squad if None in own or len(also) > 1 else None
    athlete = None if squad is not None else next(iter([*own, *also]), whose.athlete)
    with acting(who, "redo_calendar" if redo else "undo_calendar", words, athlete=athlete, squad=squad, also=also):
        turn(seasons, step.changes if scope == "all" else (), redo=redo)


def _wanted(whose: Whose, step: CalendarStep, scope: str) -> list[Change]:
    if scope not in ("all", "athlete"):
        raise Conflict("Undo is for this athlete, or for all it was made for.")
    if scope == "all" or whose.athlete is None:
        return list(step.seasons)
    mine = [c for c in step.seasons if c.athlete_id == whose.athlete.pk]
    if not mine:
        raise Conflict(f"“{step.words}” is for more than {whose.athlete.name}: undo it for all.")
    return mine
