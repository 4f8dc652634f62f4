"""A try of a trial is kept."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Trial
from jarvok.app.problems import Conflict
from jarvok.app.testing.trials import checked
from jarvok.app.testing.tries import check_running, entries_of, keep


def run(who: Who, trial: Trial, number: int, data: Mapping[str, Any]) -> None:
    """Keep a try. `number` is its place: one that was taken meanwhile is refused, not overwritten."""
    with acting(who, "add_try", f"try {number}", athlete=trial.athlete):
        check_running(trial)
        known = len(entries_of(trial))
        if number != known + 1:
            raise Conflict(f"Try {number} is there already, or one before it is missing: {known} are kept.")
        keep(trial, number, checked(trial, known, data))
