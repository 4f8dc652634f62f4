"""A try of a trial is kept."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Trial, TrialEntry
from jarvok.app.problems import Conflict
from jarvok.app.testing.trials import check_running, checked, entries_of


def run(who: Who, trial: Trial, number: int, data: Mapping[str, Any]) -> None:
    """Keep a try. `number` is its place: one that was taken meanwhile is refused, not overwritten."""
    with acting(who, "add_try", f"try {number}", athlete=trial.athlete):
        check_running(trial)
        known = entries_of(trial)
        if number != len(known) + 1:
            raise Conflict(f"Try {number} is there already, or one before it is missing: {len(known)} are kept.")
        TrialEntry.objects.create(trial=trial, data=checked(trial, known, data), at=clock.now())
