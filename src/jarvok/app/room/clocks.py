"""Clocks that were started: what they are and the moments from which every page works out the same face."""

from __future__ import annotations

import time
from collections.abc import Mapping

from django.db import transaction

from jarvok.app import clock
from jarvok.app.problems import Conflict
from jarvok.app.room.models import ClockRun, Gathering
from jarvok.app.room.services import tell_room
from jarvok.app.room.shapes import ClockOut, ClockPartOut
from jarvok.core.errors import CoachError
from jarvok.core.floor.clocks import FORMS, ClockKind, clock_plan, figures_of


def clock_out(run: ClockRun) -> ClockOut:
    """A clock as the page needs it; moments in milliseconds since 1970, with the server's now beside them."""
    kind = ClockKind(run.kind)
    plan = clock_plan(kind, run.figures)
    return ClockOut(
        id=run.pk,
        rack=run.rack,
        kind=kind,
        name=FORMS[kind].name,
        words=plan.words,
        parts=[ClockPartOut(call=p.call, seconds=p.seconds, is_work=p.is_work, round=p.round) for p in plan.parts],
        rounds=plan.rounds,
        beat_s=plan.beat_s,
        beats=plan.beats,
        seconds=plan.seconds,
        started_ms=run.started_at.timestamp() * 1000,
        paused_ms=run.paused_at.timestamp() * 1000 if run.paused_at else None,
        paused_s=run.paused_s,
        now_ms=time.time() * 1000,
    )


@transaction.atomic
def start_clock(gathering: Gathering, kind: str, figures: Mapping[str, float], rack: int | None) -> ClockRun:
    """Start a clock for a rack, or for the room; one that runs there stops."""
    if kind not in set(ClockKind):
        raise CoachError(f"“{kind}” is no clock.", where="kind", accepted=", ".join(ClockKind) + ".")
    if rack is not None and not 1 <= rack <= gathering.racks:
        raise CoachError(f"There is no rack {rack}.", where="rack", accepted=f"1 to {gathering.racks}, or the room.")
    found = figures_of(ClockKind(kind), figures)
    clock_plan(ClockKind(kind), found)
    now = clock.now()
    gathering.clocks.filter(rack=rack, stopped_at__isnull=True).update(stopped_at=now)
    run = ClockRun.objects.create(gathering=gathering, rack=rack, kind=kind, figures=found, started_at=now)
    tell_room(gathering)
    return run


@transaction.atomic
def change_clock(gathering: Gathering, clock_id: int, act: str) -> None:
    """Pause, go on, or stop a clock."""
    run = gathering.clocks.filter(pk=clock_id).first()
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
