"""The sensors of the room as this process knows them: what each measures, where it stands, what it has sent."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

from jarvok.app.facts.room.models import Sensor
from jarvok.app.floor import streams
from jarvok.app.hub import hub
from jarvok.core.errors import CoachError
from jarvok.core.floor.racks import MOST_RACKS
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.readings import Gates, HeartRate, JumpMat, Results
from jarvok.core.velocity.detect import RepDetector

SILENT_S, AWAY_S = 10.0, 1800.0  # [J] a bar sensor sends all the time; one that is silent for half an hour was put away


class Sort(StrEnum):
    """What a sensor measures."""

    BAR = "bar"
    MAT = "mat"
    GATES = "gates"
    HEART = "heart"
    RESULTS = "results"


SORT_NAMES = {
    Sort.BAR: "bar velocity",
    Sort.MAT: "jump mat",
    Sort.GATES: "timing gates",
    Sort.HEART: "heart rate",
    Sort.RESULTS: "bar velocity, results only",
}


@dataclass(frozen=True)
class Up:
    """The set that is up at a rack."""

    session_id: int
    athlete_id: int
    line_id: int
    exercise_id: str
    kind: str
    number: int


@dataclass(frozen=True)
class Late:
    """The set that was done last, the repetitions it was done with, and until when what is missing of it may still come."""

    up: Up
    reps: int
    until: datetime


@dataclass
class ForTrial:
    """A trial that a sensor measures: whose, of which exercise, and the detector of a bar's stream."""

    trial_id: int
    athlete_id: int
    exercise_id: str
    detector: RepDetector | None
    last_n: int = -1
    looked_at: float = 0.0


@dataclass
class Paired:
    """One sensor as this process knows it: what is up, the bar stream under it, and what it has sent."""

    sensor_id: int
    sort: Sort
    rack: int | None
    rate_hz: float
    up: Up | None = None
    late: Late | None = None
    keys: frozenset[int] = frozenset()  # whose changes may put another set up here: the room and the sessions at the rack
    seen_version: int = -1
    seen_events: dict[int, int] = field(default_factory=dict)
    looked_at: float = 0.0
    asked_at: float = 0.0  # when it was last known that nothing has changed
    stream_token: str = ""
    base: int = 0  # where the bar stream of the set began in the sensor's own count
    mat: JumpMat = field(default_factory=JumpMat)
    gates: Gates = field(default_factory=Gates)
    heart: HeartRate = field(default_factory=HeartRate)
    heart_told: float = 0.0
    results: Results = field(default_factory=Results)
    trial: ForTrial | None = None  # what it measures in place of what is up at its rack
    heard_at: float = 0.0  # when it last sent anything
    lock: threading.Lock = field(default_factory=threading.Lock)


_paired: dict[str, Paired] = {}
_paired_lock = threading.Lock()


def checked_rack(rack: int | None) -> int | None:
    """A rack that can be; raises `CoachError` for another."""
    if rack is not None and not 1 <= rack <= MOST_RACKS:
        raise CoachError(f"There is no rack {rack}.", where="rack", accepted=f"1 to {MOST_RACKS}, or none.")
    return rack


def known(token: str) -> Paired | None:
    """A sensor as this process knows it already; None where it does not."""
    return _paired.get(token)


def forget(token: str) -> None:
    """Forget what this process knows of a sensor; its next message asks the database."""
    with _paired_lock:
        known = _paired.pop(token, None)
    if known is not None and known.stream_token:
        streams.close(known.stream_token, time.time() * 1000)


def hand_over(token: str) -> None:
    """Forget a sensor that another process reads now; its stream goes on there from what is stored."""
    with _paired_lock:
        known = _paired.pop(token, None)
    if known is not None and known.stream_token:
        streams.forget(known.stream_token)


hub.when_taken(hand_over)


def find(token: str) -> Paired | None:
    """Return a sensor's state in this process, made from what is stored when it has none; None for a stranger."""
    with _paired_lock:
        known = _paired.get(token)
        if known is not None:
            return known
        row = Sensor.objects.select_related("trial").filter(token=token, removed_at__isnull=True).first()
        if row is None:
            return None
        found = _paired.setdefault(token, Paired(row.pk, Sort(row.sort), row.rack, row.rate_hz, trial=_trial_of(row)))
    hub.taken(token)
    return found


def silent_for_s(token: str) -> int | None:
    """For how many seconds a bar sensor that was sending has sent nothing; None where it sends, never did, or was put away."""
    paired = _paired.get(token)
    if paired is None or paired.sort is not Sort.BAR or not paired.heard_at:
        return None
    gone = time.monotonic() - paired.heard_at
    return int(gone) if SILENT_S <= gone < AWAY_S else None


def _trial_of(row: Sensor) -> ForTrial | None:
    trial = row.trial
    if trial is None or trial.ended_at is not None:
        return None
    motion = exercise(trial.exercise_id).motion
    detector = RepDetector(motion, row.rate_hz) if motion is not None and row.sort == Sort.BAR else None
    return ForTrial(trial.pk, trial.athlete_id, trial.exercise_id, detector)
