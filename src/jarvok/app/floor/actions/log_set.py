"""A set is logged as it was done."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.done_sets import Done, as_logged, check_set, line_and_set, store
from jarvok.app.floor.events import check_open
from jarvok.app.problems import Conflict


def run(who: Who, session: TrainingSession, line_id: int, kind: str, number: int, done: Done) -> None:
    """Store one set as done; after a work set the advice for the next is stored with it."""
    with acting(who, "log_set", f"set {number} logged", athlete=session.athlete):
        check_open(session)
        check_set(done)
        line, item = line_and_set(session, line_id, kind, number)
        if item.record is not None:
            raise Conflict(
                f"Already logged, {as_logged(line, item.record)}. Yours was not stored; change it there if it differs."
            )
        store(session, line, item, done)
