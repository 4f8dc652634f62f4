"""Lifts done fast: the load up to which the last wave was still fast."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta

from django.db.models import Max

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import unit_for
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import Rep, SetKind
from jarvok.core.learning.findings import FRESH_DAYS, Noticed
from jarvok.core.learning.speed_noticed import FastSet, still_fast
from jarvok.core.library.exercises import exercises
from jarvok.core.loading.accommodating import hung_on
from jarvok.core.velocity.definition import Definition

DYNAMIC = frozenset({"squat_de", "press_de", "pull_de"})  # roles of what is lifted light and fast


def fast_loads_noticed(people: Sequence[Athlete], book: LiftBook) -> dict[int, list[Noticed]]:
    """Return what the velocities of dynamic sets showed of each athlete, in one query.

    What hung on the bar slows it: only sets that had the same on it as the newest are taken together.
    """
    lifts = {e.id: e for e in exercises().values() if DYNAMIC & set(e.roles)}
    rows = (
        Rep.objects.filter(
            line__session__athlete__in=people,
            line__session__day__gt=book.day - timedelta(days=FRESH_DAYS),
            line__session__day__lte=book.day,
            line__exercise_id__in=list(lifts),
            kind=SetKind.WORK,
            load_kg__gt=0,
            taken_out_at__isnull=True,
            definition=Definition.CROSSING,
        )
        .order_by("line__session__day", "line_id", "set_number")
        .values_list(
            "line__session__athlete_id", "line__exercise_id", "line__session__day", "line_id", "set_number", "load_kg",
            "line__text", "line__note",
        )
        .annotate(mean=Max("mean_mps"))
    )  # fmt: skip
    sets: dict[tuple[int, str], dict[str, list[FastSet]]] = defaultdict(lambda: defaultdict(list))
    newest: dict[tuple[int, str], tuple[date, str]] = {}
    for who, lift, day, line_id, number, load_kg, text, note, mean in rows:
        hung = hung_on(text, note) or ""
        sets[who, lift][hung].append(FastSet(day, load_kg, mean, f"line:{line_id}:work:{number}"))
        newest[who, lift] = day, hung
    found: dict[int, list[Noticed]] = defaultdict(list)
    by_id = {a.pk: a for a in people}
    for (who, lift), by_hung in sets.items():
        max_kg = book.state(who, lift).max_kg
        unit = unit_for(lifts[lift], by_id[who].kit)
        alike = by_hung[newest[who, lift][1]]
        noticed = still_fast(lifts[lift].name, lift, alike, max_kg, book.day, unit)
        if noticed is not None:
            found[who].append(noticed)
    return found
