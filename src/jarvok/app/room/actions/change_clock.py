"""A clock is paused, goes on, or stops."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.problems import Conflict
from jarvok.app.room.telling import tell_room
from jarvok.core.errors import CoachError


def run(who: Who, gathering: Gathering, clock_id: int, act: str, rack: int | None = None) -> None:
    """Pause, go on, or stop a clock; with a rack, its own alone."""
    with acting(who, "change_clock", f"clock: {act}", squad=gathering.squad):
        run = gathering.clocks.filter(pk=clock_id, **({"rack": rack} if rack is not None else {})).first()
        if run is None:
            raise CoachError("There is no such clock here.", where="clock_id")
        if run.stopped_at is not None:
            raise Conflict("This clock was stopped meanwhile.")
        now = clock.now()
        if act == "pause" and run.paused_at is None:
            run.paused_at = now
        elif act == "go" and run.paused_at is not None:
            run.paused_s += (now - run.paused_at).total_seconds()
            run.paused_at = None
        elif act == "stop":
            run.stopped_at = now
        elif act not in ("pause", "go"):
            raise CoachError(f"A clock cannot {act}.", where="act", accepted="pause, go or stop.")
        run.save()
        tell_room(gathering)
