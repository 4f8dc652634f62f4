"""What the learning pages are sent."""

from __future__ import annotations

from datetime import date

from jarvok.app.api.floor.reviewed import BestOut
from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut


class LearningChoiceOut(Schema):
    key: str
    name: str


class WorkOut(Schema):
    """Work in numbers. `average` is the average intensity of the main lifts in words."""

    main_sets: int
    by_pattern: list[int]  # in the order of the page's patterns
    lifts: list[int]  # in the order of the page's zones
    average: str
    volume: float  # in the page's unit of mass
    contacts: int
    sprint_m: float


class WeekDoneOut(Schema):
    """One week, planned and done; `due` is what was planned for the days gone by."""

    monday: date
    label: str
    phase: str
    planned: WorkOut
    due: WorkOut
    done: WorkOut
    planned_au: float
    done_au: float
    minutes: float
    sessions: int
    sessions_done: int
    words: str


class DayLoadOut(Schema):
    day: date
    au: float
    acute_au: float
    chronic_au: float


class MissedSessionOut(Schema):
    """A session that was missed or made easier."""

    athlete_id: int
    athlete: str
    day: date
    key: str
    theme: str
    reason: str
    reason_key: str
    plan: str  # of one that was made easier


class ApartOut(Schema):
    """An athlete whose last whole week lies far from their own usual."""

    athlete_id: int
    athlete: str
    words: str
    load_au: float


class CountOut(Schema):
    words: str
    count: int


class PastContestOut(Schema):
    """A competition that has been, and whether its result is written."""

    entry_id: int
    athlete_id: int
    athlete: str
    name: str
    day: date
    is_written: bool


class LearningOut(Schema):
    """Done beside planned over some weeks of an athlete or a squad."""

    whose: str
    id: int
    name: str
    group: str
    groups: list[str]  # of a squad
    last_day: date | None  # the newest on which anybody trained
    headline: str
    weeks_shown: int
    mass_unit: str  # pounds where everybody's room is a pounds room
    patterns: list[str]
    zones: list[str]
    weeks: list[WeekDoneOut]
    days: list[DayLoadOut]
    load_words: str
    load_working: WorkingOut | None
    seed: str
    caution: str
    estimated: int  # sessions whose load was worked out from their sets
    apart: list[ApartOut]
    apart_words: str
    missed: list[MissedSessionOut]
    easier: list[MissedSessionOut]
    reasons: list[CountOut]
    reason_choices: list[LearningChoiceOut]
    may_say: bool
    contests: list[PastContestOut]


class EvidenceOut(Schema):
    """What speaks for a finding, and the page where it stands: a session, a trial, a competition, or the athlete's results."""

    words: str
    ref: str
    session_id: int | None = None
    trial_id: int | None = None
    entry_id: int | None = None
    is_result: bool = False


class FindingOut(Schema):
    """A finding, or what was noticed and waits for a word (then `ref` names it and there is no id)."""

    id: int | None
    ref: str
    athlete_id: int | None
    whose: str
    kind: str
    kind_words: str
    exercise_id: str
    exercise: str
    sentence: str
    test: str
    changes: str
    evidence: list[EvidenceOut]
    state: str  # waits, acts, asks_again, ended
    state_words: str
    reason: str


class FindingsOut(Schema):
    """Everything learned of an athlete or a squad, what waits first."""

    whose: str
    id: int
    name: str
    summary: str
    findings: list[FindingOut]
    shared: list[str]
    kinds: list[LearningChoiceOut]
    may_confirm: bool
    may_note: bool


class NoteFinding(Schema):
    kind: str = "note"
    exercise_id: str = ""
    sentence: str
    test: str = ""
    session_id: int | None = None


class AnswerFinding(Schema):
    state: str
    reason: str = ""


class AnswerNoticed(Schema):
    ref: str
    keep: bool
    sentence: str = ""


class SayMissed(Schema):
    reason: str
    note: str = ""
    weeks: int = 4


class EventAfterOut(Schema):
    """An event, its result, and how that lies beside the forecast."""

    name: str
    exercise: str
    is_by_load: bool
    unit: str  # of its load
    forecast: str
    working: WorkingOut | None
    result: float | None
    words: str


class AfterOut(Schema):
    """A competition looked back on."""

    entry_id: int
    athlete_id: int
    athlete: str
    name: str
    day: date
    is_over: bool
    events: list[EventAfterOut]
    place: str
    keep: str
    change: str
    is_written: bool
    taper: str
    may_write: bool


class KeepResult(Schema):
    events: list[float | None] = []
    place: str = ""
    keep: str = ""
    change: str = ""
    confirm: bool = False


class BestsOut(Schema):
    """How many bests there were, and the newest of them."""

    count: int
    bests: list[BestOut]


class PhaseCellOut(Schema):
    """The best of a phase now and in the season before, in words; empty where there is none."""

    now: str
    before: str


class PhaseRowOut(Schema):
    exercise: str
    what: str
    cells: list[PhaseCellOut]


class PhaseBestsOut(Schema):
    """Bests of each phase that was trained, a row for each exercise and number."""

    phases: list[str]
    has_before: bool
    rows: list[PhaseRowOut]
