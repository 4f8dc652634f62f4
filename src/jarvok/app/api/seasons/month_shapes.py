"""A month of a calendar as it is sent, and what is sent back."""

from __future__ import annotations

from datetime import date
from typing import Literal

from jarvok.app.api.seasons.shapes import ChoiceWords
from jarvok.app.schema import Schema


class CalendarItemOut(Schema):
    """One thing on one or more days. `whom` is empty where it is for all of the page."""

    key: str
    id: int
    kind: str
    tone: str
    title: str
    name: str = ""
    words: str
    start: date
    end: date
    hour: float | None = None
    whom: str = ""
    link: str = ""
    can_change: bool = False
    can_lengthen: bool = False


class CalendarDayOut(Schema):
    day: date
    is_today: bool
    is_past: bool
    days_to_go: int | None
    items: list[CalendarItemOut]


class CalendarWeekOut(Schema):
    """`dose_share` and `sets_share` are shares of the season's fullest week."""

    monday: date
    days_to_go: int | None
    word: str
    dose_share: float
    sets_share: float
    main_sets: int | None
    days: list[CalendarDayOut]


class CalendarStepOut(Schema):
    words: str
    by: str
    people: int
    is_for_all_only: bool


class MonthOut(Schema):
    whose: str
    id: int
    name: str
    squad_id: int
    squad: str
    month: date
    previous: date
    following: date
    today: date
    sentence: str
    weeks: list[CalendarWeekOut]
    scopes: list[ChoiceWords]
    accepted: str
    sessions_of: str
    undo: CalendarStepOut | None
    redo: CalendarStepOut | None


class DayNoteOut(Schema):
    is_read: bool
    words: str


class DayNoteIn(Schema):
    text: str
    day: date
    scope: str
    month: str = ""


class MoveItem(Schema):
    """A thing taken at one of its days and let go on another; at its edge only its last day goes there."""

    kind: Literal["entry", "competition", "of_nobody"]
    id: int
    taken: date
    to: date
    edge: bool = False
    month: str = ""


class TakeOutItem(Schema):
    kind: Literal["entry", "competition", "of_nobody"]
    id: int
    month: str = ""


class RenameItem(Schema):
    kind: Literal["entry", "competition", "of_nobody"]
    id: int
    name: str
    month: str = ""


class StepScope(Schema):
    scope: str = "all"
    month: str = ""


class SquadMonthOut(Schema):
    id: int
    name: str
    items: list[CalendarItemOut]


class AllSquadsOut(Schema):
    month: date
    previous: date
    following: date
    today: date
    days: list[date]
    squads: list[SquadMonthOut]
