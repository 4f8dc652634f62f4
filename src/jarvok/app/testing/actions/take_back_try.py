"""The last try of a trial is taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Trial
from jarvok.app.problems import Conflict
from jarvok.app.testing.trials import check_running, entries_of


def run(who: Who, trial: Trial) -> None:
    """Take the last try back."""
    with acting(who, "take_back_try", "try taken back", athlete=trial.athlete):
        check_running(trial)
        known = entries_of(trial)
        if not known:
            raise Conflict("Nothing has been tried yet.")
        known[-1].taken_back_at = clock.now()
        known[-1].save(update_fields=["taken_back_at"])
