"""What is known of athletes beside their lifts: faults, age, practice, restrictions."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from datetime import date, timedelta

from django.db.models import OuterRef, QuerySet, Subquery
from django.http import Http404

from jarvok.app.athletes.known import SIDED, sided_of
from jarvok.app.facts.athletes.models import Athlete, BodyMass, Practice, Restriction, Squad
from jarvok.app.facts.learning.models import Finding
from jarvok.app.facts.put_together import Objects, Part
from jarvok.core.library.exercises import exercises
from jarvok.core.marks.limiter import FaultKind, fault_kinds
from jarvok.core.quantities.days import said_day
from jarvok.core.week.placement import Practice as CorePractice

# what a week is laid from
_FOR_A_WEEK = (
    Part(Athlete, "restrictions"),
    Part(Athlete, "faults"),
    Part(Athlete, "session_moves"),
    Part(Athlete, "minutes_played"),
    Part(Athlete, "week_choices"),
    Part(Athlete, "entered", lambda rows: rows.select_related("competition")),
    Part(Athlete, "season_style"),
    Part(Athlete, "written_sessions"),
    Part(Athlete, "own_defaults"),
    Part(Athlete, "findings", parts=[Part(Finding, "words")]),
    Part(Athlete, "masses"),
    Part(Athlete, "marks", sided_of, attr=SIDED),
)
_PRACTICES = Part(Squad, "practices")
_BY_ID = Objects(lambda ids: Athlete.objects.select_related("squad", "kit").filter(pk__in=ids))


def athlete_of(athlete_id: int) -> Athlete:
    """The athlete with all that a week is laid from, as the facts say now; 404 where there is none."""
    return read_for_a_week([athlete_alone(athlete_id)])[0]


def athlete_alone(athlete_id: int, parts: Sequence[Part] = ()) -> Athlete:
    """The athlete with squad and room and some parts, as the facts say now; 404 where there is none."""
    found = _BY_ID.of([athlete_id])
    if not found:
        raise Http404("No such athlete.")
    for part in parts:
        part.read(found)
    return found[0]


def read_for_a_week(rows: Iterable[Athlete]) -> list[Athlete]:
    """Athletes with their squad and room and all that a week is laid from, in fifteen queries for all of them at most."""
    people = list(rows.select_related("squad", "kit") if isinstance(rows, QuerySet) else rows)
    for part in _FOR_A_WEEK:
        part.read(people)
    _PRACTICES.read([a.squad for a in people])
    return people


def mass_on(athlete: Athlete, day: date) -> float | None:
    """Body mass in kg as last recorded up to a day, or None."""
    known = sorted((m for m in athlete.masses.all() if m.day <= day), key=lambda m: (m.day, m.pk))
    return known[-1].mass_kg if known else None


def newest_masses(athletes: Collection[int]) -> dict[int, float | None]:
    """Body mass in kg as last recorded, by athlete, in one query."""
    newest = BodyMass.objects.filter(athlete=OuterRef("pk")).order_by("-day", "-pk").values("mass_kg")[:1]
    rows = Athlete.objects.filter(pk__in=athletes).order_by().annotate(newest_kg=Subquery(newest))
    return dict(rows.values_list("pk", "newest_kg"))


def faults_of(athlete: Athlete, day: date, lift_id: str = "") -> list[FaultKind]:
    """Faults open on a day, of one lift or of all."""
    kinds = fault_kinds()
    return [
        kinds[f.fault]
        for f in athlete.faults.all()
        if f.since <= day and (f.until is None or f.until >= day) and f.exercise_id in ("", lift_id or f.exercise_id)
    ]


def age_of(athlete: Athlete, today: date) -> int | None:
    """Age in whole years, or None without a birth date."""
    born = athlete.birth_date
    if born is None:
        return None
    return today.year - born.year - ((today.month, today.day) < (born.month, born.day))


def practice_rows_of(athlete: Athlete) -> list[Practice]:
    """The practices an athlete takes part in: the squad's and the own."""
    return [p for p in athlete.squad.practices.all() if p.athlete_id in (None, athlete.pk) and not p.is_out]


def practice_span_words(since: date | None, until: date | None, but_not: Sequence[date], today: date) -> str:
    """From when to when a practice goes on, and the days ahead on which it falls out; nothing where it simply goes on."""
    out = ", ".join(said_day(d) for d in but_not if d >= today)
    parts = [
        f"from {said_day(since, year=True)}" if since is not None and since > today else "",
        f"until {said_day(until, year=True)}" if until is not None else "",
        f"not on {out}" if out else "",
    ]
    return ", ".join(p for p in parts if p)


def practices_of(athlete: Athlete, monday: date) -> list[CorePractice]:
    """The practices that take place in the week of a Monday: one that has ended, or falls out that day, is not among them."""
    return [
        CorePractice(p.weekday, p.hour, p.minutes, p.hardness)
        for p in practice_rows_of(athlete)
        if p.is_on(monday + timedelta(days=p.weekday))
    ]


def restrictions_of(athlete: Athlete, day: date) -> list[Restriction]:
    return [r for r in athlete.restrictions.all() if r.since <= day and (r.until is None or r.until >= day)]


def restriction_tags() -> tuple[str, ...]:
    """What a restriction may take out: patterns, regions and tags that the library knows."""
    patterns = {e.pattern for e in exercises().values() if e.is_loaded or e.pattern in ("jump", "run", "throw")}
    tags = {tag for e in exercises().values() for tag in e.tags}
    return tuple(sorted(patterns | tags | {"upper", "lower", "neck", "trunk"}))
