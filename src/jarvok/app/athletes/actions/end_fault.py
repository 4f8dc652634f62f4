"""A fault is fixed: yesterday was its last day; it stays in the history."""

from __future__ import annotations

from datetime import timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Fault
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.limiter import fault_kinds


def run(who: Who, fault: Fault) -> None:
    """End a fault."""
    words = f"{exercise(fault.exercise_id).name}: {fault_kinds()[fault.fault].name.lower()}, fixed"
    with acting(who, "end_fault", words, athlete=fault.athlete):
        fault.until = clock.today() - timedelta(days=1)
        fault.save()
