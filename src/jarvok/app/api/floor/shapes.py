"""What the API says of the floor."""

from __future__ import annotations

from datetime import date
from typing import Literal

from jarvok.app.api.floor.seen import GateSplitOut, JumpOut, SeenOut
from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut

Kind = Literal["ramp", "work"]


class RepOut(Schema):
    id: int
    line_id: int
    kind: str
    set_number: int
    number: int
    mean_mps: float
    propulsive_mps: float
    peak_mps: float
    counts_mps: float
    range_m: float
    time_to_peak_s: float
    zone: str
    loss_pct: float
    fastest_mps: float
    stop_mps: float


class TakenOutRep(Schema):
    id: int
    counts_mps: float


class SetFigureOut(Schema):
    name: str
    value: str


class SetSummaryOut(Schema):
    """A measured set in one look; `figures` are what stands in a row, each with its name and unit."""

    zone: str
    evenness: str
    definition: str
    caution: str
    figures: list[SetFigureOut]


class RepPlace(Schema):
    line_id: int
    kind: Kind
    number: int


class KeptResultOut(Schema):
    """A result that was kept: what it is asked for as, its unit and its value in it."""

    key: str
    name: str
    unit: str
    value: float


class DoneOut(Schema):
    id: int
    load_kg: float | None
    load_words: str
    reps: int
    rir: float | None
    trouble: str
    note: str
    left_reps: int | None
    right_reps: int | None
    results: list[KeptResultOut]
    result: str
    measured: str
    has_gap: bool
    jumps: list[JumpOut]
    form: str


class FloorSetOut(Schema):
    kind: Kind
    number: int
    load_kg: float | None
    load_words: str
    per_side_kg: list[float]
    unit: str
    per_side_words: list[str]
    reps: int | None
    or_more: bool
    seconds: int | None
    metres: int | None
    drops_kg: list[float]
    per_side: bool
    target_low_mps: float | None
    target_high_mps: float | None
    target_rir: float | None
    stop_loss_pct: float | None
    over: bool
    skipped: bool
    added: bool
    done: DoneOut | None
    measured: list[RepOut]
    taken_out: list[TakenOutRep]
    summary: SetSummaryOut | None
    jumps: list[JumpOut]
    jump_word: str
    jumps_off: bool
    splits: list[GateSplitOut]
    device_mps: list[float]
    seen: list[SeenOut]
    seen_out: list[SeenOut]
    run_word: str
    run_off: bool
    working: WorkingOut | None


class ExerciseChoiceOut(Schema):
    exercise_id: str
    name: str


class SwapOut(Schema):
    """An exercise that may be done in place of a line, and why it is near."""

    exercise_id: str
    name: str
    reason: str


class AddExercise(Schema):
    exercise_id: str
    text: str


class SetPlace(Schema):
    kind: Kind
    number: int


class StopReasonOut(Schema):
    """Why a lift may be ended before its last set."""

    key: str
    name: str


class PainAreaOut(Schema):
    """A place that may hurt, and the lines with something left that load it."""

    key: str
    name: str
    line_ids: list[int]
    may_carry_on: bool


class PainOut(Schema):
    """A pain told in this session: what is said of it, and whether it was carried on."""

    id: int
    line_id: int
    sentence: str
    carried_on: str


class AdviceOut(Schema):
    id: int
    after_number: int
    move: str
    load_kg: float | None
    load_words: str
    sentence: str
    working: WorkingOut
    outcome: str
    chosen_load_kg: float | None
    chosen_words: str
    unit: str


class LevelOut(Schema):
    """An easier or a harder form of a line."""

    key: Literal["easier", "harder"]
    words: str


class FloorLineOut(Schema):
    id: int
    slot: str
    block: str
    exercise_id: str
    exercise: str
    cue: str
    text: str
    note: str
    learned: list[str]  # what was found of this lift, and how the athlete counts
    forms: list[LevelOut]
    reason: str
    rest_s: int
    measured_by: str
    is_loaded: bool
    prepares: bool
    can_simulate: bool
    sets: list[FloorSetOut]
    advice: AdviceOut | None
    ended: bool
    ended_by: str
    instead: list[ExerciseChoiceOut]
    change: str
    left_out: bool
    sets_as_written: int


class CurrentOut(Schema):
    line_id: int
    kind: Kind
    number: int


class StepSetOut(Schema):
    """A set of a step, what it is called where one tap logs several, and its repetitions."""

    line_id: int
    kind: Kind
    number: int
    label: str
    reps: int


class StepPartOut(Schema):
    call: str
    seconds: float
    is_work: bool
    round: int


class StepClockOut(Schema):
    """A clock that a step brings along: its figures, and its parts in order."""

    kind: str
    name: str
    words: str
    figures: dict[str, float]
    parts: list[StepPartOut]
    rounds: int
    beat_s: float
    beats: int
    seconds: float


class MeasureAskOut(Schema):
    """A result that is kept beside repetitions; `last` says what it was. Of `is_list` there is one number a repetition."""

    key: str
    name: str
    unit: str
    is_whole: bool
    is_list: bool
    is_optional: bool
    last: str


class FloorStepOut(Schema):
    """One step: what one tap logs, and how it is said. Sets in the order in which they are done.

    `slots` and `title` name it, `place` its round, `amount` what is done where it is more than a plain set, `inside` small sets
    and drops, `then` what follows.
    """

    id: str
    block: str
    slots: str
    title: str
    place: str
    amount: str
    inside: str
    then: str
    sets: list[StepSetOut]
    is_one_bar: bool
    until_miss: bool
    clock: StepClockOut | None
    asks: list[MeasureAskOut]


class JustDoneOut(Schema):
    """The set that was done last: what, and what was measured of it in a few words each."""

    what: str
    measured: list[str]
    best: str


class LeftOut(Schema):
    """What a session still holds: work sets, minutes, and what may be left out for the hour to hold."""

    sets: int
    minutes: int
    may_cut: list[str]


class GoesOnOut(Schema):
    """A line that is written with a range of sets: its least are done, and it may go on."""

    line_id: int
    words: str


class FloorOut(Schema):
    id: int
    athlete_id: int
    athlete_name: str
    day: date
    key: str
    plan: str
    plan_reason: str
    theme: str
    phase_name: str
    days_to_go: int | None
    started_at: str
    finished: bool
    may_cancel: bool
    lines: list[FloorLineOut]
    steps: list[FloorStepOut]
    block_words: dict[str, str]
    current: CurrentOut | None
    sets_left: int
    left: LeftOut
    light_task: str
    asks_to_stop: bool
    goes_on: GoesOnOut | None
    just_done: JustDoneOut | None
    last_done_at: str | None
    rest_s: int
    minutes_there: int
    minutes_gone: int
    stop_reasons: list[StopReasonOut]
    pain_areas: list[PainAreaOut]
    pains: list[PainOut]
    last_event_id: int


class StartSession(Schema):
    athlete_id: int
    day: date
    key: str
    as_today: bool = False


class Cancel(Schema):
    """Why a session is taken back, for the history; without: begun by mistake."""

    reason: str = ""


class CancelledOut(Schema):
    """Whose sheet it was, so that the page can go back to it; a session outside the plan has none to go back to."""

    athlete_id: int
    day: date
    key: str
    is_planned: bool


class TypedJumpIn(Schema):
    height_cm: float
    contact_s: float | None = None


class LogSet(Schema):
    """A set as done; `load` is what was typed in the `unit` of the plates, `load_kg` the same where nobody typed."""

    line_id: int
    kind: Kind
    number: int
    load_kg: float | None = None
    load: float | None = None
    unit: str = "kg"
    reps: int
    rir: float | None = None
    trouble: str = ""
    note: str = ""
    left_reps: int | None = None
    right_reps: int | None = None
    confirm: bool = False
    parts: list[int] = []
    form: str = ""
    measures: dict[str, float] = {}
    jumps: list[TypedJumpIn] = []
    pain_area: str = ""
    carries_on: bool = False
    carry_on: str = ""


class StandIn(Schema):
    exercise_id: str


class StopLine(Schema):
    reason: str


class AnswerPain(Schema):
    answer: str


class CorrectSet(LogSet):
    seen_id: int


class AnswerAdvice(Schema):
    accept: bool
    load_kg: float | None = None
    load: float | None = None
    unit: str = "kg"


class Finish(Schema):
    srpe: float | None = None
    minutes: float | None = None


class OpenStream(Schema):
    line_id: int
    kind: Kind
    number: int
    rate_hz: float = 100


class StreamOut(Schema):
    token: str
    path: str
