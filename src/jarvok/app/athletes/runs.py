"""The newest sprint of an athlete that its splits give a curve of."""

from __future__ import annotations

from collections import defaultdict
from datetime import date

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.core.errors import CoachError
from jarvok.core.marks.mark import MarkKind
from jarvok.core.running.sprint_curve import Split, SprintCurve, sprint_curve

RUN = "sprint"


def newest_run(athlete: Athlete) -> tuple[date, SprintCurve] | None:
    """The newest day whose splits give a curve: of several times over a distance the fastest counts."""
    by_day: dict[date, dict[float, float]] = defaultdict(dict)
    rows = MarkRecord.objects.filter(athlete=athlete, exercise_id=RUN, kind=MarkKind.SPRINT, withdrawn_at__isnull=True, side="")
    for m in rows.order_by("day"):
        far, time_s = m.measures["distance_m"], m.measures["seconds"]
        by_day[m.day][far] = min(time_s, by_day[m.day].get(far, time_s))
    masses = list(athlete.masses.all())
    for day in sorted(by_day, reverse=True):
        try:
            splits = [Split(far, time_s) for far, time_s in by_day[day].items()]
            found = sprint_curve(splits, masses[-1].mass_kg if masses else None, athlete.height_cm)
        except CoachError:  # times of different runs that cannot be of one
            continue
        if found is not None:
            return day, found
    return None
