"""An athlete goes to another squad on a day: at once, or when it comes."""

from __future__ import annotations

import logging
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting, check_scope
from jarvok.app.facts.athletes.models import Athlete, Squad, SquadMove
from jarvok.app.facts.people.models import Act, Via
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions import join_squad
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day

log = logging.getLogger(__name__)
FURTHEST = timedelta(days=400)  # [J] a season and what comes after it


def run(who: Who, athlete: Athlete, squad: Squad, day: date) -> SquadMove:
    """Let an athlete go to a squad from a day on; one day of today or before does it now.

    A move that was still ahead is taken back by it. Raises `CoachError` for the squad they are in, or a day too far away.
    """
    today = clock.today()
    if squad.pk == athlete.squad_id:
        raise CoachError(f"{athlete.name} is in {squad.name} already.", where="squad_id", accepted="Another squad.")
    if day > today + FURTHEST:
        raise CoachError(
            "That day is too far away.", where="day", accepted=f"Up to {said_day(today + FURTHEST, year=True, is_long=True)}."
        )
    check_scope(who.person, squad=squad)
    when = "" if day <= today else f" on {said_day(day, year=True, is_long=True)}"
    with acting(who, "move_to_squad", f"{athlete.name} goes to {squad.name}{when}", athlete=athlete) as act:
        athlete.squad_moves.filter(done_at__isnull=True, withdrawn_at__isnull=True).update(withdrawn_at=clock.now())
        move = SquadMove.objects.create(athlete=athlete, squad=squad, day=day)
        if day <= today:
            _do(who, move, act)
    return move


def withdraw(who: Who, move: SquadMove) -> None:
    """Take a move back that is still ahead."""
    if move.done_at is not None:
        raise Conflict("That move is done. Move them back instead.")
    with acting(who, "withdraw_move", f"{move.athlete.name} does not go to {move.squad.name}", athlete=move.athlete):
        SquadMove.objects.filter(pk=move.pk, withdrawn_at__isnull=True).update(withdrawn_at=clock.now())


def do_what_is_due() -> int:
    """Do the moves whose day has come; return how many. The housekeeper calls it."""
    rows = SquadMove.objects.select_related("athlete__squad", "squad").filter(
        day__lte=clock.today(), done_at__isnull=True, withdrawn_at__isnull=True, athlete__archived_on__isnull=True
    )
    done, who = 0, Who(None, Via.COMMAND)
    for move in rows:
        words = f"{move.athlete.name} is in {move.squad.name} from today"
        try:
            with acting(who, "move_to_squad", words, athlete=move.athlete) as act:
                _do(who, move, act)
        except (CoachError, Conflict) as error:  # one that cannot be done keeps nobody else from going
            log.warning("athlete %s is not moved: %s", move.athlete_id, error)
        else:
            done += 1
    return done


def _do(who: Who, move: SquadMove, act: Act) -> None:
    said = act.words
    join_squad.change(who, move.athlete, {"squad_id": move.squad_id, "group": ""})
    act.words = f"{said}; {act.words}"
    SquadMove.objects.filter(pk=move.pk).update(done_at=clock.now())
