"""A session that was begun by mistake is as if it had not been."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.floor.at_hand import forget
from jarvok.app.floor.events import check_open
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError

LONGEST_REASON = 120


def run(who: Who, session: TrainingSession, reason: str = "") -> None:
    """Take a session back that holds no set, with the reason in the history; the sheet can be started again.

    One with sets is finished, not cancelled.
    """
    why = " ".join(reason.split())
    if len(why) > LONGEST_REASON:
        raise CoachError(f"A reason has up to {LONGEST_REASON} characters; this has {len(why)}.", where="reason")
    words = f"{session.theme} cancelled: {why or 'begun by mistake'}"
    forget(session.pk)
    with acting(who, "cancel_session", words, athlete=session.athlete):
        check_open(session)
        if not may_cancel(session):
            raise Conflict("Sets were logged: finish the session instead. What was done stays.")
        session.delete()


def may_cancel(session: TrainingSession) -> bool:
    """Whether nothing was done in a session that is open."""
    return session.finished_at is None and not SetRecord.objects.filter(line__session=session).exists()
