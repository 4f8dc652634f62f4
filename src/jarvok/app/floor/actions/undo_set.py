"""The last logged set is taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import AdviceRecord, SetKind, SetRecord, TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.problems import Conflict


def run(who: Who, session: TrainingSession) -> None:
    """Take back the last logged set and the advice that came with it; its repetitions stay."""
    with acting(who, "undo_set", "last set taken back", athlete=session.athlete):
        check_open(session)
        last = SetRecord.objects.filter(line__session=session, taken_back_at__isnull=True).order_by("-id").first()
        if last is None:
            raise Conflict("Nothing has been logged yet.")
        now = clock.now()
        last.taken_back_at = now
        last.save()
        after = last.number if last.kind == SetKind.WORK else 0  # advice after a warm-up stands at nought
        AdviceRecord.objects.filter(line=last.line, after_number=after, taken_back_at__isnull=True).update(taken_back_at=now)
        tell(session, "changed", {"line_id": last.line_id})
