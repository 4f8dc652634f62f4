"""What is known of an athlete, as the chooser of exercises takes it: read once for an athlete and day."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime

from django.db.models import QuerySet

from jarvok.app.athletes.sides import sides_of
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.learning.models import Finding as LearnedFinding
from jarvok.app.facts.learning.models import FindingState
from jarvok.core.chooser.known import (
    Because,
    FastLoad,
    Finding,
    Known,
    LeadIn,
    LiftFault,
    Preference,
    SideGap,
    StrengthLimit,
    traits_for,
)
from jarvok.core.chooser.wishes import Wishes, wishes
from jarvok.core.learning.findings import Kind as LearnedKind
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.limiter import fault_kinds
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import Rules

_WISHES = "_wishes_on"
SIDED = "sided_marks"


def wishes_of(athlete: Athlete, day: date, rules: Rules, limits: tuple[StrengthLimit, ...] = ()) -> Wishes:
    """What everything known of the athlete on a day asks of a week; `limits` are the lifts that strength limits."""
    known: dict[Known, Wishes] = athlete.__dict__.setdefault(_WISHES, {})
    now = replace(known_of(athlete, day, rules), limits=limits)
    if now not in known:
        known[now] = wishes(now)
    return known[now]


def known_of(athlete: Athlete, day: date, rules: Rules) -> Known:
    """What is known of an athlete on a day, from the record, the results and the tests."""
    return Known(
        sport=athlete.squad.sport,
        traits=frozenset(athlete.traits) & {t.id for t in traits_for(athlete.squad.sport)},
        faults=faults_on(athlete, day),
        sides=_gaps(athlete, rules),
        stronger_side=athlete.dominant_side,
        findings=tuple(Finding(e, reps) for e, reps in sorted(jumps_a_set_of(athlete).items())),
        declined=frozenset(athlete.declined),
        moved=_moved(athlete),
        fast=_fast(athlete),
        lead_in=_lead_in(athlete),
    )


def _at_work(athlete: Athlete, kind: LearnedKind) -> list[tuple[datetime, LearnedFinding]]:
    """Findings of a kind that a coach has kept, each with when."""
    found = []
    for finding in athlete.findings.all():
        if finding.kind == kind:
            word = max(finding.words.all(), key=lambda w: w.pk, default=None)
            if word is not None and word.state == FindingState.ACTS:
                found.append((word.at, finding))
    return sorted(found, key=lambda row: (row[0], row[1].pk))


def _moved(athlete: Athlete) -> tuple[Preference, ...]:
    """Variations of which a finding says that they moved their lifts."""
    rows = [f for _, f in _at_work(athlete, LearnedKind.VARIATION) if f.exercise_id in exercises()]
    return tuple(
        Preference(Because.FINDING, frozenset({f.exercise_id}), f"has moved the lift before: finding of {said_day(f.day)}")
        for f in rows
    )


def _fast(athlete: Athlete) -> tuple[FastLoad, ...]:
    """Shares of the max that were still fast, the newest finding of each lift."""
    rows = {f.exercise_id: f for _, f in _at_work(athlete, LearnedKind.FAST) if f.value is not None}
    return tuple(
        FastLoad(lift, f.value or 0.0, f"the last wave was still fast at {f.value:g} %: finding of {said_day(f.day)}")
        for lift, f in sorted(rows.items())
    )


def _lead_in(athlete: Athlete) -> LeadIn | None:
    """What the newest finding says of lead-in days."""
    rows = [f for _, f in _at_work(athlete, LearnedKind.LEAD_IN) if f.value is not None]
    if not rows:
        return None
    is_faster = (rows[-1].value or 0.0) < 0
    word = "faster" if is_faster else "slower"
    return LeadIn(is_faster, f"sprints are {word} the day after one: finding of {said_day(rows[-1].day)}")


def jumps_a_set_of(athlete: Athlete) -> dict[str, int]:
    """How many jumps a set suit an athlete, by exercise: from their own tests and what their sessions showed, the last kept."""
    kept = [(d.at, d.exercise_id, d.value) for d in athlete.own_defaults.all() if d.kind == "reps"]
    kept += [(at, f.exercise_id, f.value) for at, f in _at_work(athlete, LearnedKind.JUMPS) if f.value is not None]
    return {exercise_id: int(value) for _, exercise_id, value in sorted(kept, key=lambda row: row[0])}


def faults_on(athlete: Athlete, day: date) -> tuple[LiftFault, ...]:
    """The faults on record on a day, the oldest first."""
    kinds, lifts = fault_kinds(), exercises()
    rows = sorted(athlete.faults.all(), key=lambda f: (f.since, f.pk))
    open_then = (f for f in rows if f.since <= day and (f.until is None or f.until >= day))
    return tuple(
        dict.fromkeys(LiftFault(f.exercise_id, f.fault) for f in open_then if f.fault in kinds and f.exercise_id in lifts)
    )


_GAPS = "_side_gaps"


def _gaps(athlete: Athlete, rules: Rules) -> tuple[SideGap, ...]:
    """The widest flagged difference of each region."""
    known: tuple[SideGap, ...] | None = athlete.__dict__.get(_GAPS)
    if known is not None:
        return known
    records = athlete.__dict__.get(SIDED)
    if records is None:
        records = list(sided_of(athlete.marks.all()))
    widest: dict[str, SideGap] = {}
    for of, both in sides_of(records, rules):
        lift = exercises().get(of.exercise_id)
        if lift is None or not both.is_flagged or not both.weaker:
            continue
        gap = SideGap(lift.id, exercise(lift.id).region, both.weaker, round(100 - both.share_pct, 1))
        if gap.region not in widest or gap.behind_pct > widest[gap.region].behind_pct:
            widest[gap.region] = gap
    found = tuple(widest[region] for region in sorted(widest))
    athlete.__dict__[_GAPS] = found
    return found


def sided_of(marks: QuerySet[MarkRecord]) -> QuerySet[MarkRecord]:
    """Those of some results that are of one side and stand, from the oldest to the newest."""
    return marks.filter(withdrawn_at__isnull=True).exclude(side="").order_by("day", "id")
