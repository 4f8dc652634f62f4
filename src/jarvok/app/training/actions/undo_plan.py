"""The newest change of an athlete's plan is taken back, for everybody it was made for."""

from __future__ import annotations

from django.db import IntegrityError

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Act
from jarvok.app.problems import Conflict
from jarvok.app.training.undo import STEPS, newest_step


def run(who: Who, athlete: Athlete) -> str:
    """Take back the newest change; return what it was in words."""
    step = newest_step(athlete)
    if step is None or step.act_id is None:
        raise Conflict("There is nothing to take back.")
    undone = Act.objects.select_related("athlete", "squad").get(pk=step.act_id)
    rows = {pk for kind in STEPS for pk in kind.objects.filter(act=undone).values_list("athlete_id", flat=True)}
    also = list(Athlete.objects.filter(pk__in=rows))
    try:
        with acting(who, "undo", undone.words, athlete=undone.athlete, squad=undone.squad, undoes=undone, also=also):
            for kind in STEPS:
                kind.objects.filter(act=undone, undone_at__isnull=True).update(undone_at=clock.now())
    except IntegrityError:  # pressed twice at once: an act is undone once
        raise Conflict(f"“{undone.words}” has just been taken back.") from None
    return undone.words
