"""What is competed in today is chosen, and who is shown on the board."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Gathering
from jarvok.app.room.board import chosen_of
from jarvok.app.room.telling import attendance_in, tell_room


def run(who: Who, gathering: Gathering, key: str) -> None:
    """Choose the one number of the day; nothing takes the board away."""
    with acting(who, "compete_in", "board chosen" if key else "board taken away", squad=gathering.squad):
        chosen_of(key)
        gathering.compete = key
        gathering.save(update_fields=["compete"])
        tell_room(gathering)


def show(who: Who, gathering: Gathering, athlete_id: int, is_shown: bool) -> None:
    """Say whether an athlete is shown beside others; it holds until it is said otherwise."""
    attendance_in(gathering, athlete_id)
    athlete = Athlete.objects.get(pk=athlete_id)
    words = f"{athlete.name} {'is shown' if is_shown else 'is not shown'} on the board"
    with acting(who, "show_on_board", words, athlete=athlete):
        athlete.not_ranked = not is_shown
        athlete.save(update_fields=["not_ranked"])
        tell_room(gathering)
