"""Sprints of the days after a lead-in day and after a day off, as athletes ran them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetKind, SetRecord
from jarvok.app.floor.reached import sets_of
from jarvok.core.exercises import Exercise
from jarvok.core.learning.findings import Noticed
from jarvok.core.learning.lead_in_noticed import MOST_LEAD_IN_M, SprintDay, lead_in_that_suits
from jarvok.core.library.exercises import exercises

LOOK_BACK_DAYS = 182  # [J] half a year of weeks


def lead_ins_noticed(people: Sequence[Athlete], today: date) -> dict[int, Noticed]:
    """Return what the sprints of each athlete say of lead-in days; who has run nothing costs one question for all."""
    runs = {e.id: e for e in exercises().values() if e.kind == "run"}
    since = today - timedelta(days=LOOK_BACK_DAYS)
    done = SetRecord.objects.filter(
        line__session__athlete__in=people, line__session__day__range=(since, today), kind=SetKind.WORK, taken_back_at__isnull=True
    )
    who = set(done.filter(line__exercise_id__in=list(runs)).order_by().values_list("line__session__athlete_id", flat=True))
    if not who:
        return {}
    trained: dict[tuple[int, date], set[str]] = defaultdict(set)
    rows = done.filter(line__session__athlete_id__in=who).order_by().values_list(
        "line__session__athlete_id", "line__session__day", "line__exercise_id"
    )  # fmt: skip
    for athlete_id, day, exercise_id in rows.distinct():
        trained[athlete_id, day].add(exercise_id)
    best: dict[int, dict[tuple[date, str], tuple[float, str]]] = defaultdict(dict)
    longest: dict[tuple[int, date], float] = defaultdict(float)
    for (athlete_id, lift), sets in sets_of(list(who), since, today, list(runs)).items():
        for item in sets:
            if item.day < since or item.run_s is None or not item.run_m:
                continue
            longest[athlete_id, item.day] = max(longest[athlete_id, item.day], item.run_m)
            key = item.day, f"{lift}:{item.run_m:g}"
            if key not in best[athlete_id] or item.run_s < best[athlete_id][key][0]:
                best[athlete_id][key] = item.run_s, item.ref
    found: dict[int, Noticed] = {}
    for athlete_id, times in best.items():
        days = []
        for (day, what), (time_s, ref) in times.items():
            before = athlete_id, day - timedelta(days=1)
            if before not in trained:
                days.append(SprintDay(day, what, time_s, after_lead_in=False, ref=ref))
            elif _leads_in(trained[before], runs) and longest[before] <= MOST_LEAD_IN_M:
                days.append(SprintDay(day, what, time_s, after_lead_in=True, ref=ref))
        noticed = lead_in_that_suits(days, today)
        if noticed is not None:
            found[athlete_id] = noticed
    return found


def _leads_in(done: set[str], runs: dict[str, Exercise]) -> bool:
    """Whether a day held starts, and no other runs."""
    ran = [runs[e] for e in done if e in runs]
    return bool(ran) and all("start" in e.roles for e in ran)
