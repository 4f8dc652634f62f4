"""What the database knows of athletes' lifts up to a day: results, sets, velocities, decisions, read for many at once."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import chain
from typing import Any, NamedTuple

from django.db.models import QuerySet, TextField
from django.db.models.functions import Cast

from jarvok.app.athletes.entered import calendar_entries, entered_by
from jarvok.app.athletes.findings import acting
from jarvok.app.athletes.lift_sets import Asked, SetsOf, conditions_of, read_sets
from jarvok.app.athletes.reading import mass_on, newest_masses
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, MaxDecision
from jarvok.app.facts.learning.models import Finding
from jarvok.app.facts.put_together import Objects, PutTogether
from jarvok.core.learning.findings import Kind
from jarvok.core.marks.conditions import from_raw, is_comparable, usual_of
from jarvok.core.marks.mark import EVIDENCE, Conditions, Mark, MarkKind
from jarvok.core.marks.sweep import Decision
from jarvok.core.rules import Rules
from jarvok.core.season.calendar import SpanKind
from jarvok.core.season.exposures import Event
from jarvok.core.season.model import Rank
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.profile import LoadVelocity

EVIDENCE_DAYS = 200
MARK_DAYS = 420  # the trend of half a year, and half a year of marks before its first day
NO_GROWTH = (SpanKind.HOLIDAY, SpanKind.AWAY, SpanKind.ILL)
TAPER = timedelta(days=14)  # published: 8 to 14 days, Bosquet et al. 2007, quoted from memory
KINDS = {kind.value: kind for kind in MarkKind}


class Decided(NamedTuple):
    """One answer to a rise as it was stored."""

    exercise_id: str
    evidence: str
    day: date
    accepted: bool
    ask_again_on: date | None


@dataclass
class WithoutSets:
    """What is known of one athlete's lifts and no set can change: typed results and velocities by lift, answers to rises."""

    marks: dict[str, list[Mark]] = field(default_factory=lambda: defaultdict(list))
    points: list[tuple[str, LoadVelocity]] = field(default_factory=list)
    decided: list[Decided] = field(default_factory=list)


@dataclass
class LiftFacts:
    """One athlete's, by lift. Whoever asks for them leaves them as they are."""

    without_sets: WithoutSets = field(default_factory=WithoutSets)
    sets: SetsOf = field(default_factory=SetsOf)
    marks: dict[str, list[Mark]] = field(default_factory=lambda: defaultdict(list))
    usual: dict[str, Conditions] = field(default_factory=dict)  # where any mark names conditions, or the coach has
    others: dict[str, list[Mark]] = field(default_factory=dict)  # marks under other conditions than those
    decisions: dict[str, list[Decision]] = field(default_factory=lambda: defaultdict(list))
    contests: dict[str, tuple[date, str, float]] = field(default_factory=dict)
    put_off: dict[tuple[str, str], date] = field(default_factory=dict)  # by lift and evidence
    pauses: list[tuple[date, date]] = field(default_factory=list)
    points: dict[str, list[LoadVelocity]] = field(default_factory=lambda: defaultdict(list))
    all_points: dict[str, list[LoadVelocity]] = field(default_factory=lambda: defaultdict(list))
    mass_kg: float | None = None
    line_since: dict[str, date] = field(default_factory=dict)  # a kept finding: the line has moved since


@dataclass(frozen=True)
class Wanted:
    """Up to which day is read, how far back, and what is left out of it."""

    day: date
    rules: Rules
    history_days: int = EVIDENCE_DAYS
    without_session: int | None = None
    without_mark: int | None = None

    @property
    def velocities_since(self) -> date:
        """The first day of which velocities are read."""
        fresh = int(self.rules["velocity.oldest_days"])
        return self.day - timedelta(days=max(fresh, self.history_days if self.history_days > EVIDENCE_DAYS else 0))


def read_lift_facts(athletes: Mapping[int, Athlete], wanted: Wanted) -> dict[int, LiftFacts]:
    """Return the facts of each athlete, in twelve queries for all of them."""
    found = {pk: LiftFacts() for pk in athletes}
    if found:
        for pk, mass_kg in _masses(athletes, wanted.day).items():
            found[pk].mass_kg = mass_kg
        _read_marks(found, wanted)
        _read_decisions(found)
        _read_calendar(found, athletes, wanted.day)
        for finding in acting(_LINES.of(list(found), wanted.day)):
            if finding.athlete_id is not None:
                found[finding.athlete_id].line_since[finding.exercise_id] = finding.day
        _add_sets(found, athletes, wanted, {})
    return found


def read_sets_again(before: Mapping[int, LiftFacts], athletes: Mapping[int, Athlete], wanted: Wanted) -> dict[int, LiftFacts]:
    """Return the facts of athletes of whom nothing has changed but their sets since, in five queries for all of them."""
    found = {pk: _but_for_sets(old) for pk, old in before.items()}
    if found:
        _add_sets(found, athletes, wanted, {pk: old.sets for pk, old in before.items()})
    return found


def without_session(facts: LiftFacts, athlete: Athlete, wanted: Wanted) -> LiftFacts:
    """Return facts as if the session that is not wanted had not been."""
    found = _but_for_sets(facts)
    found.sets = SetsOf({pk: of for pk, of in facts.sets.sessions.items() if pk != wanted.without_session}, facts.sets.heard)
    _put_together(found, athlete, wanted)
    return found


def _but_for_sets(facts: LiftFacts) -> LiftFacts:
    return LiftFacts(
        without_sets=facts.without_sets, contests=facts.contests, pauses=facts.pauses, mass_kg=facts.mass_kg,
        line_since=facts.line_since,
    )  # fmt: skip


def _add_sets(
    found: Mapping[int, LiftFacts], athletes: Mapping[int, Athlete], wanted: Wanted, before: Mapping[int, SetsOf]
) -> None:
    """What sets say, beside what was typed; `before` as they were read, where nothing else has changed since."""
    since = wanted.day - timedelta(days=EVIDENCE_DAYS)
    asked = Asked(wanted.day, since, wanted.velocities_since, wanted.without_session)
    sets = read_sets({pk: facts.mass_kg for pk, facts in found.items()}, asked, before)
    for pk, facts in found.items():
        facts.sets = sets[pk]
        _put_together(facts, athletes[pk], wanted)


def _put_together(facts: LiftFacts, athlete: Athlete, wanted: Wanted) -> None:
    for lift_id, marks in facts.without_sets.marks.items():
        facts.marks[lift_id].extend(marks)
    for lift_id, mark in facts.sets.marks():
        facts.marks[lift_id].append(mark)
    for lift_id, point in chain(facts.without_sets.points, facts.sets.points()):
        _point(facts, lift_id, point, wanted)
    _decide(facts)
    _part_conditions(facts, athlete)


def _masses(athletes: Mapping[int, Athlete], day: date) -> dict[int, float | None]:
    """The newest body mass of each, from what was read with them where it was."""
    if all("masses" in getattr(a, "_prefetched_objects_cache", {}) for a in athletes.values()):
        return {pk: mass_on(a, day) for pk, a in athletes.items()}
    return newest_masses(list(athletes))


OF_A_MARK = ("pk", "athlete_id", "exercise_id", "day", "kind", "load_kg", "reps", "rir", "told")


def _typed(ids: Sequence[int]) -> QuerySet[MarkRecord]:
    return MarkRecord.objects.filter(athlete_id__in=ids, withdrawn_at__isnull=True, side="")


def _evidence(ids: Sequence[int]) -> QuerySet[Any]:
    return _typed(ids).filter(kind__in=EVIDENCE).order_by().annotate(told=Cast("conditions", TextField()))


def _fast(ids: Sequence[int], since: date, day: date) -> QuerySet[MarkRecord, Any]:
    fast = _typed(ids).filter(kind__in=(MarkKind.SET_VELOCITY, MarkKind.VELOCITY_BEST), day__range=(since, day))
    return fast.values_list("pk", "athlete_id", "exercise_id", "day", "load_kg", "measures")


_NEWER = PutTogether(lambda ids, cut, day: _evidence(ids).filter(day__range=(cut, day)).values_list(*OF_A_MARK))
_FAST = PutTogether(_fast)
_DECISIONS = Objects(lambda ids: MaxDecision.objects.filter(athlete_id__in=ids))
_LINES = Objects(lambda ids, day: Finding.objects.filter(athlete_id__in=ids, kind=Kind.LINE, day__lte=day))


def _read_marks(found: Mapping[int, LiftFacts], wanted: Wanted) -> None:
    """Marks of the last year and more; older ones of lifts of which the athlete has no newer."""
    day, ids = wanted.day, list(found)
    cut = day - timedelta(days=max(MARK_DAYS, int(wanted.rules["max.oldest_days"]) + MARK_DAYS // 2, wanted.history_days))
    _keep_marks(found, _NEWER.rows(ids, cut, day), wanted)
    newer = {pk: {lift for lift, marks in facts.without_sets.marks.items() if marks} for pk, facts in found.items()}
    known = set.intersection(*newer.values())
    older = _evidence(ids).filter(day__lt=cut).exclude(exercise_id__in=known)
    _keep_marks(found, older.values_list(*OF_A_MARK), wanted, newer)
    for pk, athlete_id, exercise_id, at, load_kg, measures in _FAST.rows(ids, wanted.velocities_since, day):
        if pk == wanted.without_mark:
            continue
        point = LoadVelocity(at, load_kg, measures["velocity_mps"], f"mark:{pk}", Definition.DEVICE)
        found[athlete_id].without_sets.points.append((exercise_id, point))


def _keep_marks(
    found: Mapping[int, LiftFacts], rows: Iterable[Any], wanted: Wanted, newer: Mapping[int, set[str]] | None = None
) -> None:
    for pk, athlete_id, exercise_id, day, kind, load_kg, reps, rir, told in rows:
        if pk == wanted.without_mark:
            continue
        if newer is None or exercise_id not in newer[athlete_id]:
            mark = Mark(f"mark:{pk}", day, KINDS[kind], load_kg, reps, rir, conditions=conditions_of(told))
            found[athlete_id].without_sets.marks[exercise_id].append(mark)


def _read_decisions(found: Mapping[int, LiftFacts]) -> None:
    for d in _DECISIONS.of(list(found)):
        decided = Decided(d.exercise_id, d.evidence, d.day, d.accepted, d.ask_again_on)
        found[d.athlete_id].without_sets.decided.append(decided)


def _decide(facts: LiftFacts) -> None:
    """The last word on each piece of evidence; one of before evidence was named is about all that says something on its day."""
    newest: dict[tuple[str, str], Decided] = {}
    for d in facts.without_sets.decided:
        refs = [d.evidence] if d.evidence else [m.ref for m in facts.marks.get(d.exercise_id, ()) if m.day == d.day]
        newest |= {(d.exercise_id, ref): d for ref in refs}
    for (exercise_id, ref), d in newest.items():
        if d.ask_again_on is None:
            facts.decisions[exercise_id].append(Decision(ref, d.accepted))
        else:
            facts.put_off[exercise_id, ref] = d.ask_again_on


def _read_calendar(found: Mapping[int, LiftFacts], athletes: Mapping[int, Athlete], day: date) -> None:
    """Days away or ill, and the days before main competitions: no max grows over them; and what contests ask for."""
    ids, since = list(found), day - timedelta(days=EVIDENCE_DAYS)
    for e in calendar_entries(ids):
        if e.kind not in NO_GROWTH or e.end < since:
            continue
        for a in athletes.values():
            if e.athlete_id == a.pk or (e.squad_id == a.squad_id and e.group in ("", a.group)):
                found[a.pk].pauses.append((e.start, e.end))
    for c in entered_by(ids):
        facts = found[c.athlete_id]
        if c.rank == Rank.MAIN and since <= c.day <= day + TAPER:
            facts.pauses.append((c.day - TAPER, c.day))
        for event in (Event.from_raw(e) for e in c.events) if c.day >= day else ():
            load_kg, lift = event.load_for(c.division), event.exercise_id
            if load_kg and lift and (lift not in facts.contests or c.day < facts.contests[lift][0]):
                facts.contests[lift] = (c.day, c.name, load_kg)


def _point(facts: LiftFacts, lift_id: str, point: LoadVelocity, wanted: Wanted) -> None:
    """Keep a repetition: for the record always, for the profile while it is fresh."""
    facts.all_points[lift_id].append(point)
    if (wanted.day - point.day).days <= wanted.rules["velocity.oldest_days"]:
        facts.points[lift_id].append(point)


def _part_conditions(facts: LiftFacts, athlete: Athlete) -> None:
    """Marks under other conditions than the usual ones of their lift stand beside the others: they are not compared."""
    for lift_id, marks in facts.marks.items():
        told = athlete.usual_conditions.get(lift_id)
        if not told and not any(m.conditions for m in marks):
            continue
        typed = [m for m in marks if m.ref.startswith("mark:")]  # sets of a line with straps make no habit of them
        usual = usual_of(typed or marks, from_raw(told))
        facts.usual[lift_id] = usual
        facts.others[lift_id] = [m for m in marks if not is_comparable(m, (), usual)]
        marks[:] = [m for m in marks if is_comparable(m, (), usual)]
