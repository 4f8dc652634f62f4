"""What the API says of athletes."""

from __future__ import annotations

from datetime import date
from typing import Literal

from jarvok.app.api.athletes.rises import RiseOut
from jarvok.app.schema import Schema
from jarvok.app.shapes import ConditionOut, WorkingOut
from jarvok.core.marks.mark import MarkKind


class LiftMaxOut(Schema):
    exercise_id: str
    exercise: str
    max_kg: float | None
    max: float | None  # in `unit`, that of what the lift is loaded with
    error: float | None
    unit: str
    working: WorkingOut | None


class CompetitionOut(Schema):
    name: str
    day: date
    days_to_go: int
    phase_name: str


class AthleteRow(Schema):
    id: int
    name: str
    group: str
    position: str
    body_mass_class: str
    mass_kg: float | None
    mass: float | None  # in the unit of whoever asks
    competition: CompetitionOut | None
    lifts: list[LiftMaxOut]
    last_session: date | None
    note: str


class NameOut(Schema):
    id: int
    name: str
    group: str


class SquadNamesOut(Schema):
    id: int
    name: str
    sport: str
    athletes: list[NameOut]


class SquadOut(Schema):
    id: int
    name: str
    sport: str
    athletes: list[AthleteRow]


class AthletesOut(Schema):
    """A page of the athletes, squad by squad: how many there are, how many were looked for, and where the next page begins."""

    count: int
    squad_count: int
    found: int
    next_start: int | None
    squads: list[SquadOut]


class UsualOut(Schema):
    """What the coach has said is usual in a lift."""

    exercise_id: str
    exercise: str
    words: str


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
    replaced: bool
    replaces: str
    load_kg: float
    load: str
    unit: str
    sets: int
    reps: int
    rir: float
    side: str
    measures: dict[str, float]
    conditions: dict[str, str]
    is_as_usual: bool
    working: WorkingOut | None


class TrendPoint(Schema):
    day: date
    load: float
    kind: str
    words: str


class LinePoint(Schema):
    day: date
    load: float
    error: float


class ProfilePoint(Schema):
    load: float
    velocity_mps: float
    day: date


class BandPoint(Schema):
    load: float
    low_mps: float
    high_mps: float


class ProfileOut(Schema):
    intercept_mps: float
    slope: float  # m/s for one more of the unit
    r_squared: float
    error_mps: float
    points: list[ProfilePoint]
    band: list[BandPoint]
    quality: list[str]
    definition: str
    waiting: str
    unit: str
    max_mps: float | None
    load_at_max: float | None


class LiftOut(Schema):
    exercise_id: str
    exercise: str
    max_kg: float
    error_kg: float
    max: float  # in `unit`, that of what the lift is loaded with, as all loads below
    error: float
    unit: str
    working: WorkingOut
    proposal: RiseOut | None
    trend: list[TrendPoint]
    line: list[LinePoint]
    profile: ProfileOut | None


class MassOut(Schema):
    day: date
    mass_kg: float
    words: str


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
    sport: str


class SessionRow(Schema):
    id: int
    day: date
    key: str
    theme: str
    finished: bool
    sets: int


class MeasureOut(Schema):
    id: str
    name: str
    unit: str


class ChoiceOut(Schema):
    id: str
    name: str
    kind: str = ""
    conditions: list[ConditionOut] = []


class KindOut(Schema):
    """A kind of mark: which exercises it fits, which figures it takes, and any one of which measures."""

    id: str
    name: str
    exercise_kinds: list[str]
    usual: str
    figures: list[str]
    measures: list[list[MeasureOut]]
    caution: str = ""


class AthleteNoteOut(Schema):
    """A remark about an athlete; `decision` where somebody has to decide."""

    id: str
    title: str
    text: str
    decision: bool


class AthleteOut(Schema):
    id: int
    name: str
    squad: str
    sport: str
    age: int | None
    training_age_years: float
    body_mass_class: str
    class_limit_kg: float | None
    margin: list[AthleteNoteOut]
    note: str
    masses: list[MassOut]
    restrictions: list[RestrictionOut]
    practices: list[PracticeOut]
    competition: CompetitionOut | None
    lifts: list[LiftOut]
    marks: list[MarkOut]
    usual: list[UsualOut]
    sessions: list[SessionRow]
    kind_choices: list[KindOut]


class NewMark(Schema):
    """A mark as typed: the load in `unit` as `load`, or in kg as `load_kg`."""

    exercise_id: str
    kind: MarkKind
    day: date
    load_kg: float = 0
    load: float | None = None
    unit: Literal["kg", "lb"] = "kg"
    sets: int = 1
    reps: int = 1
    rir: float = 0
    rpe: float | None = None
    side: str = ""
    measures: dict[str, float] = {}
    conditions: dict[str, str] = {}
    note: str = ""
    confirm: bool = False


class UsualIn(Schema):
    exercise_id: str
    conditions: dict[str, str] = {}


class Decide(Schema):
    exercise_id: str
    evidence: str
    answer: str
    ask_again_on: date | None = None


class NewAthlete(Schema):
    name: str
    squad: str
    sport: str = ""
    group: str | None = None
    birth_date: date | None = None
    training_age_years: float | None = None


class AddedOut(Schema):
    id: int
    squad_id: int
    given: list[str]
