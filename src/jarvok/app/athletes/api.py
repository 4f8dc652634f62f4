from __future__ import annotations

from datetime import date, timedelta

from django.db.models import Prefetch
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from jarvok.app import clock
from jarvok.app.athletes import services
from jarvok.app.athletes.models import Athlete, BodyMass, MarkRecord, Squad
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.floor.models import TrainingSession
from jarvok.app.problems import Problem
from jarvok.app.seasons.models import Competition
from jarvok.app.seasons.queries import plan_of
from jarvok.app.shapes import WorkingOut, working_out
from jarvok.app.training.queries import planned_week
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.mark import KIND_NAMES, MarkKind
from jarvok.core.marks.working_max import CurrentMax, current_max, max_from_mark
from jarvok.core.season.model import PHASE_NAMES
from jarvok.core.velocity.profile import Profile

router = Router(tags=["athletes"])
ERRORS = {401: Problem, 403: Problem, 404: Problem, 409: Problem, 422: Problem, 428: Problem}
TREND_DAYS = 196  # as far back as sets are read as evidence
MAIN_LIFTS = {
    "weightlifting": ("snatch", "clean_and_jerk", "front_squat"),
    "": ("trap_bar_deadlift", "bench_press", "back_squat"),
}


class LiftMaxOut(Schema):
    exercise_id: str
    exercise: str
    max_kg: float | None
    error_kg: float | None
    working: WorkingOut | None


class CompetitionOut(Schema):
    name: str
    day: date
    days_to_go: int
    phase_name: str


class AthleteRow(Schema):
    id: int
    name: str
    body_mass_class: str
    mass_kg: float | None
    competition: CompetitionOut | None
    lifts: list[LiftMaxOut]
    last_session: date | None
    note: str


class SquadOut(Schema):
    id: int
    name: str
    sport: str
    athletes: list[AthleteRow]


class MarkOut(Schema):
    id: int
    exercise_id: str
    exercise: str
    kind: str
    kind_name: str
    day: date
    words: str
    note: str
    withdrawn: bool


class TrendPoint(Schema):
    day: date
    kg: float
    kind: str
    words: str


class LinePoint(Schema):
    day: date
    kg: float
    error_kg: float


class ProposalOut(Schema):
    from_kg: float
    to_kg: float
    day: date


class ProfilePoint(Schema):
    load_kg: float
    velocity_mps: float
    day: date


class BandPoint(Schema):
    load_kg: float
    low_mps: float
    high_mps: float


class ProfileOut(Schema):
    intercept_mps: float
    slope_mps_per_kg: float
    r_squared: float
    error_mps: float
    points: list[ProfilePoint]
    band: list[BandPoint]
    quality: list[str]
    unit: str
    max_mps: float | None


class LiftOut(Schema):
    exercise_id: str
    exercise: str
    max_kg: float
    error_kg: float
    working: WorkingOut
    proposal: ProposalOut | None
    trend: list[TrendPoint]
    line: list[LinePoint]
    profile: ProfileOut | None


class MassOut(Schema):
    day: date
    mass_kg: float


class RestrictionOut(Schema):
    words: str
    side: str
    set_by: str
    since: date
    until: date | None


class PracticeOut(Schema):
    weekday: int
    hour: float
    minutes: int
    hardness: int


class SessionRow(Schema):
    id: int
    day: date
    key: str
    theme: str
    finished: bool
    sets: int


class ChoiceOut(Schema):
    id: str
    name: str


class AthleteOut(Schema):
    id: int
    name: str
    squad: str
    sport: str
    age: int | None
    is_minor: bool
    training_age_years: float
    body_mass_class: str
    class_limit_kg: float | None
    class_note: str
    note: str
    masses: list[MassOut]
    restrictions: list[RestrictionOut]
    practices: list[PracticeOut]
    competition: CompetitionOut | None
    lifts: list[LiftOut]
    marks: list[MarkOut]
    sessions: list[SessionRow]
    exercise_choices: list[ChoiceOut]
    kind_choices: list[ChoiceOut]


class NewMark(Schema):
    exercise_id: str
    kind: MarkKind
    day: date
    load_kg: float
    reps: int = 1
    rir: float = 0
    note: str = ""
    confirm: bool = False


class Decide(Schema):
    exercise_id: str
    day: date
    accepted: bool


class TodaySession(Schema):
    athlete_id: int
    athlete_name: str
    squad: str
    key: str
    day: date
    theme: str
    phase_name: str
    days_to_go: int
    competition: str
    state: str
    session_id: int | None
    day_reason: str


class DecisionOut(Schema):
    athlete_id: int
    athlete_name: str
    kind: str
    title: str
    text: str


class GoalOut(Schema):
    athlete_ids: list[int]
    names: list[str]
    competition: str
    day: date
    days_to_go: int
    phase_name: str


class TodayOut(Schema):
    day: date
    sessions: list[TodaySession]
    next_days: list[TodaySession]
    decisions: list[DecisionOut]
    goals: list[GoalOut]
    athletes: int


def _ahead(competitions: list[Competition], today: date) -> Competition | None:
    return next((c for c in competitions if c.withdrawn_at is None and c.day >= today), None)


def _competition_out(competition: Competition | None, today: date) -> CompetitionOut | None:
    if competition is None:
        return None
    week = plan_of(competition).week_of(today)
    return CompetitionOut(
        name=competition.name,
        day=competition.day,
        days_to_go=(competition.day - today).days,
        phase_name=PHASE_NAMES[week.phase] if week else "",
    )


def _everyone() -> list[Athlete]:
    return list(
        Athlete.objects.select_related("squad").prefetch_related(
            Prefetch("competitions", Competition.objects.order_by("day")), "masses", "restrictions", "squad__practices"
        )
    )


def _lift_max(book: LiftBook, athlete_id: int, exercise_id: str) -> LiftMaxOut:
    current = book.max(athlete_id, exercise_id)
    return LiftMaxOut(
        exercise_id=exercise_id,
        exercise=exercise(exercise_id).name,
        max_kg=round(current.value_kg, 1) if current else None,
        error_kg=round(current.error_kg, 1) if current else None,
        working=working_out(current.working) if current else None,
    )


@router.get("/athletes", response={200: list[SquadOut], **ERRORS})
def list_athletes(request: HttpRequest) -> list[SquadOut]:
    today, everyone = clock.today(), _everyone()
    book = LiftBook(everyone, today)
    last: dict[int, date] = {}
    for athlete_id, day in TrainingSession.objects.order_by("day").values_list("athlete_id", "day"):
        last[athlete_id] = day
    squads: dict[int, SquadOut] = {s.pk: SquadOut(id=s.pk, name=s.name, sport=s.sport, athletes=[]) for s in Squad.objects.all()}
    for a in everyone:
        lifts = MAIN_LIFTS.get(a.squad.sport, MAIN_LIFTS[""])
        masses = list(a.masses.all())
        squads[a.squad_id].athletes.append(
            AthleteRow(
                id=a.pk,
                name=a.name,
                body_mass_class=a.body_mass_class,
                mass_kg=masses[-1].mass_kg if masses else None,
                competition=_competition_out(_ahead(list(a.competitions.all()), today), today),
                lifts=[_lift_max(book, a.pk, lift) for lift in lifts],
                last_session=last.get(a.pk),
                note=a.note,
            )
        )
    return list(squads.values())


def _trend(book: LiftBook, athlete_id: int, lift_id: str) -> tuple[list[TrendPoint], list[LinePoint]]:
    """Every mark as the max it implies, and the standing estimate after each day with a mark."""
    marks = sorted(book.evidence(athlete_id, lift_id), key=lambda m: m.day)
    points = [
        TrendPoint(day=m.day, kg=round(kg, 1), kind=m.kind, words=KIND_NAMES[m.kind])
        for m in marks
        if (kg := max_from_mark(m)) is not None and m.day >= book.day - timedelta(days=TREND_DAYS)
    ]
    line: list[LinePoint] = []
    since = book.day - timedelta(days=TREND_DAYS)
    months = {since + timedelta(days=14 * i) for i in range(TREND_DAYS // 14)}
    for day in sorted({m.day for m in marks if m.day >= since} | months | {book.day}):
        current = current_max(marks, day, decisions=book.decisions[athlete_id, lift_id])
        if current is not None:
            line.append(LinePoint(day=day, kg=round(current.value_kg, 1), error_kg=round(current.error_kg, 1)))
    return points, line


def _band_point(profile: Profile, load_kg: float) -> BandPoint:
    middle, half = profile.velocity_mps(load_kg), profile.prediction_half_width_mps(load_kg)
    return BandPoint(load_kg=load_kg, low_mps=middle - half, high_mps=middle + half)


def _profile_out(book: LiftBook, athlete_id: int, lift_id: str) -> ProfileOut | None:
    profile = book.profile(athlete_id, lift_id)
    if profile is None:
        return None
    low, high = profile.loads_kg
    steps = [low + (high - low) * i / 12 for i in range(13)]
    lift = exercise(lift_id)
    return ProfileOut(
        intercept_mps=profile.intercept_mps,
        slope_mps_per_kg=profile.slope_mps_per_kg,
        r_squared=profile.r_squared,
        error_mps=profile.error_mps,
        points=[ProfilePoint(load_kg=p.load_kg, velocity_mps=p.velocity_mps, day=p.day) for p in profile.points],
        band=[_band_point(profile, x) for x in steps],
        quality=list(profile.quality),
        unit="m/s peak" if lift.velocity == "peak" else "m/s mean",
        max_mps=lift.v1rm.mps if lift.v1rm else None,
    )


def _lift_out(book: LiftBook, athlete_id: int, lift_id: str, current: CurrentMax) -> LiftOut:
    points, line = _trend(book, athlete_id, lift_id)
    waiting = current.proposal
    return LiftOut(
        exercise_id=lift_id,
        exercise=exercise(lift_id).name,
        max_kg=round(current.value_kg, 1),
        error_kg=round(current.error_kg, 1),
        working=working_out(current.working),
        proposal=ProposalOut(from_kg=waiting.from_kg, to_kg=waiting.to_kg, day=waiting.day) if waiting else None,
        trend=points,
        line=line,
        profile=_profile_out(book, athlete_id, lift_id),
    )


def _class_note(athlete: Athlete, masses: list[BodyMass]) -> str:
    if not athlete.class_limit_kg or not masses:
        return ""
    gap = masses[-1].mass_kg - athlete.class_limit_kg
    if gap <= 0:
        return f"{-gap:.1f} kg under the limit."
    if gap > 0.02 * athlete.class_limit_kg:
        return f"{gap:.1f} kg over the limit: a matter for licensed professionals. No weight cut is planned here."
    return f"{gap:.1f} kg over the limit."


def _age(athlete: Athlete, today: date) -> int | None:
    born = athlete.birth_date
    if born is None:
        return None
    return today.year - born.year - ((today.month, today.day) < (born.month, born.day))


@router.get("/athletes/{int:athlete_id}", response={200: AthleteOut, **ERRORS})
def read_athlete(request: HttpRequest, athlete_id: int) -> AthleteOut:
    today = clock.today()
    a = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    book, masses = LiftBook([a], today), list(a.masses.all())
    lifts = [(lift, book.max(a.pk, lift.id)) for lift in book.lifts_of(a.pk) if lift.same_lift == lift.id]
    age = _age(a, today)
    recent = TrainingSession.objects.filter(athlete=a).prefetch_related("lines__sets")[:8]
    return AthleteOut(
        id=a.pk,
        name=a.name,
        squad=a.squad.name,
        sport=a.squad.sport,
        age=age,
        is_minor=age is not None and age < 18,
        training_age_years=a.training_age_years,
        body_mass_class=a.body_mass_class,
        class_limit_kg=a.class_limit_kg,
        class_note=_class_note(a, masses),
        note=a.note,
        masses=[MassOut(day=m.day, mass_kg=m.mass_kg) for m in masses],
        restrictions=[
            RestrictionOut(words=r.words, side=r.side, set_by=r.set_by, since=r.since, until=r.until)
            for r in a.restrictions.all()
            if r.until is None or r.until >= today
        ],
        practices=[
            PracticeOut(weekday=p.weekday, hour=p.hour, minutes=p.minutes, hardness=p.hardness) for p in a.squad.practices.all()
        ],
        competition=_competition_out(_ahead(list(a.competitions.all()), today), today),
        lifts=[_lift_out(book, a.pk, lift.id, current) for lift, current in lifts if current is not None],
        marks=[
            MarkOut(
                id=m.pk,
                exercise_id=m.exercise_id,
                exercise=exercise(m.exercise_id).name,
                kind=m.kind,
                kind_name=KIND_NAMES[MarkKind(m.kind)],
                day=m.day,
                words=services.describe_mark(m),
                note=m.note,
                withdrawn=m.withdrawn_at is not None,
            )
            for m in a.marks.all()[:60]
        ],
        sessions=[
            SessionRow(
                id=t.pk,
                day=t.day,
                key=t.key,
                theme=t.theme,
                finished=t.finished_at is not None,
                sets=sum(1 for line in t.lines.all() for s in line.sets.all() if s.kind == "work" and not s.taken_back_at),
            )
            for t in recent
        ],
        exercise_choices=[ChoiceOut(id=e.id, name=e.name) for e in exercises().values() if e.is_loaded and e.same_lift == e.id],
        kind_choices=[ChoiceOut(id=k.value, name=KIND_NAMES[k]) for k in services.TYPED_KINDS],
    )


@router.post("/athletes/{int:athlete_id}/marks", response={200: AthleteOut, **ERRORS})
def add_mark(request: HttpRequest, athlete_id: int, payload: NewMark) -> AthleteOut:
    a = get_object_or_404(Athlete, pk=athlete_id)
    services.add_mark(a, **payload.dict())
    return read_athlete(request, athlete_id)


@router.post("/marks/{int:mark_id}/withdraw", response={200: AthleteOut, **ERRORS})
def withdraw_mark(request: HttpRequest, mark_id: int) -> AthleteOut:
    mark = get_object_or_404(MarkRecord, pk=mark_id)
    services.withdraw_mark(mark)
    return read_athlete(request, mark.athlete_id)


@router.post("/athletes/{int:athlete_id}/max-decisions", response={200: AthleteOut, **ERRORS})
def decide_rise(request: HttpRequest, athlete_id: int, payload: Decide) -> AthleteOut:
    services.decide_rise(get_object_or_404(Athlete, pk=athlete_id), payload.exercise_id, payload.day, payload.accepted)
    return read_athlete(request, athlete_id)


@router.get("/today", response={200: TodayOut, **ERRORS})
def today_view(request: HttpRequest) -> TodayOut:
    today, everyone = clock.today(), _everyone()
    book = LiftBook(everyone, today)
    started = {(t.athlete_id, t.day, t.key): t for t in TrainingSession.objects.filter(day__gte=today).select_related("athlete")}
    sessions: list[TodaySession] = []
    decisions: list[DecisionOut] = []
    goals: dict[tuple[str, date], GoalOut] = {}
    for a in everyone:
        competition = _ahead(list(a.competitions.all()), today)
        for lift in book.lifts_of(a.pk):
            current = book.max(a.pk, lift.id)
            if current is not None and current.proposal is not None:
                decisions.append(
                    DecisionOut(
                        athlete_id=a.pk,
                        athlete_name=a.name,
                        kind="rise",
                        title=f"{lift.name}: {current.proposal.from_kg:.0f} to {current.proposal.to_kg:.0f} kg?",
                        text="More than 5 % in a week waits for your word.",
                    )
                )
        if competition is None:
            if a.squad.sport == "wrestling":
                text = "Add the tournament and the season is built backwards."
                decisions.append(
                    DecisionOut(athlete_id=a.pk, athlete_name=a.name, kind="season", title="No competition ahead", text=text)
                )
            continue
        plan = plan_of(competition)
        week = plan.week_of(today)
        goal = goals.setdefault(
            (competition.name, competition.day),
            GoalOut(
                athlete_ids=[],
                names=[],
                competition=competition.name,
                day=competition.day,
                days_to_go=(competition.day - today).days,
                phase_name=PHASE_NAMES[week.phase] if week else "",
            ),
        )
        goal.athlete_ids.append(a.pk)
        goal.names.append(a.name)
        if week is None:
            continue
        for planned in planned_week(a, competition, plan, week):
            if planned.day < today:
                continue
            record = started.get((a.pk, planned.day, planned.key))
            sessions.append(
                TodaySession(
                    athlete_id=a.pk,
                    athlete_name=a.name,
                    squad=a.squad.name,
                    key=planned.key,
                    day=planned.day,
                    theme=planned.theme,
                    phase_name=PHASE_NAMES[week.phase],
                    days_to_go=(competition.day - planned.day).days,
                    competition=competition.name,
                    state="planned" if record is None else "finished" if record.finished_at else "started",
                    session_id=record.pk if record else None,
                    day_reason=planned.day_reason,
                )
            )
    sessions.sort(key=lambda s: (s.day, s.squad, s.athlete_name))
    return TodayOut(
        day=today,
        sessions=[s for s in sessions if s.day == today],
        next_days=[s for s in sessions if s.day > today],
        decisions=decisions,
        goals=sorted(goals.values(), key=lambda g: g.day),
        athletes=len(everyone),
    )
