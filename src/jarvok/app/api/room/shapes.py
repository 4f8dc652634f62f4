"""What the API says of the room."""

from __future__ import annotations

from datetime import date
from typing import Literal

from jarvok.app.api.floor.shapes import FloorOut
from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut


class SportIn(Schema):
    kind: str
    minutes: float
    srpe: float
    hours_ago: float


class AnswersIn(Schema):
    sleep: int | None = None
    soreness: int | None = None
    stress: int | None = None
    energy: int | None = None
    pain: list[str] = []
    sport: list[SportIn] = []
    jumps_cm: list[float] = []
    loaded: list[str] = []


class SuggestionOut(Schema):
    plan: str
    points: int | None
    reasons: list[str]
    referral: str
    removed: list[str]
    working: WorkingOut


class WordOut(Schema):
    plan: str
    less: str
    reason: str


class RoomSessionOut(Schema):
    id: int | None
    key: str
    theme: str
    state: Literal["planned", "running", "finished"]


class AskedPainOut(Schema):
    """A pain of an earlier session that is asked about again: the place, and what was told."""

    area: str
    words: str


class RoomPersonOut(Schema):
    athlete_id: int
    name: str
    group: str
    guest_of: str
    is_here: bool
    rack: int | None
    said: AnswersIn | None
    by_athlete: bool
    open_pain: list[AskedPainOut]
    suggestion: SuggestionOut
    word: WordOut | None
    session: RoomSessionOut | None


class ChoiceOfRoomOut(Schema):
    key: str
    name: str
    words: list[str] = []


class PlaceOut(Schema):
    """A place of the room by its number: what it is for, and what it is called."""

    rack: int
    use: str
    title: str


class UseIn(Schema):
    rack: int
    use: str


class BoardRowOut(Schema):
    place: int
    athlete_id: int
    name: str
    best: str


class OnBoardOut(Schema):
    athlete_id: int
    name: str
    is_shown: bool


class BoardOut(Schema):
    """The board of a day: what may be chosen, what is, the rows, and who of those here is shown."""

    id: int
    squad: str
    day: date
    choices: list[ChoiceOfRoomOut]
    chosen: str
    title: str
    unit: str
    rows: list[BoardRowOut]
    people: list[OnBoardOut]
    heard: str


class CompeteIn(Schema):
    key: str


class ShownIn(Schema):
    athlete_id: int
    is_shown: bool


class RoomOut(Schema):
    id: int
    squad_id: int
    squad: str
    day: date
    racks: int
    most_racks: int
    places: list[PlaceOut]
    uses: list[ChoiceOfRoomOut]
    goal: str
    goals: list[ChoiceOfRoomOut]
    areas: list[ChoiceOfRoomOut]
    questions: list[ChoiceOfRoomOut]
    plans: list[ChoiceOfRoomOut]
    less: list[ChoiceOfRoomOut]
    people: list[RoomPersonOut]


class RoomEntryOut(Schema):
    squad_id: int
    squad: str
    athletes: int
    here: int
    room_id: int | None


class OpenRoom(Schema):
    squad_id: int
    day: date | None = None


class HereIn(Schema):
    athlete_ids: list[int]
    is_here: bool


class RoomWordIn(Schema):
    athlete_id: int
    plan: str
    less: str = "fewer"
    reason: str = ""


class BeginIn(Schema):
    athlete_ids: list[int] | None = None


class BegunOut(Schema):
    began: list[str]
    left: list[str]
    room: RoomOut


class RacksIn(Schema):
    racks: int
    goal: str
    place: bool = False


class PutIn(Schema):
    athlete_id: int
    rack: int | None


class CallIn(Schema):
    athlete_id: int


class JoinerOut(Schema):
    """Somebody who may join a rack: where they are now, and what they have to do today (nothing: no plan)."""

    athlete_id: int
    name: str
    rack: int | None
    is_running: bool
    theme: str


class PartnerOut(Schema):
    athlete_id: int
    name: str
    theme: str


class TemplateChoiceOut(Schema):
    id: int
    name: str


class GuestOut(Schema):
    """Somebody of another squad who may join."""

    athlete_id: int
    name: str
    squad: str


class JoiningOut(Schema):
    people: list[JoinerOut]
    guests: list[GuestOut]
    partners: list[PartnerOut]
    templates: list[TemplateChoiceOut]


class JoinIn(Schema):
    athlete_id: int
    source: str = "plan"
    from_id: int | None = None


class OrderIn(Schema):
    athlete_ids: list[int]


class LinkOut(Schema):
    path: str
    hours: int


class TurnOut(Schema):
    athlete_id: int
    name: str
    session_id: int
    exercise: str
    what: str
    load_kg: float | None
    load_words: str
    unit: str
    per_side_kg: list[float]
    change: str
    help: str
    pins: str
    sets_left: int
    last_done_at: str | None
    is_up: bool
    is_over: bool
    is_finished: bool
    minutes_gone: int
    results: str
    compete: str
    heart: str


class ClockPartOut(Schema):
    call: str
    seconds: float
    is_work: bool
    round: int


class ClockOut(Schema):
    id: int
    rack: int | None
    kind: str
    name: str
    words: str
    parts: list[ClockPartOut]
    rounds: int
    beat_s: float
    beats: int
    seconds: float
    started_ms: float
    paused_ms: float | None
    paused_s: float
    now_ms: float


class LaneSensorOut(Schema):
    id: int
    name: str
    sort: str


class LaneDoneOut(Schema):
    """The set that was done last at a rack, by whom, and what was measured of it."""

    session_id: int
    name: str
    what: str
    measured: list[str]
    best: str


class LaneOut(Schema):
    rack: int
    use: str
    title: str
    just_done: LaneDoneOut | None
    sets_left: int
    minutes_left: int
    word: str
    is_right: bool
    rest_s: float
    turns: list[TurnOut]
    up: FloorOut | None
    clock: ClockOut | None
    sensors: list[LaneSensorOut]


class LanesOut(Schema):
    id: int
    squad: str
    day: date
    racks: int
    goal: str
    here: int
    room_clock: ClockOut | None
    lanes: list[LaneOut]
    heard: str
    now_ms: float
    compete: str


class AheadTurnOut(Schema):
    """A turn to come at a rack, if all before it is done as told, and the set it is for."""

    turn: TurnOut
    line_id: int
    kind: str
    number: int


class AheadLaneOut(Schema):
    rack: int
    turns: list[AheadTurnOut]


class AheadOut(Schema):
    """The rotation of each rack to its end, with the sessions of everybody in it: a page without a network goes along it."""

    lanes: list[AheadLaneOut]
    floors: list[FloorOut]
    heard: str


class FigureOut(Schema):
    name: str
    unit: str
    default: float
    least: float
    most: float


class ClockFormOut(Schema):
    kind: str
    name: str
    words: str
    figures: list[FigureOut]


class ClockIn(Schema):
    kind: str
    figures: dict[str, float] = {}
    rack: int | None = None


class RackClockIn(Schema):
    kind: str
    figures: dict[str, float] = {}


class ReadyOut(Schema):
    name: str
    squad: str
    day: date
    questions: list[ChoiceOfRoomOut]
    areas: list[ChoiceOfRoomOut]
    said: AnswersIn | None
    open_pain: list[AskedPainOut]


class SensorIn(Schema):
    name: str
    sort: str
    rack: int | None = None
    rate_hz: float = 100
    gates: str = ""


class GatesIn(Schema):
    """Where timing gates stand, in metres from the start, as in `5 10 20 30`."""

    gates: str


class SilentOut(Schema):
    """A sensor that was sending and sends nothing now, for how long in words."""

    sensor_id: int
    words: str


class SensorOut(Schema):
    id: int
    name: str
    sort: str
    sort_name: str
    rack: int | None
    path: str
    readings: int
    gates: str | None  # where timing gates stand, in m; None of other sensors


class PairIn(Schema):
    rack: int | None


class TryIn(Schema):
    fault: str = ""


class DataIn(Schema):
    text: str
    device: str = ""
    mapping: dict[str, str] = {}
    units: dict[str, str] = {}
    line_id: int | None = None
    set_number: int | None = None
