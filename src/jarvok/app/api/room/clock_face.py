"""A clock of the room as the page needs it."""

from __future__ import annotations

import time

from jarvok.app.api.room.shapes import ClockOut, ClockPartOut
from jarvok.app.facts.room.models import ClockRun
from jarvok.core.floor.clocks import FORMS, ClockKind, clock_plan


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
