"""The last logged set, or what was done at the rack after it, is taken back: a stop, a set passed over, a set more."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import AdviceRecord, SessionChange, SetKind, SetRecord, TrainingSession
from jarvok.app.floor.actions.stop_line import STOPPED
from jarvok.app.floor.events import check_open, tell
from jarvok.app.problems import Conflict


def run(who: Who, session: TrainingSession) -> None:
    """Take back the last logged step and the advice that came with it; its repetitions stay. What came after it goes first."""
    with acting(who, "undo_set", "last set taken back", athlete=session.athlete):
        check_open(session)
        logged = SetRecord.objects.filter(line__session=session, taken_back_at__isnull=True).order_by("-id")
        last = logged.first()
        stop = AdviceRecord.objects.filter(line__session=session, outcome=STOPPED, taken_back_at__isnull=True).last()
        change = SessionChange.objects.filter(line__session=session, taken_back_at__isnull=True).order_by("act_id", "id").last()
        newest = max((x.act_id or 0 for x in (last, stop, change) if x is not None), default=0)
        if change is not None and change.act_id == newest:
            SessionChange.objects.filter(act_id=newest, line__session=session).update(taken_back_at=clock.now())
            tell(session, "changed", {"line_id": change.line_id})
            return
        if stop is not None and stop.act_id == newest:
            stop.taken_back_at = clock.now()
            stop.save(update_fields=["taken_back_at"])
            tell(session, "changed", {"line_id": stop.line_id})
            return
        if last is None:
            raise Conflict("Nothing has been logged yet.")
        now = clock.now()
        together = list(logged.filter(step=last.step)) if last.step else [last]
        for record in together:
            record.taken_back_at = now
            record.save(update_fields=["taken_back_at"])
            after = record.number if record.kind == SetKind.WORK else 0  # advice after a warm-up stands at nought
            advice = AdviceRecord.objects.filter(line_id=record.line_id, after_number=after, taken_back_at__isnull=True)
            advice.update(taken_back_at=now)
        tell(session, "changed", {"line_id": last.line_id})
