"""Every day before today keeps its plan as it stood: at each start, before anything that plans weeks can change it."""

from __future__ import annotations

import logging
from datetime import timedelta

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Via
from jarvok.app.training.actions import freeze_weeks
from jarvok.core.errors import CoachError

logger = logging.getLogger(__name__)


def freeze_past_weeks() -> int:
    """Freeze the past days of every athlete with a season; return how many weeks were written."""
    until = clock.today() - timedelta(days=1)
    people = read_for_a_week(Athlete.here.all())
    written = 0
    for athlete in people:
        try:
            written += freeze_weeks.run(Who(None, Via.COMMAND), athlete, until)
        except CoachError as error:  # a season that cannot be built keeps nobody from starting
            logger.warning("The past weeks of athlete %s are not kept: %s", athlete.pk, error)
    return written
