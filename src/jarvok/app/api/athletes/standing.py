"""Where an athlete stands: bests of every kind, left against right, ratios between lifts, and what limits one."""

from __future__ import annotations

from collections import defaultdict
from datetime import date

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.athletes.shapes import ChoiceOut
from jarvok.app.api.kept_page import kept_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import keep_splits
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.limiting import Maxes, facts_for, limited_here, maxes_of
from jarvok.app.athletes.runs import newest_run
from jarvok.app.athletes.sides import OfExercise, reading_of, sides_of
from jarvok.app.centre.in_force import kit_of, unit_for
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut, working_out
from jarvok.core.learning.bests import scheme_records, velocity_records
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.limiter import Answer, limits
from jarvok.core.marks.mark import KIND_NAMES, MarkKind
from jarvok.core.marks.performance import DropJump, Reading, drop_jump, drop_series, read
from jarvok.core.marks.ratios import Ratio, assisted_jump, ratio_rules, ratios
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import in_unit, said_mass
from jarvok.core.rules import Rules
from jarvok.core.running.sprint_curve import SprintCurve
from jarvok.core.working import Working

router = Router(tags=["standing"])
ALL_DAYS = 36500
MOST_SCHEMES = 8
CURVE_POINTS = 40


class SchemeOut(Schema):
    words: str
    load: float
    day: date


class LiftBestOut(Schema):
    exercise: str
    unit: str
    tested: float | None
    tested_day: date | None
    best_reps: str
    schemes: list[SchemeOut]
    at_velocity: list[SchemeOut]


class PerformanceOut(Schema):
    exercise: str
    kind: str
    best: str
    day: date
    count: int
    working: WorkingOut | None


class SideOut(Schema):
    exercise: str
    unit: str
    left: float
    right: float
    weaker: str
    share_pct: float
    is_flagged: bool


class RatioOut(Schema):
    name: str
    pct: float
    error_pct: float
    target_pct: float
    low_pct: float
    high_pct: float
    verdict: str
    lagging: str
    gap_words: str
    suggestions: list[str]
    working: WorkingOut


class AnswerOut(Schema):
    question: str
    verdict: str
    evidence: str
    suggests: list[str]
    record_at: str


class LimitOut(Schema):
    exercise_id: str
    exercise: str
    answers: list[AnswerOut]


class JudgedOut(Schema):
    """A finding with its words and working: a drop height, an assisted jump, how well reserve is counted."""

    title: str
    value: str
    words: str
    working: WorkingOut
    is_flagged: bool


SEEN = ("Mobility", "Posture")  # recorded as faults; the others come from results


class SplitOut(Schema):
    distance_m: float
    time_s: float
    curve_s: float


class CurvePoint(Schema):
    distance_m: float
    speed_mps: float


class SprintOut(Schema):
    """A run by its splits: top speed, how fast it is reached, force and power a kilogram, and the speed over the distance."""

    day: date
    vmax_mps: float
    tau_s: float
    near_top_m: float
    force_n_per_kg: float
    power_w_per_kg: float
    is_sure: bool
    words: str
    splits: list[SplitOut]
    curve: list[CurvePoint]
    working: WorkingOut


class SplitsIn(Schema):
    day: date
    text: str


class StandingOut(Schema):
    athlete_id: int
    athlete_name: str
    lifts: list[LiftBestOut]
    performance: list[PerformanceOut]
    sides: list[SideOut]
    ratios: list[RatioOut]
    missing_ratios: list[str]
    findings: list[JudgedOut]
    sprint: SprintOut | None
    limit: LimitOut | None
    limit_choices: list[ChoiceOut]


def _lift_best(book: LiftBook, athlete_id: int, lift_id: str) -> LiftBestOut:
    marks = book.marks_of(athlete_id, lift_id)
    singles = [m for m in marks if m.kind in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX)]
    tested = max(singles, key=lambda m: (m.load_kg, m.day), default=None)
    reps = [m for m in marks if m.kind in (MarkKind.REP_MAX, MarkKind.AMRAP)]
    best = max(reps, key=lambda m: book.rules.equation.one_rm_kg(m.load_kg, min(15, m.reps)), default=None)
    schemes = scheme_records(book.history(athlete_id, lift_id))
    unit = unit_for(exercise(lift_id), book.athletes[athlete_id].kit)
    by_reps = f"{round(in_unit(best.load_kg, unit), 1):g} × {best.reps}, {said_day(best.day, year=True)}" if best else ""
    return LiftBestOut(
        exercise=exercise(lift_id).name,
        unit=unit,
        tested=round(in_unit(tested.load_kg, unit), 1) if tested else None,
        tested_day=tested.day if tested else None,
        best_reps=by_reps,
        schemes=[
            SchemeOut(words=f"{s.sets} × {s.reps}", load=round(in_unit(s.load_kg, unit), 1), day=s.day)
            for s in schemes[-MOST_SCHEMES:]
        ],
        at_velocity=[
            SchemeOut(words=f"≥ {v.at_least_mps:.1f} m/s", load=round(in_unit(v.load_kg, unit), 1), day=v.day)
            for v in velocity_records(book.all_points_of(athlete_id, lift_id))
        ],
    )


def _performance(athlete_id: int, rules: Rules) -> tuple[list[PerformanceOut], list[SideOut]]:
    found: dict[OfExercise, list[tuple[Reading, date, str]]] = defaultdict(list)
    standing = MarkRecord.objects.filter(athlete_id=athlete_id, withdrawn_at__isnull=True)
    records = list(standing.exclude(side="", measures={}).order_by("day", "id"))  # a plain load is evidence of a max alone
    for m in records:
        known = reading_of(m, rules)
        if known is not None:
            found[known[0]].append((known[1], m.day, m.side))
    bests: list[PerformanceOut] = []
    for (exercise_id, kind, _), readings in found.items():
        name = exercise(exercise_id).name
        less = readings[0][0].less_is_better
        top = min(readings, key=lambda r: r[0].value) if less else max(readings, key=lambda r: r[0].value)
        bests.append(
            PerformanceOut(
                exercise=name,
                kind=KIND_NAMES[MarkKind(kind)],
                best=top[0].words + (f", {top[2]}" if top[2] else ""),
                day=top[1],
                count=len(readings),
                working=working_out(top[0].working) if top[0].working else None,
            )
        )
    sides = [
        SideOut(
            exercise=exercise(of.exercise_id).name,
            unit=both.unit,
            left=round(both.left, 2),
            right=round(both.right, 2),
            weaker=both.weaker,
            share_pct=round(both.share_pct, 1),
            is_flagged=both.is_flagged,
        )
        for of, both in sides_of(records, rules)
    ]
    return bests, sides


def _ratio_out(found: Ratio, unit: str) -> RatioOut:
    rule = found.rule
    return RatioOut(
        name=rule.name,
        pct=round(found.pct, 1),
        error_pct=round(found.error_pct, 1),
        target_pct=rule.target_pct,
        low_pct=rule.low_pct,
        high_pct=rule.high_pct,
        verdict=found.verdict,
        lagging=exercise(found.lagging).name if found.lagging else "",
        gap_words=said_mass(found.gap_kg, unit, whole=True),
        suggestions=list(found.suggestions),
        working=working_out(found.working),
    )


def _limits(book: LiftBook, athlete: Athlete, wanted: str, maxes: Maxes) -> tuple[LimitOut | None, list[ChoiceOut]]:
    """The wanted lift's questions, else those of the first lift where something is likely; and what can be asked about."""
    known = list(limited_here(maxes))
    choices = [ChoiceOut(id=lift.id, name=lift.name) for lift in known]
    chosen = [lift for lift in known if lift.id == wanted] or known
    every = [(lift, limits(facts_for(book, athlete, lift, maxes), book.day)) for lift in chosen]
    first = next((row for row in every if row[1][0].verdict == "likely"), next(iter(every), None))
    if first is None:
        return None, choices
    lift, answers = first
    return LimitOut(exercise_id=lift.id, exercise=lift.name, answers=[_answer_out(a) for a in answers]), choices


def _answer_out(answer: Answer) -> AnswerOut:
    is_seen = answer.question in SEEN
    return AnswerOut(
        question=answer.question, verdict=answer.verdict, evidence=answer.evidence, suggests=list(answer.suggests),
        record_at="" if answer.verdict != "not recorded" else "faults" if is_seen else "results",
    )  # fmt: skip


def _jump_findings(athlete: Athlete) -> list[JudgedOut]:
    marks = list(
        MarkRecord.objects.filter(
            athlete=athlete, withdrawn_at__isnull=True, kind__in=(MarkKind.DROP_JUMP, MarkKind.JUMP)
        ).order_by("-day", "-id")
    )
    found: list[JudgedOut] = []
    by_day: dict[date, list[DropJump]] = defaultdict(list)
    for m in marks:
        if m.kind == MarkKind.DROP_JUMP and not m.side:
            by_day[m.day].append(drop_jump(m.measures))
    masses = list(athlete.masses.all())
    for day, jumps in by_day.items():
        series = drop_series(jumps, masses[-1].mass_kg if masses else None)
        if series is not None:
            words = f"highest drop that holds contact time and RSI, {len(series.jumps)} heights on {said_day(day, year=True)}"
            found.append(_judged("Drop jumps from", f"{series.drop_cm:g} cm", words, series.working))
            break
    newest = {(m.exercise_id, m.side): m for m in reversed(marks) if m.kind == MarkKind.JUMP}
    for (exercise_id, side), mark in newest.items():
        free = newest.get((exercise(exercise_id).free_jump, side))
        held, against = read(MarkKind.JUMP, mark.measures, 0), read(MarkKind.JUMP, free.measures, 0) if free else None
        if free is None or held is None or against is None:
            continue
        judged = assisted_jump(held, against, abs((mark.day - free.day).days))
        if judged is not None:
            title = exercise(exercise_id).name + (f", {side}" if side else "")
            found.append(_judged(title, f"{judged.pct:.0f} % of the free jump", judged.words, judged.working, not judged.works))
    return found


def _judged(title: str, value: str, words: str, working: Working, is_flagged: bool = False) -> JudgedOut:
    return JudgedOut(title=title, value=value, words=words, working=working_out(working), is_flagged=is_flagged)


def _reserve_finding(book: LiftBook, athlete_id: int) -> list[JudgedOut]:
    offset = book.reserve(athlete_id)
    if offset is None:
        return []
    words = f"{offset.words}; {len(offset.pairs)} sets checked"
    return [_judged("Reps in reserve", f"{offset.off_by:+.1f}", words, offset.working, not offset.is_trusted)]


def _sprint_out(day: date, c: SprintCurve) -> SprintOut:
    near = f"nine tenths of it after {c.near_top_m:.0f} m"
    air = "with the air" if c.has_air else "without the air"
    power = f"{c.force_n_per_kg:.1f} N/kg at the start, {c.power_w_per_kg:.1f} W/kg at most, {air}"
    words = f"top speed, {near}. {power}."
    until_s = c.splits[-1].time_s
    times = [until_s * i / CURVE_POINTS for i in range(CURVE_POINTS + 1)]
    return SprintOut(
        day=day,
        vmax_mps=round(c.vmax_mps, 2),
        tau_s=round(c.tau_s, 2),
        near_top_m=round(c.near_top_m, 1),
        force_n_per_kg=round(c.force_n_per_kg, 1),
        power_w_per_kg=round(c.power_w_per_kg, 1),
        is_sure=c.is_long_enough,
        words=words,
        splits=[
            SplitOut(distance_m=s.distance_m, time_s=s.time_s, curve_s=round(c.time_at_s(s.distance_m), 2)) for s in c.splits
        ],
        curve=[CurvePoint(distance_m=round(c.distance_at_m(t), 2), speed_mps=round(c.speed_at_mps(t), 2)) for t in times],
        working=working_out(c.working),
    )


@router.post("/athletes/{int:athlete_id}/splits", response={200: StandingOut, **ERRORS})
def add_splits(request: HttpRequest, athlete_id: int, payload: SplitsIn) -> HttpResponse:
    """Keep the split times of a run as typed: 10 1.78, 20 3.02, 30 4.15."""
    keep_splits.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id), payload.day, payload.text)
    return read_standing(request, athlete_id)


@router.get("/athletes/{int:athlete_id}/standing", response={200: StandingOut, **ERRORS})
def read_standing(request: HttpRequest, athlete_id: int, limited: str = "") -> HttpResponse:
    return kept_page(request, athlete_id, ("standing", limited), lambda: _standing(athlete_id, limited))


def _standing(athlete_id: int, limited: str) -> StandingOut:
    people = Athlete.objects.select_related("squad", "kit").prefetch_related("faults", "masses")
    athlete = get_object_or_404(people, pk=athlete_id)
    book = LiftBook([athlete], clock.today(), history_days=ALL_DAYS)
    lifts = [lift for lift in book.lifts_of(athlete_id) if lift.same_lift == lift.id]
    maxes, unit = maxes_of(book, athlete_id), kit_of(athlete.kit).unit
    bests, sides = _performance(athlete_id, book.rules)
    limit, choices = _limits(book, athlete, limited, maxes)
    return StandingOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        lifts=[_lift_best(book, athlete_id, lift.id) for lift in lifts],
        performance=bests,
        sides=sides,
        ratios=[_ratio_out(r, unit) for r in ratios(maxes, book.rules.equation, unit)],
        findings=[*_jump_findings(athlete), *_reserve_finding(book, athlete_id)],
        sprint=_sprint_out(*run) if (run := newest_run(athlete)) else None,
        missing_ratios=[r.name for r in ratio_rules() if r.upper not in maxes or r.lower not in maxes],
        limit=limit,
        limit_choices=choices,
    )
