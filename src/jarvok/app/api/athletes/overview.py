from __future__ import annotations

from datetime import timedelta
from typing import Annotated

from django.db.models import Count, Max, Q
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router
from pydantic import Field

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import athletes_seen, may, person_of, squads_seen
from jarvok.app.api.athletes.result_form import result_kinds
from jarvok.app.api.athletes.rises import rise_out
from jarvok.app.api.athletes.shapes import (
    AddedOut,
    AthleteNoteOut,
    AthleteOut,
    AthleteRow,
    AthletesOut,
    BandPoint,
    CompetitionOut,
    Decide,
    LiftMaxOut,
    LiftOut,
    LinePoint,
    MarkOut,
    MassOut,
    NameOut,
    NewAthlete,
    NewMark,
    PracticeOut,
    ProfileOut,
    ProfilePoint,
    RestrictionOut,
    SessionRow,
    SquadNamesOut,
    SquadOut,
    TrendPoint,
    UsualIn,
    UsualOut,
)
from jarvok.app.api.kept_page import kept_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import add_mark as add
from jarvok.app.athletes.actions import decide_rise as decide
from jarvok.app.athletes.actions import set_usual_conditions
from jarvok.app.athletes.actions import withdraw_mark as withdraw
from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import age_of, athlete_alone, newest_masses, practice_rows_of
from jarvok.app.athletes.typed_marks import TypedMark, describe_mark
from jarvok.app.centre.habits import unit_at_the_desk
from jarvok.app.centre.in_force import unit_for
from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord, Squad
from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.facts.put_together import Objects, Part, PutTogether
from jarvok.app.seasons.actions import join_squad
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.shapes import working_out
from jarvok.core.experience import ADULT_AGE, is_minor, is_novice
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.conditions import from_raw, words_of
from jarvok.core.marks.mark import KIND_NAMES, MarkKind
from jarvok.core.marks.performance import read
from jarvok.core.marks.readings import maxes_from_marks
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.quantities.mass import format_mass, in_kg, in_unit, kg_from_lb, said_mass
from jarvok.core.velocity.definition import DEFINITION_WORDS
from jarvok.core.velocity.profile import Profile

PAGE = 50  # [T] athletes at once
LONGEST_SEARCH = 80  # [T]
Start = Annotated[int, Field(ge=0, le=1_000_000)]
router = Router(tags=["athletes"])
TREND_DAYS = 196  # as far back as sets are read as evidence
MAIN_LIFTS = {
    "weightlifting": ("snatch", "clean_and_jerk", "front_squat"),
    "": ("trap_bar_deadlift", "bench_press", "back_squat"),
}


def _competition_out(seasons: SeasonBook, athlete_id: int) -> CompetitionOut | None:
    goal, plan = seasons.goal(athlete_id), seasons.plan(athlete_id)
    if goal is None or plan is None:
        return None
    week = plan.week_of(seasons.today)
    return CompetitionOut(
        name=goal.name,
        day=goal.day,
        days_to_go=(goal.day - seasons.today).days,
        phase_name=week.phase_name if week else "",
    )


def _tenth(mass_kg: float, unit: str) -> float:
    return round(in_unit(mass_kg, unit), 1)


def _unit(book: LiftBook, athlete_id: int, lift_id: str) -> str:
    return unit_for(exercise(lift_id), book.athletes[athlete_id].kit)


def _lift_max(book: LiftBook, athlete_id: int, exercise_id: str) -> LiftMaxOut:
    current, unit = book.max(athlete_id, exercise_id), _unit(book, athlete_id, exercise_id)
    return LiftMaxOut(
        exercise_id=exercise_id,
        exercise=exercise(exercise_id).name,
        max_kg=round(current.value_kg, 1) if current else None,
        max=_tenth(current.value_kg, unit) if current else None,
        error=_tenth(current.error_kg, unit) if current else None,
        unit=unit,
        working=working_out(current.working) if current else None,
    )


@router.post("/athletes", response={200: AddedOut, **ERRORS})
def add_by_hand(request: HttpRequest, payload: NewAthlete) -> AddedOut:
    """Write an athlete down by hand; a squad that is not there yet is made."""
    known = payload.dict(exclude={"name", "squad", "sport"})
    athlete, given = join_squad.run(who_of(request), payload.name, payload.squad, payload.sport, known)
    return AddedOut(id=athlete.pk, squad_id=athlete.squad_id, given=[c.name for c in given])


@router.get("/names", response={200: list[SquadNamesOut], **ERRORS})
def names(request: HttpRequest) -> list[SquadNamesOut]:
    """Who there is, squad by squad, and nothing that has to be worked out: what choosing somebody on any page needs."""
    squads = {s.pk: SquadNamesOut(id=s.pk, name=s.name, sport=s.sport, athletes=[]) for s in squads_seen(person_of(request))}
    for pk, name, group, squad_id in athletes_seen(person_of(request)).values_list("pk", "name", "group", "squad_id"):
        squads[squad_id].athletes.append(NameOut(id=pk, name=name, group=group))
    return list(squads.values())


@router.get("/athletes", response={200: AthletesOut, **ERRORS})
def list_athletes(request: HttpRequest, q: str = "", start: Start = 0) -> AthletesOut:
    """The athletes whose name, group, position or squad holds what is looked for, a page at a time, squad by squad."""
    person, needle = person_of(request), " ".join(q.split()).casefold()[:LONGEST_SEARCH]
    squads = {s.pk: s for s in squads_seen(person)}
    place = {pk: n for n, pk in enumerate(squads)}
    seen = sorted(
        athletes_seen(person).values_list("pk", "squad_id", "name", "group", "position"), key=lambda row: place[row[1]]
    )  # within a squad in the order they are read
    found = [row for row in seen if needle in " ".join((*row[2:], squads[row[1]].name)).casefold()]
    page = found[start : start + PAGE]
    here = Athlete.objects.select_related("squad", "kit").in_bulk([row[0] for row in page])
    notes, rows = may(person, Need.HEALTH), rows_of([here[row[0]] for row in page if row[0] in here])
    shown: dict[int, SquadOut] = {}
    for pk, squad_id, *_ in page:
        squad = squads[squad_id]
        out = shown.setdefault(squad_id, SquadOut(id=squad_id, name=squad.name, sport=squad.sport, athletes=[]))
        if pk in rows:
            out.athletes.append(rows[pk] if notes else rows[pk].model_copy(update={"note": ""}))
    return AthletesOut(
        count=len(seen),
        squad_count=len(squads),
        found=len(found),
        next_start=start + PAGE if start + PAGE < len(found) else None,
        squads=list(shown.values()),
    )


def rows_of(people: list[Athlete]) -> dict[int, AthleteRow]:
    """The row of each athlete: what is kept, and of those who changed worked out together."""
    kept = kept_of([a.pk for a in people])
    missing = [a for a in people if "row" not in kept[a.pk]]
    today = clock.today()
    book = LiftBook(missing, today)
    seasons = SeasonBook(missing, today, book.rules)
    ids = [a.pk for a in missing]
    last = dict(TrainingSession.objects.filter(athlete__in=ids).order_by().values_list("athlete_id").annotate(Max("day")))
    masses = newest_masses(ids)
    for a in missing:
        kept[a.pk]["row"] = AthleteRow(
            id=a.pk,
            name=a.name,
            group=a.group,
            position=a.position,
            body_mass_class=a.body_mass_class,
            mass_kg=masses[a.pk],
            mass=_tenth(mass_kg, unit_at_the_desk()) if (mass_kg := masses[a.pk]) is not None else None,
            competition=_competition_out(seasons, a.pk),
            lifts=[_lift_max(book, a.pk, lift) for lift in MAIN_LIFTS.get(a.squad.sport, MAIN_LIFTS[""])],
            last_session=last.get(a.pk),
            note=a.note,
        )
    return {pk: rows["row"] for pk, rows in kept.items()}


def _trend(book: LiftBook, athlete_id: int, lift_id: str, unit: str) -> tuple[list[TrendPoint], list[LinePoint]]:
    """Every mark as the max it implies, and the standing estimate after each day with a mark."""
    since = book.day - timedelta(days=TREND_DAYS)
    marks = sorted((m for m in book.evidence(athlete_id, lift_id) if m.day >= since), key=lambda m: m.day)
    points = [
        TrendPoint(day=m.day, load=_tenth(kg, unit), kind=m.kind, words=KIND_NAMES[m.kind])
        for m, kg in zip(marks, maxes_from_marks(marks, book.rules, body_kg=book.body_kg(athlete_id, lift_id)), strict=True)
        if kg is not None
    ]
    months = {since + timedelta(days=14 * i) for i in range(TREND_DAYS // 14)}
    days = sorted({m.day for m in marks} | months | {book.day})
    return points, [
        LinePoint(day=p.day, load=_tenth(p.value_kg, unit), error=_tenth(p.error_kg, unit))
        for p in book.trend(athlete_id, lift_id, days)
    ]


def _band_point(profile: Profile, load_kg: float, unit: str) -> BandPoint:
    middle, half = profile.velocity_mps(load_kg), profile.prediction_half_width_mps(load_kg)
    return BandPoint(load=_tenth(load_kg, unit), low_mps=middle - half, high_mps=middle + half)


def _profile_out(book: LiftBook, athlete_id: int, lift_id: str, unit: str) -> ProfileOut | None:
    profile = book.profile(athlete_id, lift_id)
    if profile is None:
        return None
    low, high = profile.loads_kg
    steps = [low + (high - low) * i / 12 for i in range(13)]
    lift = exercise(lift_id)
    return ProfileOut(
        intercept_mps=profile.intercept_mps,
        slope=profile.slope_mps_per_kg * in_kg(1.0, unit),
        r_squared=profile.r_squared,
        error_mps=profile.error_mps,
        points=[ProfilePoint(load=_tenth(p.load_kg, unit), velocity_mps=p.velocity_mps, day=p.day) for p in profile.points],
        band=[_band_point(profile, x, unit) for x in steps],
        quality=list(profile.quality),
        definition="" if lift.velocity == "peak" else DEFINITION_WORDS[profile.definition],
        waiting=profile.waiting,
        unit="m/s peak" if lift.velocity == "peak" else "m/s mean",
        max_mps=lift.v1rm.mps if lift.v1rm else None,
        load_at_max=_tenth(profile.load_kg(lift.v1rm.mps), unit) if lift.v1rm else None,
    )


def _lift_out(book: LiftBook, athlete_id: int, lift_id: str, current: CurrentMax) -> LiftOut:
    unit = _unit(book, athlete_id, lift_id)
    points, line = _trend(book, athlete_id, lift_id, unit)
    return LiftOut(
        exercise_id=lift_id,
        exercise=exercise(lift_id).name,
        max_kg=round(current.value_kg, 1),
        error_kg=round(current.error_kg, 1),
        max=_tenth(current.value_kg, unit),
        error=_tenth(current.error_kg, unit),
        unit=unit,
        working=working_out(current.working),
        proposal=rise_out(book, athlete_id, lift_id),
        trend=points,
        line=line,
        profile=_profile_out(book, athlete_id, lift_id, unit),
    )


CLASS_TOLERANCE_SHARE = 0.02  # [J] further over the limit than this is no matter for the gym


def _class_note(athlete: Athlete, masses: list[BodyMass]) -> AthleteNoteOut | None:
    if not athlete.class_limit_kg or not masses:
        return None
    gap = masses[-1].mass_kg - athlete.class_limit_kg
    far = gap > CLASS_TOLERANCE_SHARE * athlete.class_limit_kg
    unit = unit_at_the_desk()
    by = f"{in_unit(abs(gap), unit):.1f} {unit}"
    text = f"{by} under the limit." if gap <= 0 else f"{by} over the limit."
    if far:
        text = f"{by} over the limit: a matter for licensed professionals. No weight cut is planned here."
    return AthleteNoteOut(id="class", title=f"Class {athlete.body_mass_class}.", text=text, decision=far)


def _margin(athlete: Athlete, masses: list[BodyMass], age: int | None, book: LiftBook) -> list[AthleteNoteOut]:
    """What the margin says of an athlete: the class, age and years of lifting."""
    found = [note] if (note := _class_note(athlete, masses)) is not None else []
    if is_minor(age):
        text = "No true 1RM and no body-mass target by default; guardian and local rules come first."
        found.append(AthleteNoteOut(id="minor", title=f"Under {ADULT_AGE}.", text=text, decision=False))
    if is_novice(athlete.years_of_lifting_on(book.day), book.rules):
        text = "Reps in reserve are recorded but move no load yet."
        found.append(AthleteNoteOut(id="novice", title="First year.", text=text, decision=False))
    return found


def _typed(payload: NewMark) -> TypedMark:
    """A mark as it was typed, its load in kg."""
    told = payload.dict(exclude={"load"})
    if payload.load is not None:
        told["load_kg"] = kg_from_lb(payload.load) if payload.unit == "lb" else payload.load
    return TypedMark(**told)


def _mark_out(m: MarkRecord, replaced: set[int], others: set[str]) -> MarkOut:
    kind = MarkKind(m.kind)
    reading = read(kind, m.measures, m.load_kg)
    return MarkOut(
        id=m.pk,
        exercise_id=m.exercise_id,
        exercise=exercise(m.exercise_id).name,
        kind=m.kind,
        kind_name=KIND_NAMES[kind],
        day=m.day,
        words=describe_mark(m),
        note=m.note,
        withdrawn=m.withdrawn_at is not None,
        replaced=m.pk in replaced,
        replaces=describe_mark(m.replaces) if m.replaces else "",
        load_kg=m.load_kg,
        load=format_mass(m.load_kg, m.unit),
        unit=m.unit,
        sets=m.sets,
        reps=m.reps,
        rir=m.rir,
        side=m.side,
        measures=m.measures,
        conditions=m.conditions,
        is_as_usual=f"mark:{m.pk}" not in others,
        working=working_out(reading.working) if reading and reading.working else None,
    )


MARKS_SHOWN, SESSIONS_SHOWN = 60, 8  # [T]
_PARTS = (Part(Athlete, "masses"), Part(Athlete, "restrictions"))
_PRACTICES = Part(Squad, "practices")
_MARKS = Objects(
    lambda ids: MarkRecord.objects.filter(athlete_id__in=ids).select_related("replaces").order_by("-day", "-id")[:MARKS_SHOWN]
)
_NEWEST = PutTogether(
    lambda ids: TrainingSession.objects.filter(athlete_id__in=ids).order_by("-day", "-id").values_list("pk")[:SESSIONS_SHOWN]
)
_WORK = Q(lines__sets__kind=SetKind.WORK, lines__sets__taken_back_at__isnull=True)
_WITH_SETS = PutTogether(  # sets are counted of these alone, and not of all there ever were
    lambda ids: (
        TrainingSession.objects.filter(pk__in=ids)
        .annotate(work_sets=Count("lines__sets", filter=_WORK))
        .order_by("-day", "-id")
        .values_list("pk", "day", "key", "theme", "finished_at", "work_sets")
    )
)


@router.get("/athletes/{int:athlete_id}", response={200: AthleteOut, **ERRORS})
def read_athlete(request: HttpRequest, athlete_id: int) -> HttpResponse:
    return kept_page(request, athlete_id, "athlete", lambda: athlete_out(request, athlete_id))


def athlete_out(request: HttpRequest, athlete_id: int) -> AthleteOut:
    """Everything that an athlete's page shows; 404 where there is none."""
    today = clock.today()
    a = athlete_alone(athlete_id, _PARTS)
    _PRACTICES.read([a.squad])
    book, masses = LiftBook([a], today), list(a.masses.all())
    lifts = [(lift, book.max(a.pk, lift.id)) for lift in book.lifts_of(a.pk) if lift.same_lift == lift.id]
    age = age_of(a, today)
    marks = _MARKS.of([a.pk])
    replaced = {m.replaces_id for m in marks if m.replaces_id}
    others = {m.ref for m in book.others_of(a.pk)}
    recent = _WITH_SETS.rows([pk for (pk,) in _NEWEST.rows([a.pk])])
    return AthleteOut(
        id=a.pk,
        name=a.name,
        squad=a.squad.name,
        sport=a.squad.sport,
        age=age,
        training_age_years=round(a.years_of_lifting_on(clock.today()), 1),
        body_mass_class=a.body_mass_class,
        class_limit_kg=a.class_limit_kg,
        margin=_margin(a, masses, age, book),
        note=a.note if may(person_of(request), Need.HEALTH) else "",
        masses=[MassOut(day=m.day, mass_kg=m.mass_kg, words=said_mass(m.mass_kg, unit_at_the_desk())) for m in masses],
        restrictions=[
            RestrictionOut(words=r.words, side=r.side, set_by=r.set_by, since=r.since, until=r.until)
            for r in a.restrictions.all()
            if r.until is None or r.until >= today
        ],
        practices=[
            PracticeOut(weekday=p.weekday, hour=p.hour, minutes=p.minutes, hardness=p.hardness, sport=p.sport)
            for p in practice_rows_of(a)
        ],
        competition=_competition_out(SeasonBook([a], today, book.rules), a.pk),
        lifts=[_lift_out(book, a.pk, lift.id, current) for lift, current in lifts if current is not None],
        marks=[_mark_out(m, replaced, others) for m in marks],
        usual=[
            UsualOut(exercise_id=lift, exercise=exercise(lift).name, words=words_of(from_raw(told)))
            for lift, told in a.usual_conditions.items()
            if lift in exercises()
        ],
        sessions=[
            SessionRow(id=pk, day=day, key=key, theme=theme, finished=finished_at is not None, sets=sets)
            for pk, day, key, theme, finished_at, sets in recent
        ],
        kind_choices=result_kinds(a, is_minor(age)),
    )


@router.post("/athletes/{int:athlete_id}/marks", response={200: AthleteOut, **ERRORS})
def add_mark(request: HttpRequest, athlete_id: int, payload: NewMark) -> AthleteOut:
    a = get_object_or_404(Athlete, pk=athlete_id)
    add.run(who_of(request), a, _typed(payload))
    return athlete_out(request, athlete_id)


@router.put("/marks/{int:mark_id}", response={200: AthleteOut, **ERRORS})
def correct_mark(request: HttpRequest, mark_id: int, payload: NewMark) -> AthleteOut:
    """Keep a corrected mark in place of this one; the wrong one stays in the history, withdrawn."""
    mark = get_object_or_404(MarkRecord.objects.select_related("athlete"), pk=mark_id)
    add.run(who_of(request), mark.athlete, _typed(payload), replaces=mark)
    return athlete_out(request, mark.athlete_id)


@router.post("/marks/{int:mark_id}/withdraw", response={200: AthleteOut, **ERRORS})
def withdraw_mark(request: HttpRequest, mark_id: int) -> AthleteOut:
    mark = get_object_or_404(MarkRecord.objects.select_related("athlete"), pk=mark_id)
    withdraw.run(who_of(request), mark)
    return athlete_out(request, mark.athlete_id)


@router.put("/athletes/{int:athlete_id}/usual-conditions", response={200: AthleteOut, **ERRORS})
def say_usual(request: HttpRequest, athlete_id: int, payload: UsualIn) -> AthleteOut:
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    set_usual_conditions.run(who_of(request), athlete, payload.exercise_id, payload.conditions)
    return athlete_out(request, athlete_id)


@router.post("/athletes/{int:athlete_id}/max-decisions", response={200: AthleteOut, **ERRORS})
def decide_rise(request: HttpRequest, athlete_id: int, payload: Decide) -> AthleteOut:
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    decide.run(who_of(request), athlete, payload.exercise_id, payload.evidence, payload.answer, payload.ask_again_on)
    return athlete_out(request, athlete_id)
