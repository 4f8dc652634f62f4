"""A day looked back on in the evening: every session on one page, what it taught, and who was missing."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import date

from django.db.models import Max, Min, QuerySet
from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import athletes_seen, may, person_of, squads_seen
from jarvok.app.api.learning.shapes import LearningChoiceOut
from jarvok.app.api.problems import ERRORS
from jarvok.app.athletes.findings import Standing, findings_of
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.bests import bests_since
from jarvok.app.floor.lines import floor_lines, with_parts
from jarvok.app.floor.pains import as_told, open_reports
from jarvok.app.floor.review import line_review
from jarvok.app.learning.weeks import weeks_of
from jarvok.app.schema import Schema
from jarvok.app.training.lookup import near
from jarvok.core.errors import CoachError
from jarvok.core.learning.findings import KIND_WORDS, TYPED
from jarvok.core.learning.new_bests import Best
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.quantities.plates import unit_of
from jarvok.core.quantities.sentence import counted

router = Router(tags=["learning"])
AS_PLANNED = "as planned"
MOST_TOGETHER = 60  # [T] athletes on one page: of more it is read squad by squad
PLANS = {"B": "made easier", "C": "movement only"}


class DaySessionOut(Schema):
    """A session that was begun: how far it came, what was not as planned, what was new, and what was written down of it."""

    session_id: int
    athlete_id: int
    athlete: str
    squad: str
    theme: str
    is_over: bool
    words: str
    not_as_planned: list[str]
    bests: list[str]
    pains: list[str]
    said: list[str]
    taught: list[str]


class NotDoneOut(Schema):
    """A session that was planned for the day and never begun."""

    athlete_id: int
    athlete: str
    theme: str
    reason: str


class DaySquadOut(Schema):
    """A squad whose day can be shown by itself."""

    id: int
    name: str


class DayReviewOut(Schema):
    """`previous` and `following` are the nearest days of training. `squad_id` is nothing where it is of all `squads`."""

    day: date
    squad_id: int | None
    squads: list[DaySquadOut]
    may_show_all: bool
    previous: date | None
    following: date | None
    words: str
    sessions: list[DaySessionOut]
    missed: list[NotDoneOut]
    kinds: list[LearningChoiceOut]
    may_note: bool


@router.get("/days/{day}/review", response={200: DayReviewOut, **ERRORS})
def read_day(request: HttpRequest, day: date, squad: int | None = None) -> DayReviewOut:
    """Every session of a day of those whom the person sees, with what it taught; of many, squad by squad."""
    near(day, "day")
    person = person_of(request)
    seen = athletes_seen(person)
    squads = list(squads_seen(person).filter(athletes__in=seen).distinct().order_by("pk"))
    may_show_all = seen.count() <= MOST_TOGETHER
    shown = squad if squad is not None or may_show_all else _first_that_trained(seen, day)
    if squad is not None and squad not in {s.pk for s in squads}:
        raise CoachError("Nobody is in that squad.", where="squad", accepted=", ".join(s.name for s in squads) or "none yet")
    of_shown = seen.filter(squad=shown) if shown is not None else seen
    people = read_for_a_week(of_shown)
    by_id = {a.pk: a for a in people}
    of_all = TrainingSession.objects.filter(athlete__in=by_id).order_by()
    rows = with_parts(of_all.filter(day=day).order_by("athlete__squad", "athlete__name", "key"))
    around = of_all.filter(day__lt=day).aggregate(d=Max("day"))["d"], of_all.filter(day__gt=day).aggregate(d=Min("day"))["d"]
    ids = {s.athlete_id for s in rows}
    bests, taught = _bests(ids, day), _taught([by_id[pk] for pk in ids])
    pains = open_reports(ids) if may(person, Need.HEALTH) else {}
    sessions = []
    for session in rows:
        session.athlete = by_id[session.athlete_id]
        hurt = [as_told(p).words for p in pains.get(session.athlete_id, ()) if p.session_id == session.pk]
        sessions.append(_session_out(session, bests.get(session.athlete_id, []), taught.get(session.pk, []), hurt))
    missed = _missed(people, day)
    return DayReviewOut(
        day=day,
        squad_id=shown,
        squads=[DaySquadOut(id=s.pk, name=s.name) for s in squads],
        may_show_all=may_show_all,
        previous=around[0],
        following=around[1],
        words=_words(sessions, missed),
        sessions=sessions,
        missed=missed,
        kinds=[LearningChoiceOut(key=k, name=KIND_WORDS[k][0]) for k in TYPED],
        may_note=may(person, Need.RUN),
    )


def _first_that_trained(seen: QuerySet[Athlete], day: date) -> int | None:
    """The squad to begin with: the first of which anybody trained that day, else the first there is."""
    trained = seen.filter(sessions__day=day).order_by("squad_id").values_list("squad_id", flat=True).first()
    return trained if trained is not None else seen.order_by("squad_id").values_list("squad_id", flat=True).first()


def _session_out(
    session: TrainingSession, bests: Sequence[tuple[str, Best]], taught: Sequence[Standing], pains: list[str]
) -> DaySessionOut:
    lines = [x for x in floor_lines(session) if not x.is_void]
    looked = [(x, line_review(x)) for x in lines]
    done, planned = sum(r.done_sets for _, r in looked), sum(r.planned_sets for _, r in looked)
    parts = [f"{done} of {counted(planned, 'set')}" if planned else counted(done, "set")]
    if session.srpe is not None and session.minutes:
        parts.append(f"RPE {session.srpe:g} × {session.minutes:.0f} min = {session.srpe * session.minutes:.0f} AU")
    elif session.finished_at is not None:
        parts.append("no RPE was said")
    if session.plan in PLANS:
        parts.append(", ".join(w for w in (PLANS[session.plan], session.plan_reason) if w))
    refs = {f"set:{s.record.pk}" for x in lines for s in x.sets if s.record is not None}
    kit = kit_of(session.athlete.kit)
    return DaySessionOut(
        session_id=session.pk,
        athlete_id=session.athlete_id,
        athlete=session.athlete.name,
        squad=session.athlete.squad.name,
        theme=session.theme,
        is_over=session.finished_at is not None or session.day < clock.today(),
        words=" · ".join(parts),
        not_as_planned=[
            f"{x.line.slot} {exercise(x.line.exercise_id).name}: {r.words}" for x, r in looked if r.words != AS_PLANNED
        ],
        bests=[
            f"{exercise(lift).name}: {b.words(unit_of(implement_for(exercise(lift), kit)))}" for lift, b in bests if b.ref in refs
        ],
        pains=pains,
        said=list(dict.fromkeys(s.record.note for x in lines for s in x.sets if s.record is not None and s.record.note)),
        taught=[_lesson(s) for s in taught],
    )


def _lesson(item: Standing) -> str:
    lift = item.finding.exercise_id
    return f"{exercise(lift).name}: {item.finding.sentence}" if lift else item.finding.sentence


def _bests(athletes: set[int], day: date) -> dict[int, list[tuple[str, Best]]]:
    found: dict[int, list[tuple[str, Best]]] = defaultdict(list)
    for (pk, lift), bests in (bests_since(athletes, day, day) if athletes else {}).items():
        found[pk] += [(lift, b) for b in bests]
    return found


def _taught(people: Sequence[Athlete]) -> Mapping[int, list[Standing]]:
    """What was written down of each session."""
    found: dict[int, list[Standing]] = defaultdict(list)
    for item in findings_of(people) if people else []:
        for evidence in item.finding.evidence:
            kind, _, pk = str(evidence[1]).partition(":")
            if kind == "session" and pk.isdigit():
                found[int(pk)].append(item)
    return found


def _missed(people: Sequence[Athlete], day: date) -> list[NotDoneOut]:
    names = {a.pk: a.name for a in people}
    weeks = weeks_of(people, day, day, rules_in_force()) if people and day <= clock.today() else {}
    return [
        NotDoneOut(athlete_id=pk, athlete=names[pk], theme=s.theme, reason=s.reason)
        for pk, rows in weeks.items()
        for w in rows
        for s in w.sessions
        if s.day == day and s.is_missed
    ]


def _words(sessions: Sequence[DaySessionOut], missed: Sequence[NotDoneOut]) -> str:
    if not sessions and not missed:
        return "Nobody trained, and nothing was planned."
    count, bests = len(sessions), sum(len(s.bests) for s in sessions)
    silent = sum(1 for s in sessions if not s.taught)
    said = [
        f"{count} {'session' if count == 1 else 'sessions'}",
        f"{len(missed)} missed" if missed else "",
        f"{bests} new {'best' if bests == 1 else 'bests'}" if bests else "",
        f"{silent} without a lesson yet" if silent else "every one has taught something" if sessions else "",
    ]
    return " · ".join(w for w in said if w)
