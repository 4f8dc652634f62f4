"""Shapes of a season as the API sends and takes them."""

from __future__ import annotations

from datetime import date
from typing import Literal

from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut


class PhaseOut(Schema):
    id: str
    key: str
    name: str
    toward: str
    competition_id: int | None
    start: date
    end: date
    weeks: int
    least_weeks: int
    most_weeks: int
    pinned: bool
    can_set_length: bool
    can_move_end: bool


class WeekOut(Schema):
    index: int
    start: date
    phase: str
    phase_name: str
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    set_by_hand: bool
    is_by_hand: bool
    can_set: bool
    dose_sets: float
    main_sets: int
    is_own: bool
    volume: float
    intensity_pct: float
    days_to_go: int
    matches: int
    note: str
    done_share: float | None
    can_ease: bool


class NoteOut(Schema):
    id: str
    title: str
    text: str
    source: str
    decision: bool
    week: int | None


class FixOut(Schema):
    words: str
    kind: str
    values: dict[str, str | float | bool | None]


class FlagOut(Schema):
    check_id: str
    severity: str
    title: str
    reason: str
    source: str
    where: str
    slot: str  # where the line it is about stands now, if it is about one
    week: int | None
    fix: FixOut | None
    kept_id: int | None
    kept_reason: str


class DaysOut(Schema):
    start: date
    end: date


class ResidualOut(Schema):
    quality: str
    from_day: date
    spans: list[DaysOut]
    last_exposure: date
    expires: date
    earliest: date
    latest: date
    covers_competition: bool
    text: str


class EventOut(Schema):
    """An event: its load as `load` in `unit`, in which its divisions are too, or in kg as `load_kg`."""

    kind: str
    name: str = ""
    contest_day: int = 0
    load_kg: float | None = None
    load: float | None = None
    unit: Literal["kg", "lb"] = "kg"
    exercise_id: str = ""
    reps: int | None = None
    distance_m: int | None = None
    time_s: int | None = None
    standing: str = ""
    divisions: str = ""


class SeasonBlockOut(Schema):
    weeks: int
    way: str
    way_name: str
    has_test_week: bool


class SeasonCompetitionOut(Schema):
    id: int
    name: str
    day: date
    last_day: date | None
    rank: str
    rank_name: str
    days_to_go: int
    weigh_in: date | None
    events: list[EventOut]
    division: str
    block: SeasonBlockOut | None


class SpanOut(Schema):
    kind: str
    name: str
    start: date
    end: date


class ExposureMarkOut(Schema):
    """The last hard exposure of an event, as a mark on the season."""

    event: str
    what: str
    day: date
    days_out: int


class TaperOut(Schema):
    days: int
    shape: str
    depth_pct: float
    frequency_pct: float


class StyleOut(Schema):
    arrangement: str
    arrangement_name: str
    loading_weeks: int | None
    usual_loading_weeks: int | None
    usual_taper: TaperOut
    usual_taper_because: str
    shapes: list[str]
    taper: TaperOut | None


class DriftOut(Schema):
    """What has moved since the original plan, in words; empty when nothing has."""

    since: str
    words: list[str]


class WeekModelOut(Schema):
    name: str
    days: int
    is_own: bool
    proposed: str
    proposed_name: str
    proposed_days: int
    is_proposed: bool


class SeasonOut(Schema):
    athlete_id: int
    athlete_name: str
    name: str
    built: str
    day: date
    days_to_go: int
    today: date
    start: date
    style: StyleOut
    week_model: WeekModelOut
    competitions: list[SeasonCompetitionOut]
    matches: list[date]
    spans: list[SpanOut]
    phases: list[PhaseOut]
    weeks: list[WeekOut]
    notes: list[NoteOut]
    flags: list[FlagOut]
    residuals: list[ResidualOut]
    exposures: list[ExposureMarkOut]
    drift: DriftOut
    working: WorkingOut
    practice_weights: list[float]


class ChoiceWords(Schema):
    id: str
    name: str


class SeasonStepOut(Schema):
    words: str
    by: str
    people: int  # how many athletes it was made for


class ScopeIn(Schema):
    scope: str = "athlete"


class SeasonAnswer(Schema):
    athlete_id: int
    athlete_name: str
    squad_id: int
    squad_name: str
    group: str
    season: SeasonOut | None
    arrangements: list[ChoiceWords]
    undo: SeasonStepOut | None
    redo: SeasonStepOut | None
    ranks: list[ChoiceWords]
    block_ways: list[ChoiceWords]
    usual_block_weeks: int


class NewCompetition(Schema):
    name: str
    day: date
    rank: str = "main"
    last_day: date | None = None
    weigh_in: date | None = None
    events: list[EventOut] = []
    scope: str = "athlete"


class ChangeCompetition(Schema):
    name: str | None = None
    day: date | None = None
    rank: str | None = None
    last_day: date | None = None
    weigh_in: date | None = None
    events: list[EventOut] | None = None
    division: str | None = None
    scope: str = "athlete"


class SeasonPreviewOut(Schema):
    """What a change would do, before anything is stored."""

    phases: list[str]
    decisions: list[str]
    before: list[str]


class PhaseLengths(Schema):
    weeks: dict[str, int]


class StyleIn(Schema):
    arrangement: str
    loading_weeks: int | None = None
    taper: TaperOut | None = None
    scope: str = "athlete"


class SeasonFixIn(Schema):
    """What a flag proposes, as it came with the flag."""

    kind: str
    values: dict[str, str | float | bool | None]


class EasyIn(Schema):
    """A week made easier or full; with `to` the easier week moves there in one change."""

    monday: date
    easy: bool | None = None
    to: date | None = None


class BaselineIn(Schema):
    keep: bool


class FlagIn(Schema):
    check_id: str
    where: str = ""
    reason: str


class PhaseRuleOut(Schema):
    name: str
    least_weeks: int
    most_weeks: int
    builds: list[str]
    keeps: list[str]
    volume: float
    low_pct: float
    high_pct: float
    exercises: str
    accessories: str


class ArrangementOut(Schema):
    key: str
    name: str
    good_for: str
    for_whom: str
    weakness: str
    fatigue: str
    how: str
    source: str
    loading_weeks: int | None
    phases: list[PhaseRuleOut]


class BlockIn(Schema):
    name: str = ""
    starts: date | None = None
    weeks: int = 5
    way: str = "rising"
    has_test_week: bool = False
    scope: str = "athlete"


class HandWeekIn(Schema):
    monday: date
    volume_pct: float | None = None
    top_pct: float | None = None
