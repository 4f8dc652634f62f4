"""What earlier sessions say of a lift on the floor: last warm-ups, and sets with both velocity and effort."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date, timedelta

from django.db.models import F, Max

from jarvok.app.facts.floor.hung import HUNG
from jarvok.app.facts.floor.models import Rep, SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercises
from jarvok.core.rules import Rules
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.effort_table import Pair
from jarvok.core.velocity.last_warm_up import UsualWarmUp

LOOK_BACK_DAYS = 120  # [J] older days say little of what is usual now
MOST_WARM_UPS = 10


def _same_lift(lift: Exercise) -> list[str]:
    return [e.id for e in exercises().values() if e.same_lift == lift.same_lift]


def last_warm_ups(session: TrainingSession, lift: Exercise, rules: Rules) -> list[UsualWarmUp]:
    """The fastest repetition of the last warm-up of each earlier session, newest ones, heavy enough to say something."""
    number = "peak_mps" if lift.velocity == "peak" else "mean_mps"
    rows = (
        Rep.objects.filter(
            ~HUNG,
            line__session__athlete_id=session.athlete_id,
            line__session__day__gte=session.day - timedelta(days=LOOK_BACK_DAYS),
            line__session__day__lt=session.day,
            line__exercise_id__in=_same_lift(lift),
            kind=SetKind.RAMP,
            load_kg__gt=0,
            taken_out_at__isnull=True,
            definition=Definition.CROSSING,  # what was measured otherwise says nothing of what is usual now
        )
        .order_by()
        .values_list("line_id", "line__session__day", "set_number", "load_kg", "line__planned", "line__ramp")
        .annotate(best=Max(F(number)))
    )
    found: dict[int, UsualWarmUp] = {}
    for line_id, day, set_number, load_kg, planned, ramp, best in rows:
        top = next((p.get("load_kg") for p in planned if p.get("load_kg")), None)
        if set_number == len(ramp) and top and load_kg >= rules["floor.last_warm_up_pct"] / 100 * top:
            found[line_id] = UsualWarmUp(day, load_kg, best)
    return sorted(found.values(), key=lambda w: w.day)[-MOST_WARM_UPS:]


def last_typed_warm_ups(session: TrainingSession, lift: Exercise, rules: Rules) -> list[UsualWarmUp]:
    """The same from velocities that were typed: another device's are compared with its own."""
    rows = SetRecord.objects.filter(
        ~HUNG,
        line__session__athlete_id=session.athlete_id,
        line__session__day__gte=session.day - timedelta(days=LOOK_BACK_DAYS),
        line__session__day__lt=session.day,
        line__exercise_id__in=_same_lift(lift),
        kind=SetKind.RAMP,
        load_kg__gt=0,
        taken_back_at__isnull=True,
    ).exclude(measures={})
    found: list[UsualWarmUp] = []
    columns = ("line__session__day", "number", "load_kg", "measures", "line__planned", "line__ramp")
    for day, number, load_kg, measures, planned, ramp in rows.values_list(*columns):
        top = next((p.get("load_kg") for p in planned if p.get("load_kg")), None)
        is_last = number == len(ramp) and "velocity_mps" in measures
        if is_last and top and load_kg is not None and load_kg >= rules["floor.last_warm_up_pct"] / 100 * top:
            found.append(UsualWarmUp(day, load_kg, float(measures["velocity_mps"])))
    return sorted(found, key=lambda w: w.day)[-MOST_WARM_UPS:]


def pairs_of(session: TrainingSession, lift: Exercise) -> tuple[Pair, ...]:
    """Earlier work sets of a lift with the velocity of the last repetition and the felt effort. A variation has its own."""
    return pairs_by_lift(session.athlete_id, session.day - timedelta(days=1), lift.id).get(lift.id, ())


def pairs_by_lift(athlete_id: int, until: date, exercise_id: str = "") -> dict[str, tuple[Pair, ...]]:
    """The pairs of an athlete up to a day, by exercise: of one, or of all."""
    return pairs_of_people([athlete_id], until, exercise_id).get(athlete_id, {})


def pairs_of_people(athletes: Collection[int], until: date, exercise_id: str = "") -> dict[int, dict[str, tuple[Pair, ...]]]:
    """The pairs of some athletes up to a day, by athlete and exercise, in two queries."""
    rows = SetRecord.objects.filter(
        ~HUNG,
        line__session__athlete_id__in=athletes,
        line__session__day__gte=until - timedelta(days=LOOK_BACK_DAYS),
        line__session__day__lte=until,
        kind=SetKind.WORK,
        rir__isnull=False,
        reps__gt=0,
        form="",
        taken_back_at__isnull=True,
    )
    if exercise_id:
        rows = rows.filter(line__exercise_id=exercise_id)
    columns = ("line_id", "number", "line__session__athlete_id", "line__exercise_id", "line__session__day", "rir", "pk")
    sets = {(line_id, number): of for line_id, number, *of in rows.values_list(*columns)}
    if not sets:
        return {}
    known = exercises()
    last: dict[tuple[int, int], float] = {}
    reps = Rep.objects.filter(
        line__in=SessionLine.objects.filter(pk__in=rows.order_by().values("line_id")),
        kind=SetKind.WORK,
        taken_out_at__isnull=True,
        definition=Definition.CROSSING,
    )
    for line_id, set_number, mean, peak in reps.order_by("id").values_list("line_id", "set_number", "mean_mps", "peak_mps"):
        if (line_id, set_number) in sets:
            lift = known.get(sets[line_id, set_number][1])
            last[line_id, set_number] = peak if lift is not None and lift.velocity == "peak" else mean
    found: dict[int, dict[str, list[Pair]]] = {}
    for key, mps in last.items():
        who, lift_id, day, rir, pk = sets[key]
        found.setdefault(who, {}).setdefault(lift_id, []).append(Pair(day, mps, 10.0 - rir, f"set:{pk}"))
    return {who: {lift: tuple(pairs) for lift, pairs in mine.items()} for who, mine in found.items()}
