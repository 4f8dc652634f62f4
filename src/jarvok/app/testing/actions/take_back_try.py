"""The last try of a trial is taken back."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Trial
from jarvok.app.testing.tries import take_back_last


def run(who: Who, trial: Trial) -> None:
    """Take the last try back."""
    with acting(who, "take_back_try", "try taken back", athlete=trial.athlete):
        take_back_last(trial)
