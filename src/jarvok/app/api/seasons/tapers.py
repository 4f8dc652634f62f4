"""The taper bench and the staggering of a contest."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.seasons.season_page import event_out, gap_of
from jarvok.app.api.seasons.seasons import typed_taper
from jarvok.app.api.seasons.shapes import ChoiceWords, EventOut, TaperOut
from jarvok.app.athletes.reading import athlete_of, practice_rows_of, practices_of
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.schema import Schema
from jarvok.app.seasons.season_book import SeasonBook, plan_from
from jarvok.app.shapes import WorkingOut, working_out
from jarvok.app.training.planned_weeks import contest_work_of
from jarvok.app.training.season_sets import spending_of
from jarvok.app.training.session_loads import cost_of_a_set, done_loads, planned_loads
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.mark import MarkKind
from jarvok.core.marks.performance import read
from jarvok.core.plan.planned_load import au_of
from jarvok.core.plan.taper_sets import TaperCut, taper_cut, windows_of
from jarvok.core.quantities.mass import in_unit
from jarvok.core.quantities.sentence import first_upper
from jarvok.core.season.exposures import STANDING_NAMES, Exposure, drop_uncontested_days_out, event_kinds, last_session_days_out
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.fitness_fatigue import CAUTION, LEAST_RESULTS, SHORTER, USUAL, Constants, fit
from jarvok.core.season.model import Rank, SeasonPlan, monday_of
from jarvok.core.season.taper import Shape, TaperStyle, check_taper
from jarvok.core.season.taper_bench import MOST_TAPERS, Bench, Tried, bench
from jarvok.core.week.contest_work import exercises_of, exposure_text

router = Router(tags=["tapers"])
SHOWN_DAYS = 35
RESULT_KINDS = (MarkKind.JUMP, MarkKind.ONE_RM)


class TriedOut(Schema):
    taper: TaperOut
    at_its_end_pct: float
    sets_in_it: int
    real_cut_pct: float | None
    days: list[date]
    load: list[float]
    fitness: list[float]
    fatigue: list[float]
    against: list[float]
    against_low: list[float]
    against_high: list[float]
    difference: float | None
    difference_low: float | None
    difference_high: float | None
    is_outside: bool
    remarks: list[str]
    working: WorkingOut


class BenchOut(Schema):
    athlete_id: int
    athlete_name: str
    competition: str
    day: date | None
    days_to_go: int | None
    caution: str
    constants: str
    fit_words: str
    au_a_set: WorkingOut | None
    practice_left_pct: float | None
    shapes: list[str]
    chosen: TaperOut | None
    tried: list[TriedOut]


class BenchIn(Schema):
    tapers: list[TaperOut]
    constants: str = "usual"
    practice_left_pct: float | None = None


class ExposureOut(Schema):
    event: str
    what: str
    day: date
    days_out: int
    first: date
    last: date
    share_low: float
    share_high: float
    load_words: str
    instead: str
    note: str
    source: str
    monday: date
    lines: list[str]
    is_left_out: bool


class EventKindOut(Schema):
    id: str
    name: str
    kind: str
    after: str
    amounts: list[str]


class ContestOut(Schema):
    athlete_id: int
    athlete_name: str
    competition_id: int | None
    competition: str
    day: date | None
    days_to_go: int | None
    weigh_in: date | None
    division: str
    standings: list[ChoiceWords]
    events: list[EventOut]
    unit: str
    event_kinds: list[EventKindOut]
    exposures: list[ExposureOut]
    after: list[str]
    last_session: str
    dropped: str
    class_words: str
    class_is_far: bool
    competitions: list[ChoiceWords]


def _season(athlete_id: int) -> tuple[Athlete, SeasonBook, SeasonPlan | None]:
    athlete = athlete_of(athlete_id)
    book = SeasonBook([athlete], clock.today())
    return athlete, book, book.plan(athlete_id)


def _has_main(book: SeasonBook, plan: SeasonPlan | None) -> bool:
    return plan is not None and any(t.rank is Rank.MAIN and t.day >= book.today for t in plan.targets)


def _constants(athlete: Athlete, plan: SeasonPlan, which: str) -> tuple[Constants, str, str]:
    """Constants, what they are called, and what a fit to the athlete's own results says."""
    own, words = _own(athlete, clock.today())
    if which == "own" and own is not None:
        return own, "own", words
    if which == "shorter":
        return SHORTER, "shorter", words
    return USUAL, "usual", words


def _own(athlete: Athlete, today: date) -> tuple[Constants | None, str]:
    """A fit to a year of loads as recorded and jump heights, if there are enough results."""
    start = today - timedelta(days=365)
    days = done_loads(athlete, start, today, au_of(cost_of_a_set(athlete, today)))
    run = [start + timedelta(days=i) for i in range((today - start).days + 1)]
    practices = practice_rows_of(athlete)
    loads = [days.get(d, 0.0) + sum(p.hardness * p.minutes for p in practices if p.is_on(d)) for d in run]
    results: list[tuple[int, float]] = []
    for m in MarkRecord.objects.filter(athlete=athlete, kind=MarkKind.JUMP, side="", withdrawn_at__isnull=True, day__gte=start):
        reading = read(MarkKind.JUMP, m.measures, 0) if m.exercise_id == "countermovement_jump" else None
        if reading is not None:
            results.append(((m.day - start).days, reading.value))
    if len(results) < LEAST_RESULTS:
        return None, f"{len(results)} jump results in a year; {LEAST_RESULTS} are needed for constants of the athlete's own."
    found = fit(loads, results)
    return (found.constants if found.is_usable else None), f"{first_upper(found.words)}."


def _tried_out(found: Bench, cut: TaperCut | None, start: date, day: date) -> TriedOut:
    first = max(0, (day - start).days - SHOWN_DAYS)
    middle, low, high = found.on_the_day or (None, None, None)
    return TriedOut(
        taper=TaperOut(**found.style.__dict__),
        at_its_end_pct=found.style.at_its_end_pct,
        sets_in_it=cut.sets if cut else 0,
        real_cut_pct=cut.cut_pct if cut else None,
        days=[start + timedelta(days=i) for i in range(first, len(found.load))],
        load=list(found.load[first:]),
        fitness=list(found.fitness[first:]),
        fatigue=list(found.fatigue[first:]),
        against=list(found.against[first:]),
        against_low=list(found.against_low[first:]),
        against_high=list(found.against_high[first:]),
        difference=middle,
        difference_low=low,
        difference_high=high,
        is_outside=found.is_outside,
        remarks=list(found.remarks),
        working=working_out(found.working),
    )


def _with_taper(
    athlete: Athlete, facts: SeasonFacts, style: TaperStyle, day: date, au_a_set: float
) -> tuple[Tried, TaperCut | None, date]:
    """A taper as the season's sessions would hold it: daily load, and what it takes off from them."""
    plan = plan_from(replace(facts, taper=style))
    if plan is None:
        raise CoachError("No main competition lies ahead.", where="day", accepted="Add a competition first.")
    spending = spending_of(athlete, plan, facts.rules)
    window = next((w for w, _ in windows_of(plan) if w.day == day), None)
    cut = taper_cut(plan, spending, window) if window is not None else None
    return Tried(style, planned_loads(plan, spending, au_a_set)), cut, plan.start


@router.post("/athletes/{int:athlete_id}/taper-bench", response={200: BenchOut, **ERRORS})
def try_tapers(request: HttpRequest, athlete_id: int, payload: BenchIn) -> BenchOut:
    """Two or three tapers for the next main competition side by side. Nothing is stored."""
    athlete, book, plan = _season(athlete_id)
    if plan is None or not _has_main(book, plan):
        return BenchOut(
            athlete_id=athlete.pk,
            athlete_name=athlete.name,
            competition="",
            day=None,
            days_to_go=None,
            caution=CAUTION,
            constants="usual",
            fit_words="",
            au_a_set=None,
            practice_left_pct=None,
            shapes=list(Shape),
            chosen=None,
            tried=[],
        )
    styles = [check_taper(t) for t in (typed_taper(raw) for raw in payload.tapers) if t is not None]
    facts = book.facts(athlete_id)
    if facts is None:
        raise CoachError("No main competition lies ahead.", where="day", accepted="Add a competition first.")
    usual = facts.taper or facts.usual_taper
    if not styles:
        styles = [usual, TaperStyle(8, Shape.STEP, 50), TaperStyle(14, Shape.SLOW, 60)]
    left = payload.practice_left_pct
    if left is not None and not 0 <= left <= 100:
        raise CoachError(f"{left:g} % of practice cannot be left.", where="practice_left_pct", accepted="0 to 100 %, or nothing.")
    goal = book.goal(athlete_id)
    day = goal.day if goal is not None else plan.competition_day
    week = practices_of(athlete, monday_of(book.today))
    practice = [float(sum(p.hardness * p.minutes for p in week if p.weekday == d)) for d in range(7)]
    constants, called, words = _constants(athlete, plan, payload.constants)
    cost = cost_of_a_set(athlete, book.today)
    rows = [_with_taper(athlete, facts, style, day, au_of(cost)) for style in styles[:MOST_TAPERS]]
    start = rows[0][2]
    found = bench(start, day, [tried for tried, _, _ in rows], practice, left, constants)
    return BenchOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        competition=goal.name if goal is not None else "",
        day=day,
        days_to_go=(day - book.today).days,
        caution=CAUTION,
        constants=called,
        fit_words=words,
        au_a_set=working_out(cost),
        practice_left_pct=left,
        shapes=list(Shape),
        chosen=TaperOut(**facts.taper.__dict__) if facts.taper is not None else None,
        tried=[_tried_out(b, cut, start, day) for b, (_, cut, _) in zip(found, rows, strict=True)],
    )


@router.get("/athletes/{int:athlete_id}/contest", response={200: ContestOut, **ERRORS})
def read_contest(request: HttpRequest, athlete_id: int, competition: int | None = None) -> ContestOut:
    """The last heavy sessions before a main competition ahead, worked back from its events: the next one if none is named."""
    athlete, book, plan = _season(athlete_id)
    ahead = [c for c in book.competitions(athlete_id) if c.rank == Rank.MAIN and c.day >= book.today]
    c = next((x for x in ahead if x.pk == competition), ahead[0] if ahead else None)
    kinds = event_kinds()
    unit = kit_of(athlete.kit).unit
    events = [event_out(e, unit) for e in c.events] if c else []
    near, far = last_session_days_out([e.kind for e in events])
    early, late = drop_uncontested_days_out()
    gap = gap_of(athlete, (c.day - book.today).days if c else None)
    exposures = contest_work_of(athlete, plan, book.rules).exposures if plan is not None else ()
    return ContestOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        competition_id=c.pk if c else None,
        competition=c.name if c else "",
        day=c.day if c else None,
        days_to_go=(c.day - book.today).days if c else None,
        weigh_in=c.weigh_in if c else None,
        division=c.division if c else "",
        events=events,
        unit=unit,
        event_kinds=[
            EventKindOut(id=k.id, name=k.name, kind=k.kind, after=k.after, amounts=list(k.amounts)) for k in kinds.values()
        ],
        standings=[ChoiceWords(id=s.value, name=name) for s, name in STANDING_NAMES.items()],
        exposures=[_exposure_out(e, unit) for e in exposures if c is not None and e.contest_day == c.day],
        after=list(dict.fromkeys(f"{e.name or kinds[e.kind].name}: {kinds[e.kind].after}." for e in events)),
        last_session=f"The last session of any size lies {near} to {far} days before.",
        dropped=f"Lifts that are not in the competition are dropped {early} to {late} days before.",
        class_words=gap.words if gap else "",
        class_is_far=gap.is_large if gap else False,
        competitions=[ChoiceWords(id=str(x.pk), name=x.name) for x in ahead],
    )


def _loads(load_kg: tuple[float, float], unit: str) -> str:
    low, high = (f"{round(in_unit(x, unit), 1):g}" for x in load_kg)
    return f"{low if low == high else f'{low}–{high}'} {unit}"


def _exposure_out(e: Exposure, unit: str) -> ExposureOut:
    lines = [f"{exercise(i).name} {exposure_text(e, i)}" for i in exercises_of(e)]
    return ExposureOut(
        event=e.event,
        what=e.what,
        day=e.day,
        days_out=e.days_out,
        first=e.first,
        last=e.last,
        share_low=e.share_pct[0],
        share_high=e.share_pct[1],
        load_words=_loads(e.load_kg, unit) if e.load_kg else "",
        instead=e.instead,
        note=e.note,
        source=e.source.text,
        monday=monday_of(e.day),
        lines=lines,
        is_left_out=e.is_left_out,
    )
