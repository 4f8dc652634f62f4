"""Findings: what was learned, what waits for a word, what acts, and what asks for a test again."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta

from django.db.models import Q
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import may, person_of
from jarvok.app.api.learning.shapes import (
    AnswerFinding,
    AnswerNoticed,
    EvidenceOut,
    FindingOut,
    FindingsOut,
    LearningChoiceOut,
    NoteFinding,
)
from jarvok.app.api.learning.whose import Whose, page_of, whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.findings import Standing, findings_of, standing
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.learning.models import Finding, FindingState
from jarvok.app.facts.room.models import OwnDefault
from jarvok.app.learning.actions import answer_finding, answer_noticed, note_finding
from jarvok.app.learning.noticing import find_noticed, noticed_of
from jarvok.core.learning.findings import KIND_WORDS, RETEST_WEEKS, TYPED, Kind, Noticed
from jarvok.core.library.exercises import exercises
from jarvok.core.quantities.days import said_day

router = Router(tags=["learning"])
WAITS, ACTS, ASKS, ENDED = "waits", "acts", "asks_again", "ended"
ORDER = (WAITS, ASKS, ACTS, ENDED)
LEAST_SHARED = 3  # [J] what three athletes of a squad have in common is the squad's


@router.get("/findings/{whose}/{int:pk}", response={200: FindingsOut, **ERRORS})
def read_findings(request: HttpRequest, whose: str, pk: int) -> HttpResponse:
    """Everything learned of an athlete or a squad."""
    return page_of(request, whose, pk, "findings", lambda: _page(request, whose_page(whose, pk, to_read=True)))


@router.post("/findings/{whose}/{int:pk}", response={200: FindingsOut, **ERRORS})
def add_finding(request: HttpRequest, whose: str, pk: int, payload: NoteFinding) -> FindingsOut:
    """Write down what was learned, after a session or at any time."""
    page = whose_page(whose, pk)
    evidence: tuple[tuple[str, str], ...] = ()
    day = None
    if payload.session_id is not None:
        session = get_object_or_404(TrainingSession, pk=payload.session_id, athlete__in=page.people)
        evidence, day = ((f"session of {said_day(session.day)}", f"session:{session.pk}"),), min(session.day, clock.today())
    note_finding.run(who_of(request), page.of, payload.kind, payload.exercise_id, payload.sentence, payload.test, evidence, day)
    return _page(request, page)


@router.post("/athletes/{int:athlete_id}/noticed", response={200: FindingsOut, **ERRORS})
def say_to_noticed(request: HttpRequest, athlete_id: int, payload: AnswerNoticed) -> FindingsOut:
    """Keep or drop what the application noticed."""
    page = whose_page("athlete", athlete_id)
    athlete = page.people[0]
    noticed = find_noticed(athlete, payload.ref, rules_in_force())
    answer_noticed.run(who_of(request), athlete, noticed, keep=payload.keep, sentence=payload.sentence)
    return _page(request, page)


@router.post("/finding/{int:finding_id}/answer", response={200: FindingsOut, **ERRORS})
def say_to_finding(request: HttpRequest, finding_id: int, payload: AnswerFinding) -> FindingsOut:
    """A word on a finding: it acts, is dropped, is withdrawn, or its question is answered."""
    finding = get_object_or_404(Finding.objects.select_related("athlete__squad", "squad"), pk=finding_id)
    answer_finding.run(who_of(request), finding, payload.state, payload.reason)
    of = ("athlete", finding.athlete_id) if finding.athlete_id is not None else ("squad", finding.squad_id)
    return _page(request, whose_page(of[0], of[1] or 0))


def _page(request: HttpRequest, page: Whose) -> FindingsOut:
    today, person = clock.today(), person_of(request)
    kept = findings_of(page.people) if page.whose == "athlete" else standing(Finding.objects.filter(_of_squad(page)))
    names = {a.pk: a.name for a in page.people}
    rows = [_finding_out(s, today, names) for s in sorted(kept, key=_spoken, reverse=True)]
    for who, found in noticed_of(page.people, rules_in_force()).items():
        rows += [_noticed_out(n, who, names[who]) for n in found]
    rows += [_own_out(d, today, names) for d in _own_defaults(page.people)]
    rows.sort(key=lambda r: ORDER.index(r.state))
    _lead([e for r in rows for e in r.evidence])
    return FindingsOut(
        whose=page.whose,
        id=page.of.pk,
        name=page.name,
        summary=_summary(rows),
        findings=rows,
        shared=_shared(rows) if page.whose == "squad" else [],
        kinds=[LearningChoiceOut(key=k, name=KIND_WORDS[k][0]) for k in TYPED],
        may_confirm=may(person, Need.PLAN),
        may_note=may(person, Need.RUN),
    )


def _lead(evidence: Sequence[EvidenceOut]) -> None:
    """Say of each piece of evidence where it stands, in two queries for all."""
    told: dict[str, dict[int, list[EvidenceOut]]] = defaultdict(lambda: defaultdict(list))
    for e in evidence:
        kind, _, rest = e.ref.partition(":")
        number = rest.partition(":")[0]
        if number.isdigit():
            told[kind][int(number)].append(e)
    for kind, sessions in (
        ("set", SetRecord.objects.filter(pk__in=told["set"]).values_list("pk", "line__session_id")),
        ("line", SessionLine.objects.filter(pk__in=told["line"]).values_list("pk", "session_id")),
    ):
        for pk, session_id in sessions if told[kind] else ():
            for e in told[kind][pk]:
                e.session_id = session_id
    for kind, rows in told.items():
        for pk, those in rows.items():
            for e in those:
                e.is_result = kind == "mark"
                e.session_id = pk if kind == "session" else e.session_id
                e.trial_id = pk if kind == "trial" else None
                e.entry_id = pk if kind == "entry" else None


def _spoken(item: Standing) -> int:
    """When a finding was spoken of last, in order."""
    return item.word.pk if item.word is not None else 0


def _of_squad(page: Whose) -> Q:
    return Q(squad_id=page.of.pk) | Q(athlete__in=page.people)


def _own_defaults(people: Sequence[Athlete]) -> list[OwnDefault]:
    newest = {(d.athlete_id, d.kind, d.exercise_id): d for d in OwnDefault.objects.filter(athlete__in=people).order_by("id")}
    return list(newest.values())


def _summary(rows: Sequence[FindingOut]) -> str:
    count = {state: sum(1 for r in rows if r.state == state) for state in ORDER}
    said = [
        f"{count[WAITS]} {'waits' if count[WAITS] == 1 else 'wait'} for your word",
        f"{count[ACTS]} {'acts' if count[ACTS] == 1 else 'act'} in the plan",
    ]
    if count[ASKS]:
        said.append(f"{count[ASKS]} {'asks' if count[ASKS] == 1 else 'ask'} for a new test")
    return " · ".join(said) if any(count.values()) else "Nothing was learned yet."


def _shared(rows: Sequence[FindingOut]) -> list[str]:
    """What several athletes of a squad have in common."""
    who: dict[tuple[str, str, str], set[int]] = defaultdict(set)
    said: dict[tuple[str, str, str], str] = {}
    for row in rows:
        if row.athlete_id is None or row.state == ENDED:
            continue
        measured = row.kind in (Kind.LOAD, Kind.RESERVE)
        key = (row.kind, row.exercise_id, "" if measured else row.sentence.lower())
        who[key].add(row.athlete_id)
        said[key] = {Kind.LOAD: f"{row.exercise}: too light", Kind.RESERVE: "Count of reps in reserve is off"}.get(
            Kind(row.kind), row.sentence
        )
    return [f"{said[k]} · {len(people)} athletes" for k, people in who.items() if len(people) >= LEAST_SHARED]


def _state(item: Standing, today: date) -> tuple[str, str]:
    if item.word is None:
        return WAITS, "waits for a coach’s word"
    if item.asks_again(today) and item.word.until is not None:
        return ASKS, f"new test due since {said_day(item.word.until)}"
    if item.acts:
        until = f", new test due {said_day(item.word.until)}" if item.word.until else ""
        return ACTS, f"acts since {said_day(min(clock.day_of(item.word.at), today))}{until}"
    return ENDED, FindingState(item.word.state).label.lower()


def _finding_out(item: Standing, today: date, names: dict[int, str]) -> FindingOut:
    finding, kind = item.finding, Kind(item.finding.kind)
    state, words = _state(item, today)
    lift = exercises().get(finding.exercise_id)
    return FindingOut(
        id=finding.pk,
        ref=finding.ref,
        athlete_id=finding.athlete_id,
        whose=names.get(finding.athlete_id or 0, "the whole squad"),
        kind=kind,
        kind_words=KIND_WORDS[kind][0],
        exercise_id=finding.exercise_id,
        exercise=lift.name if lift is not None else "",
        sentence=finding.sentence,
        test=finding.test,
        changes=KIND_WORDS[kind][1],
        evidence=[EvidenceOut(words=w, ref=r) for w, r in finding.evidence],
        state=state,
        state_words=words,
        reason=item.word.reason if item.word is not None else "",
    )


def _noticed_out(found: Noticed, who: int, name: str) -> FindingOut:
    lift = exercises().get(found.exercise_id)
    return FindingOut(
        id=None,
        ref=found.ref,
        athlete_id=who,
        whose=name,
        kind=found.kind,
        kind_words=KIND_WORDS[found.kind][0],
        exercise_id=found.exercise_id,
        exercise=lift.name if lift is not None else "",
        sentence=found.sentence,
        test="",
        changes=KIND_WORDS[found.kind][1],
        evidence=[EvidenceOut(words=w, ref=r) for w, r in found.evidence],
        state=WAITS,
        state_words="noticed, waits for your word",
        reason="",
    )


def _own_out(kept: OwnDefault, today: date, names: dict[int, str]) -> FindingOut:
    """What a test of rests or of jumps a set has found and the coach has kept."""
    kind = Kind.REST if kept.kind == "rest" else Kind.JUMPS
    lift = exercises().get(kept.exercise_id)
    name = lift.name if lift is not None else kept.exercise_id
    day = clock.day_of(kept.at)
    due = day + timedelta(weeks=RETEST_WEEKS)
    words = f"{kept.value:.0f} s before {name.lower()}" if kind is Kind.REST else f"{kept.value:.0f} a set in {name.lower()}"
    test = f"test of {said_day(day)}"
    return FindingOut(
        id=None,
        ref=f"own:{kept.pk}",
        athlete_id=kept.athlete_id,
        whose=names.get(kept.athlete_id, ""),
        kind=kind,
        kind_words=KIND_WORDS[kind][0],
        exercise_id=kept.exercise_id,
        exercise=name,
        sentence=f"{words} suits best.",
        test="",
        changes=KIND_WORDS[kind][1],
        evidence=[EvidenceOut(words=test, ref=f"trial:{kept.trial_id}" if kept.trial_id else "")],
        state=ASKS if due <= today else ACTS,
        state_words=f"new test due since {said_day(due)}"
        if due <= today
        else f"acts since {said_day(day)}, new test due {said_day(due)}",
        reason="",
    )
