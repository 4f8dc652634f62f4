"""A session that was begun by mistake is as if it had not been."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.floor.events import check_open
from jarvok.app.problems import Conflict


def run(who: Who, session: TrainingSession) -> None:
    """Take a session back that holds no set; the sheet can be started again. One with sets is finished, not cancelled."""
    with acting(who, "cancel_session", f"{session.theme}: begun by mistake", athlete=session.athlete):
        check_open(session)
        if not may_cancel(session):
            raise Conflict("Sets were logged: finish the session instead. What was done stays.")
        session.delete()


def may_cancel(session: TrainingSession) -> bool:
    """Whether nothing was done in a session that is open."""
    return session.finished_at is None and not SetRecord.objects.filter(line__session=session).exists()
