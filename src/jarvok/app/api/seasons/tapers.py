"""The taper bench and the staggering of a contest."""

from __future__ import annotations

from datetime import date, timedelta

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.seasons.season_page import event_out, gap_of
from jarvok.app.api.seasons.seasons import typed_taper
from jarvok.app.api.seasons.shapes import ChoiceWords, EventOut, TaperOut
from jarvok.app.athletes.reading import FOR_A_WEEK, practices_of
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.schema import Schema
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.shapes import WorkingOut, working_out
from jarvok.app.training.planned_weeks import contest_work_of
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.mark import MarkKind
from jarvok.core.marks.performance import read
from jarvok.core.season.exposures import STANDING_NAMES, Exposure, drop_uncontested_days_out, event_kinds, last_session_days_out
from jarvok.core.season.fitness_fatigue import CAUTION, LEAST_RESULTS, SHORTER, USUAL, Constants, fit
from jarvok.core.season.model import Rank, SeasonPlan, monday_of
from jarvok.core.season.taper import Shape, TaperStyle, check_taper
from jarvok.core.season.taper_bench import Bench, bench
from jarvok.core.week.contest_work import exercises_of, exposure_text

router = Router(tags=["tapers"])
SET_AU = 35.0  # [J] one work set beside five minutes at 7 of 10, where no session load is recorded
SHOWN_DAYS = 35
RESULT_KINDS = (MarkKind.JUMP, MarkKind.ONE_RM)


class TriedOut(Schema):
    taper: TaperOut
    at_its_end_pct: float
    days: list[date]
    load: list[float]
    fitness: list[float]
    fatigue: list[float]
    form: list[float]
    form_low: list[float]
    form_high: list[float]
    form_on_the_day: float
    low_on_the_day: float
    high_on_the_day: float
    peak_day: date
    peak_days_off: int
    still_rises: bool
    against_first: float
    against_first_low: float
    against_first_high: float
    remarks: list[str]
    working: WorkingOut


class BenchOut(Schema):
    athlete_id: int
    athlete_name: str
    competition: str
    day: date
    days_to_go: int
    caution: str
    constants: str
    fit_words: str
    shapes: list[str]
    chosen: TaperOut | None
    tried: list[TriedOut]


class BenchIn(Schema):
    tapers: list[TaperOut]
    constants: str = "usual"


class ExposureOut(Schema):
    event: str
    what: str
    day: date
    days_out: int
    first: date
    last: date
    share_low: float
    share_high: float
    low_kg: float | None
    high_kg: float | None
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
    event_kinds: list[EventKindOut]
    exposures: list[ExposureOut]
    after: list[str]
    last_session: str
    dropped: str
    class_words: str
    class_is_far: bool
    competitions: list[ChoiceWords]


def _season(athlete_id: int) -> tuple[Athlete, SeasonBook, SeasonPlan]:
    rows = Athlete.objects.select_related("squad", "kit").prefetch_related(*FOR_A_WEEK)
    athlete = get_object_or_404(rows, pk=athlete_id)
    book = SeasonBook([athlete], clock.today())
    plan = book.plan(athlete_id)
    if plan is None or not any(t.rank is Rank.MAIN and t.day >= book.today for t in plan.targets):
        raise CoachError("No main competition lies ahead.", where="day", accepted="Add a competition first.")
    return athlete, book, plan


def _constants(athlete: Athlete, plan: SeasonPlan, which: str) -> tuple[Constants, str, str]:
    """Constants, what they are called, and what a fit to the athlete's own results says."""
    own, words = _own(athlete, clock.today())
    if which == "own" and own is not None:
        return own, "own", words
    if which == "shorter":
        return SHORTER, "shorter", words
    return USUAL, "usual", words


def _own(athlete: Athlete, today: date) -> tuple[Constants | None, str]:
    """A fit to a year of done loads and jump heights, if there are enough results."""
    start = today - timedelta(days=365)
    days: dict[date, float] = {}
    for session in TrainingSession.objects.filter(athlete=athlete, day__gte=start, day__lte=today):
        days.setdefault(session.day, 0.0)
    done = SetRecord.objects.filter(line__session__athlete=athlete, line__session__day__gte=start, taken_back_at__isnull=True)
    for day in done.filter(kind="work").values_list("line__session__day", flat=True):
        days[day] = days.get(day, 0.0) + SET_AU
    practice = [sum(p.hardness * p.minutes for p in practices_of(athlete) if p.weekday == d) for d in range(7)]
    run = [start + timedelta(days=i) for i in range((today - start).days + 1)]
    loads = [days.get(d, 0.0) + practice[d.weekday()] for d in run]
    results: list[tuple[int, float]] = []
    for m in MarkRecord.objects.filter(athlete=athlete, kind=MarkKind.JUMP, side="", withdrawn_at__isnull=True, day__gte=start):
        reading = read(MarkKind.JUMP, m.measures, 0) if m.exercise_id == "countermovement_jump" else None
        if reading is not None:
            results.append(((m.day - start).days, reading.value))
    if len(results) < LEAST_RESULTS:
        return None, f"{len(results)} jump results in a year; {LEAST_RESULTS} are needed for constants of the athlete's own."
    found = fit(loads, results)
    return (found.constants if found.is_usable else None), f"{found.words[0].upper()}{found.words[1:]}."


def _tried_out(found: Bench, day: date) -> TriedOut:
    total = (day - found.start).days
    first = max(0, total - SHOWN_DAYS)
    return TriedOut(
        taper=TaperOut(**found.style.__dict__),
        at_its_end_pct=found.style.at_its_end_pct,
        days=[found.start + timedelta(days=i) for i in range(first, len(found.form))],
        load=list(found.load[first:]),
        fitness=list(found.fitness[first:]),
        fatigue=list(found.fatigue[first:]),
        form=list(found.form[first:]),
        form_low=list(found.form_low[first:]),
        form_high=list(found.form_high[first:]),
        form_on_the_day=found.form_on_the_day,
        low_on_the_day=found.band_on_the_day[0],
        high_on_the_day=found.band_on_the_day[1],
        peak_day=found.peak_day,
        peak_days_off=(found.peak_day - day).days,
        still_rises=found.still_rises,
        against_first=found.against_first[0],
        against_first_low=found.against_first[1],
        against_first_high=found.against_first[2],
        remarks=list(found.remarks),
        working=working_out(found.working),
    )


@router.post("/athletes/{int:athlete_id}/taper-bench", response={200: BenchOut, **ERRORS})
def try_tapers(request: HttpRequest, athlete_id: int, payload: BenchIn) -> BenchOut:
    """Two or three tapers for the next main competition side by side. Nothing is stored."""
    athlete, book, plan = _season(athlete_id)
    styles = [check_taper(t) for t in (typed_taper(raw) for raw in payload.tapers) if t is not None]
    facts = book.facts(athlete_id)
    chosen = facts.taper if facts is not None else None
    if not styles:
        styles = [chosen or TaperStyle(), TaperStyle(8, Shape.STEP, 50), TaperStyle(14, Shape.SLOW, 70)]
    goal = book.goal(athlete_id)
    day = goal.day if goal is not None else plan.competition_day
    practice = [float(sum(p.hardness * p.minutes for p in practices_of(athlete) if p.weekday == d)) for d in range(7)]
    constants, called, words = _constants(athlete, plan, payload.constants)
    return BenchOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        competition=goal.name if goal is not None else "",
        day=day,
        days_to_go=(day - book.today).days,
        caution=CAUTION,
        constants=called,
        fit_words=words,
        shapes=list(Shape),
        chosen=TaperOut(**chosen.__dict__) if chosen is not None else None,
        tried=[_tried_out(found, day) for found in bench(plan, practice, styles, constants, day)],
    )


@router.get("/athletes/{int:athlete_id}/contest", response={200: ContestOut, **ERRORS})
def read_contest(request: HttpRequest, athlete_id: int, competition: int | None = None) -> ContestOut:
    """The last heavy sessions before a main competition ahead, worked back from its events: the next one if none is named."""
    athlete, book, plan = _season(athlete_id)
    ahead = [c for c in book.competitions(athlete_id) if c.rank == Rank.MAIN and c.day >= book.today]
    c = next((x for x in ahead if x.pk == competition), ahead[0] if ahead else None)
    kinds = event_kinds()
    events = [event_out(e) for e in c.events] if c else []
    near, far = last_session_days_out([e.kind for e in events])
    early, late = drop_uncontested_days_out()
    gap = gap_of(athlete, (c.day - book.today).days if c else None)
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
        event_kinds=[EventKindOut(id=k.id, name=k.name, kind=k.kind, after=k.after) for k in kinds.values()],
        standings=[ChoiceWords(id=s.value, name=name) for s, name in STANDING_NAMES.items()],
        exposures=[
            _exposure_out(e) for e in contest_work_of(athlete, plan, book.rules).exposures if c and e.contest_day == c.day
        ],
        after=list(dict.fromkeys(f"{e.name or kinds[e.kind].name}: {kinds[e.kind].after}." for e in events)),
        last_session=f"The last session of any size lies {near} to {far} days before.",
        dropped=f"A lift that is not contested makes room {early} to {late} days before.",
        class_words=gap.words if gap else "",
        class_is_far=gap.is_large if gap else False,
        competitions=[ChoiceWords(id=str(x.pk), name=x.name) for x in ahead],
    )


def _exposure_out(e: Exposure) -> ExposureOut:
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
        low_kg=round(e.load_kg[0], 1) if e.load_kg else None,
        high_kg=round(e.load_kg[1], 1) if e.load_kg else None,
        instead=e.instead,
        note=e.note,
        source=e.source.text,
        monday=monday_of(e.day),
        lines=lines,
        is_left_out=e.is_left_out,
    )
