"""The last set of a guided test is taken back."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Trial
from jarvok.app.testing.tries import take_back_last


def run(who: Who, test: Trial) -> None:
    """The last set of a guided test is taken back."""
    with acting(who, "undo_attempt", "test set taken back", athlete=test.athlete):
        take_back_last(test)
