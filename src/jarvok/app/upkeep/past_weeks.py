"""Every day before today keeps its plan as it stood: at each start, before anything that plans weeks can change it."""

from __future__ import annotations

from datetime import timedelta

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.athletes.reading import FOR_A_WEEK
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Via
from jarvok.app.training.actions import freeze_weeks


def freeze_past_weeks() -> int:
    """Freeze the past days of every athlete with a season; return how many weeks were written."""
    until = clock.today() - timedelta(days=1)
    people = Athlete.objects.select_related("squad", "kit").prefetch_related(*FOR_A_WEEK)
    return sum(freeze_weeks.run(Who(None, Via.COMMAND), athlete, until) for athlete in people)
