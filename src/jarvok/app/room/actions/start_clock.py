"""A clock is started for a rack, or for the room."""

from __future__ import annotations

from collections.abc import Mapping

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import ClockRun, Gathering
from jarvok.app.room.telling import check_rack, tell_room
from jarvok.core.errors import CoachError
from jarvok.core.floor.clocks import ClockKind, clock_plan, figures_of


def run(who: Who, gathering: Gathering, kind: str, figures: Mapping[str, float], rack: int | None) -> ClockRun:
    """Start a clock for a rack, or for the room; one that runs there stops."""
    with acting(who, "start_clock", f"clock {kind} started", squad=gathering.squad):
        if kind not in set(ClockKind):
            raise CoachError(f"“{kind}” is no clock.", where="kind", accepted=", ".join(ClockKind) + ".")
        if rack is not None:
            check_rack(gathering, rack, ", or the room")
        found = figures_of(ClockKind(kind), figures)
        clock_plan(ClockKind(kind), found)
        now = clock.now()
        gathering.clocks.filter(rack=rack, stopped_at__isnull=True).update(stopped_at=now)
        run = ClockRun.objects.create(gathering=gathering, rack=rack, kind=kind, figures=found, started_at=now)
        tell_room(gathering)
        return run
