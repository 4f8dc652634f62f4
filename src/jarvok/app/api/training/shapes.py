"""Shapes of weeks and sessions as the API sends them."""

from __future__ import annotations

from datetime import date

from jarvok.app.api.seasons.shapes import FlagOut
from jarvok.app.schema import Schema
from jarvok.app.shapes import ResolvedSetOut


class LineOut(Schema):
    id: str
    slot: str
    block: str
    exercise_id: str
    exercise: str
    cue: str
    cost: str
    text: str
    proposed_text: str
    edited: bool
    method_words: str
    can_compare: bool
    to_beat: str
    reason: str
    replaced: str
    is_main: bool
    kind: str
    cautions: list[str]
    tempo: str
    note: str
    learned: list[str]  # what was found of this lift
    conditions: dict[str, str]
    conditions_words: str
    has_conditions: bool
    can_miss: bool
    easier: str
    harder: str
    forms_words: str
    sets: list[ResolvedSetOut]
    minutes: float
    rest_s: int
    rest: str  # in words, by how its block runs


class MarginOut(Schema):
    id: str
    title: str
    text: str
    decision: bool
    slot: str = ""


class CellOut(Schema):
    """What stands in a row: its words; where it is one work set alone, its line, its number, how it is written and done."""

    words: str
    line: str
    number: int
    text: str
    form: str


class ColumnOut(Schema):
    """A line as a column of rounds: its slot, what it is, and the rest after it where it is always the same."""

    slot: str
    exercise: str
    then: str


class SheetRowOut(Schema):
    """A row of an unfolded block: a round, with what stands in each column, or a line, with its sets one after another."""

    name: str
    cells: list[CellOut]
    then: str
    warms_up: bool


class BlockOut(Schema):
    """A block of the sheet, how its lines are grouped, and its minutes; `rows` are its steps, where one session is looked at.

    `columns` are its lines where a row is a round, empty where a row is a line.
    """

    name: str
    title: str  # its name without the letter
    grouping: str
    words: str
    minutes: float
    note: str
    rest_inside_s: int | None
    rest_between_s: int | None
    timed_minutes: int | None
    bpm: int | None
    beats: int
    every_s: int | None
    rounds: int
    columns: list[ColumnOut]
    rows: list[SheetRowOut]


class SheetOut(Schema):
    athlete_id: int
    athlete_name: str
    day: date
    days_to_go: int
    key: str
    theme: str
    day_reason: str
    phase: str
    phase_name: str
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    load: str
    starts: str  # when it begins, such as 06:30, or nothing
    is_own: bool
    can_undo: str
    blocks: list[BlockOut]
    lines: list[LineOut]
    notes: list[MarginOut]
    flags: list[FlagOut]
    warm_up_apart_minutes: float  # 0 where a block holds it
    minutes: float
    minutes_there: int
    session_id: int | None
    state: str
    is_today: bool
    may_be_today: bool  # whether it may be put on today: it lies on another day of this week


class DayPracticeOut(Schema):
    hour: float
    minutes: int
    hardness: int


class DayOut(Schema):
    day: date
    days_to_go: int
    practices: list[DayPracticeOut]
    practice_weight: float
    session_weight: float
    band: str
    sheet: SheetOut | None
    second: SheetOut | None  # where the day holds two, in order of the hours
    is_today: bool
    is_past: bool
    is_competition: bool
    label: str
    is_match: bool
    away: str
    can_take: bool  # a session may be put there
    hard_sets: int
    volume_kg: float
    flags: list[FlagOut]


class SumsOut(Schema):
    """A week in sums: hard sets by pattern, lifts of weightlifting and their average intensity, contacts, metres."""

    hard_sets: int
    by_pattern: dict[str, int]
    lifts: int
    average_intensity_pct: float | None
    volume: int  # in `unit`
    unit: str
    contacts: int
    sprint_metres: int
    minutes: int


class MissedOptionOut(Schema):
    choice: str
    words: str
    day: date | None
    is_proposed: bool


class MissedOut(Schema):
    """A session of this week whose day has passed without it, and the ways on."""

    key: str
    day: date
    theme: str
    options: list[MissedOptionOut]


class WeekViewOut(Schema):
    athlete_id: int
    athlete_name: str
    group: str
    start: date
    previous: date | None
    following: date | None
    phase_name: str
    phase: str
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    days_to_go: int
    competition: str
    days: list[DayOut]
    sums: SumsOut
    sums_before: SumsOut | None
    arrangement: str
    arrangement_name: str
    arrangement_days: int
    only_this_week: bool
    flags: list[FlagOut]
    can_undo: str
    missed: list[MissedOut]
    by_order: bool
    order_words: str
    days_words: str


class WeekAnswer(Schema):
    athlete_id: int
    athlete_name: str
    week: WeekViewOut | None
    reason: str
