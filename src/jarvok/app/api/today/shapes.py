"""Shapes of the first page: who trains, what waits, what lies ahead."""

from __future__ import annotations

from datetime import date
from typing import Literal

from jarvok.app.api.athletes.rises import RiseOut
from jarvok.app.schema import Schema

Progress = Literal["planned", "started", "finished"]
State = Literal["planned", "here", "started", "finished"]


class TodaySession(Schema):
    """A session of one athlete, on a day from today on."""

    athlete_id: int
    athlete_name: str
    squad: str
    key: str
    day: date
    theme: str
    phase_name: str
    days_to_go: int | None
    competition: str
    state: Progress
    session_id: int | None
    day_reason: str
    is_planned: bool = True


class TodayPerson(Schema):
    """Somebody in a shared session: how far they are, and the plan the coach has said where it is not A."""

    athlete_id: int
    athlete_name: str
    key: str
    state: State
    plan: str
    session_id: int | None
    is_planned: bool


class SharedSession(Schema):
    """A session that several do together today. `room_id` is the room opened for their squad today, if one is."""

    squad_id: int
    name: str
    starts: str
    theme: str
    words: str
    people: list[TodayPerson]
    room_id: int | None


class LaterDay(Schema):
    """Who trains on a day later this week, in words."""

    day: date
    words: str


class DecisionOut(Schema):
    """Something that waits for the coach: of one athlete, or of several (then `path` leads to it)."""

    athlete_id: int
    athlete_name: str
    kind: str
    title: str
    text: str
    rise: RiseOut | None = None
    path: str
    path_words: str


class GoalPhase(Schema):
    """A phase of the season to a competition, as most of those who go have it."""

    key: str
    name: str
    start: date
    end: date


class GoalOut(Schema):
    """A competition ahead, who goes, and the way to it."""

    athlete_ids: list[int]
    names: list[str]
    competition: str
    day: date
    days_to_go: int
    phase_name: str
    squad: str
    phases: list[GoalPhase]


class ArrivalsOut(Schema):
    """The open rooms of today and how far everybody is, to be laid over the page while it stands open."""

    people: list[TodayPerson]
    rooms: dict[int, int]


class TodayOut(Schema):
    """`next_words` says when the next session begins, where one is near."""

    day: date
    shared: list[SharedSession]
    later: list[LaterDay]
    decisions: list[DecisionOut]
    goals: list[GoalOut]
    athletes: int
    training: int
    changed: int
    next_words: str
