"""What happens on the floor is told to every page that is open."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from jarvok.app.facts.floor.models import FloorEvent, TrainingSession
from jarvok.app.facts.writing import writing
from jarvok.app.hub import hub
from jarvok.app.problems import Conflict

LIVE = ("rep", "jump", "split", "heart", "velocity", "sensor")  # what comes with a set and changes nothing of who is up


def tell(session: TrainingSession, kind: str, payload: dict[str, Any]) -> FloorEvent:
    """Store an event and wake the pages once the transaction is through; returns it."""
    wake = hub.wake if kind in LIVE else hub.changed
    with writing():  # events are numbered in the order in which they are through: who resumes misses none
        event = FloorEvent.objects.create(session=session, kind=kind, payload=payload)
        transaction.on_commit(lambda: wake(session.pk))
    return event


def check_open(session: TrainingSession) -> None:
    """Raise `Conflict` when the session is over."""
    if session.finished_at is not None:
        raise Conflict("This session is finished; what was done stays as it is.")
