"""The last set of a guided test is taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import MaxTest
from jarvok.app.problems import Conflict


def run(who: Who, test: MaxTest) -> None:
    """The last set of a guided test is taken back."""
    with acting(who, "undo_attempt", "test set taken back", athlete=test.athlete):
        if test.ended_at is not None:
            raise Conflict("This test is over; its result stays as it is.")
        last = test.attempts.filter(taken_back_at__isnull=True).last()
        if last is None:
            raise Conflict("Nothing has been logged yet.")
        last.taken_back_at = clock.now()
        last.save()
