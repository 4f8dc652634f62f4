"""The newest sprint of an athlete that its splits give a curve of."""

from __future__ import annotations

from collections import defaultdict
from datetime import date

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.room.models import Reading
from jarvok.core.errors import CoachError
from jarvok.core.marks.mark import MarkKind
from jarvok.core.running.sprint_curve import Split, SprintCurve, sprint_curve

RUN = "sprint"


def newest_run(athlete: Athlete) -> tuple[date, SprintCurve] | None:
    """The newest day whose splits give a curve. Of several times typed for a distance the fastest counts; of runs through gates
    the fastest one.
    """
    masses = list(athlete.masses.all())
    runs = [*_typed_runs(athlete), *_runs_through_gates(athlete)]
    for day, splits in sorted(runs, key=lambda run: run[0], reverse=True):  # of one day what is typed first, then the fastest
        try:
            found = sprint_curve(splits, masses[-1].mass_kg if masses else None, athlete.height_cm)
        except CoachError:  # times of different runs that cannot be of one
            continue
        if found is not None:
            return day, found
    return None


def _typed_runs(athlete: Athlete) -> list[tuple[date, list[Split]]]:
    by_day: dict[date, dict[float, float]] = defaultdict(dict)
    rows = MarkRecord.objects.filter(athlete=athlete, exercise_id=RUN, kind=MarkKind.SPRINT, withdrawn_at__isnull=True, side="")
    for m in rows.order_by("day"):
        far, time_s = m.measures["distance_m"], m.measures["seconds"]
        by_day[m.day][far] = min(time_s, by_day[m.day].get(far, time_s))
    return [(day, [Split(far, time_s) for far, time_s in by_day[day].items()]) for day in by_day]


def _runs_through_gates(athlete: Athlete) -> list[tuple[date, list[Split]]]:
    """Sprints on the floor through gates whose places are known, the fastest of a day first."""
    by_run: dict[tuple[date, int, int], dict[float, float]] = defaultdict(dict)
    rows = Reading.objects.filter(
        line__session__athlete=athlete, line__exercise_id=RUN, values__has_key="metres", taken_out_at__isnull=True
    ).order_by("pk")
    for day, line_id, number, values in rows.values_list("line__session__day", "line_id", "set_number", "values"):
        by_run[day, line_id, number][values["metres"]] = values["seconds"]
    runs = [(day, [Split(far, time_s) for far, time_s in sorted(run.items())]) for (day, _, _), run in by_run.items()]
    return sorted(runs, key=lambda run: (-run[1][-1].distance_m, run[1][-1].time_s))
