"""The library: exercises with search, their families and chains, what stands in for one, and the coach's own."""

from __future__ import annotations

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.known import faults_on
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.shapes import ConditionOut, conditions_out
from jarvok.app.training import own_library
from jarvok.app.training.actions import restore_exercise, save_exercise
from jarvok.app.training.planned_weeks import limits_of
from jarvok.core.checks.session import CAUTION_WORDS
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import chains, exercise, exercises, with_own
from jarvok.core.library.kit import GEAR_NAMES
from jarvok.core.library.search import aliases, found_by
from jarvok.core.library.substitutes import Limits, substitutes
from jarvok.core.marks.limiter import fault_kinds

router = Router(tags=["library"])
PLACES = {
    "heavy_slow": "heavy and slow",
    "heavy_fast": "heavy and fast",
    "light_fast": "light and fast",
    "unloaded": "unloaded",
    "": "",
}


class ExerciseRow(Schema):
    id: str
    name: str
    pattern: str
    region: str
    cost: str
    kind: str
    implement: str
    needs: list[str]
    roles: list[str]
    place: str
    faults: list[str]
    per_side: bool
    is_own: bool
    is_edited: bool
    also_called: list[str]
    found_by: str  # every word it is found by, in small letters


class LibraryOut(Schema):
    exercises: list[ExerciseRow]
    patterns: list[str]
    choices: dict[str, list[str]]
    gear: dict[str, str]


class ChainStepOut(Schema):
    phase: str
    exercise: str
    is_this: bool


class SubstituteOut(Schema):
    exercise_id: str
    exercise: str
    closeness: int
    reason: str


class ExerciseOut(Schema):
    row: ExerciseRow
    cue: str
    family: list[str]
    variation_of: str
    chain: list[ChainStepOut]
    velocity: str
    tail_days: int
    seconds_per_rep: float
    tempo: str
    plyometric: str
    running: str
    teaching: str
    cautions: list[str]
    max_from: str
    substitutes: list[SubstituteOut]
    why_not: str
    is_shipped: bool
    conditions: list[ConditionOut]


class OwnIn(Schema):
    name: str
    cue: str
    pattern: str
    region: str
    cost: str
    kind: str
    implement: str
    velocity: str = "mean"
    seconds_per_rep: float = 3
    per_side: bool = False
    needs: list[str] = []


TEACHING = {1: "anybody", 2: "after some months of lifting", 3: "years of lifting, or a coach beside"}
PHASE_WORDS = {"base": "base", "strength_speed": "strength-speed", "speed_strength": "speed-strength", "taper": "taper"}


def _row(e: Exercise) -> ExerciseRow:
    kinds = fault_kinds()
    return ExerciseRow(
        id=e.id,
        name=e.name,
        pattern=e.pattern,
        region=e.region,
        cost=e.cost,
        kind=e.kind,
        implement=e.implement,
        needs=[GEAR_NAMES.get(g, g) for g in sorted(e.needs)],
        roles=list(e.roles),
        place=PLACES.get(e.place, e.place),
        faults=[kinds[f].name for f in e.faults if f in kinds],
        per_side=e.per_side,
        is_own=e.is_own and not own_library.is_shipped(e.id),
        is_edited=e.is_own and own_library.is_shipped(e.id),
        also_called=list(aliases(e)),
        found_by=found_by(e),
    )


@router.get("/library", response={200: LibraryOut, **ERRORS})
def read_library(request: HttpRequest) -> LibraryOut:
    gone = own_library.taken_out_ids()
    rows = sorted((e for e in exercises().values() if e.id not in gone), key=lambda e: e.name.lower())
    return LibraryOut(
        exercises=[_row(e) for e in rows],
        patterns=sorted({e.pattern for e in rows}),
        choices={k: list(v) for k, v in own_library.CHOICES.items()},
        gear=GEAR_NAMES,
    )


def _chain(e: Exercise) -> list[ChainStepOut]:
    for steps in chains().values():
        if e.id in steps.values():
            return [
                ChainStepOut(phase=PHASE_WORDS.get(p, p), exercise=exercise(x).name, is_this=x == e.id) for p, x in steps.items()
            ]
    return []


def _plyometric(e: Exercise) -> str:
    if e.plyometric is None:
        return ""
    how = "one jump straight after the other" if e.plyometric.kind == "continuous" else "reset between repetitions"
    return f"{how}; about {e.plyometric.contact_s:.2f} s on the ground"


@router.get("/library/{exercise_id}", response={200: ExerciseOut, **ERRORS})
def read_exercise(request: HttpRequest, exercise_id: str, athlete_id: int | None = None) -> ExerciseOut:
    """One exercise, and what stands in for it, for an athlete where one is named."""
    e = exercise(exercise_id)
    limits, faults = Limits(), frozenset[str]()
    if athlete_id is not None:
        rows = Athlete.objects.select_related("squad", "kit").prefetch_related("restrictions", "faults")
        athlete = get_object_or_404(rows, pk=athlete_id)
        limits, faults = limits_of(athlete, clock.today()), frozenset(f.fault for f in faults_on(athlete, clock.today()))
    return ExerciseOut(
        row=_row(e),
        cue=e.cue,
        family=[x.name for x in exercises().values() if x.family == e.family and x.id != e.id][:12],
        variation_of=exercise(e.variation_of).name if e.variation_of else "",
        chain=_chain(e),
        velocity=e.velocity,
        tail_days=e.tail_days,
        seconds_per_rep=e.seconds_per_rep,
        tempo=e.tempo,
        plyometric=_plyometric(e),
        running=e.running.replace("_", " "),
        teaching=TEACHING[e.teaching],
        cautions=[CAUTION_WORDS[c] for c in e.cautions if c in CAUTION_WORDS],
        max_from=f"{e.max_from[1]:g} × the max of {exercise(e.max_from[0]).name.lower()}, where it has no results"
        if e.max_from
        else "",
        substitutes=[
            SubstituteOut(
                exercise_id=s.exercise_id, exercise=exercise(s.exercise_id).name, closeness=s.closeness, reason=s.reason
            )
            for s in substitutes(e.id, limits, (), faults)[:8]
        ],
        why_not=limits.why_not(e) if athlete_id is not None else "",
        is_shipped=own_library.is_shipped(e.id),
        conditions=conditions_out(e),
    )


@router.post("/library", response={200: ExerciseRow, **ERRORS})
def add_exercise(request: HttpRequest, payload: OwnIn) -> ExerciseRow:
    return _saved(save_exercise.run(who_of(request), "", payload.dict()))


@router.put("/library/{exercise_id}", response={200: ExerciseRow, **ERRORS})
def edit_exercise(request: HttpRequest, exercise_id: str, payload: OwnIn) -> ExerciseRow:
    exercise(exercise_id)
    return _saved(save_exercise.run(who_of(request), exercise_id, payload.dict()))


def _saved(exercise_id: str) -> ExerciseRow:
    return _row(next(e for e in own_library.own_exercises() if e.id == exercise_id))


@router.delete("/library/{exercise_id}", response={200: LibraryOut, **ERRORS})
def take_back(request: HttpRequest, exercise_id: str) -> LibraryOut:
    """Take the coach's own exercise, or edit, back."""
    restore_exercise.run(who_of(request), exercise_id)
    with with_own(own_library.own_exercises()):
        return read_library(request)
