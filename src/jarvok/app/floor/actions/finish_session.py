"""A session is finished."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.at_hand import forget
from jarvok.app.floor.events import check_open, tell
from jarvok.core.errors import CoachError


def run(who: Who, session: TrainingSession, srpe: float | None, minutes: float | None) -> None:
    """A session is finished."""
    with acting(who, "finish_session", "session finished", athlete=session.athlete):
        check_open(session)
        if srpe is not None and not 0 <= srpe <= 10:
            raise CoachError("Session RPE runs from 0 to 10.", where="srpe")
        if minutes is not None and not 1 <= minutes <= 400:
            raise CoachError("A session lasts 1 to 400 minutes.", where="minutes")
        session.finished_at = clock.now()
        session.srpe = srpe
        session.minutes = (
            minutes if minutes is not None else round((session.finished_at - session.started_at).total_seconds() / 60, 1)
        )
        session.save()
        session.streams.filter(closed_at__isnull=True).update(closed_at=session.finished_at)
        tell(session, "finished", {})
    forget(session.pk)
