"""Sensors of the room: paired with a rack, their data go to whoever is up there.

A paired sensor needs to know nothing of sessions. What is up is looked for again only after something has changed.
"""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from django.db import transaction

from jarvok.app import clock
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Gathering, Reading, Sensor
from jarvok.app.floor import streams
from jarvok.app.floor.events import tell
from jarvok.app.floor.hub import hub
from jarvok.app.problems import Conflict
from jarvok.app.room.lanes import lanes_of
from jarvok.app.room.telling import room_key
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.racks import MOST_RACKS
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.readings import GATES, HEART, MAT, RESULTS, Gates, HeartRate, JumpMat, MatJump, Results, read_messages
from jarvok.core.sensors.stream import Batch
from jarvok.core.velocity.detect import Rep as FoundRep
from jarvok.core.velocity.detect import RepDetector

HEART_EVERY_S = 5.0
LOOK_AGAIN_S = 10.0


class Sort(StrEnum):
    """What a sensor measures."""

    BAR = "bar"
    MAT = "mat"
    GATES = "gates"
    HEART = "heart"
    RESULTS = "results"


SORT_NAMES = {
    Sort.BAR: "bar position",
    Sort.MAT: "jump mat",
    Sort.GATES: "timing gates",
    Sort.HEART: "heart rate",
    Sort.RESULTS: "bar velocity, results only",
}
FORMATS = {Sort.MAT: MAT, Sort.GATES: GATES, Sort.HEART: HEART, Sort.RESULTS: RESULTS}


@dataclass(frozen=True)
class Up:
    """The set that is up at a rack."""

    session_id: int
    athlete_id: int
    line_id: int
    exercise_id: str
    kind: str
    number: int


@dataclass
class ForTrial:
    """A trial that a sensor measures: whose, of which exercise, and the detector of a bar's stream."""

    trial_id: int
    athlete_id: int
    exercise_id: str
    detector: RepDetector | None
    last_n: int = -1


@dataclass
class Paired:
    """One sensor as this process knows it: what is up, the bar stream under it, and what it has sent."""

    sensor_id: int
    sort: Sort
    rack: int | None
    rate_hz: float
    up: Up | None = None
    keys: frozenset[int] = frozenset()  # whose changes may put another set up here: the room and the sessions at the rack
    seen_version: int = -1
    looked_at: float = 0.0
    stream_token: str = ""
    base: int = 0  # where the bar stream of the set began in the sensor's own count
    mat: JumpMat = field(default_factory=JumpMat)
    gates: Gates = field(default_factory=Gates)
    heart: HeartRate = field(default_factory=HeartRate)
    heart_told: float = 0.0
    results: Results = field(default_factory=Results)
    trial: ForTrial | None = None  # what it measures in place of what is up at its rack
    lock: threading.Lock = field(default_factory=threading.Lock)


_paired: dict[str, Paired] = {}
_paired_lock = threading.Lock()


def checked_rack(rack: int | None) -> int | None:
    """A rack that can be; raises `CoachError` for another."""
    if rack is not None and not 1 <= rack <= MOST_RACKS:
        raise CoachError(f"There is no rack {rack}.", where="rack", accepted=f"1 to {MOST_RACKS}, or none.")
    return rack


def forget(token: str) -> None:
    """Forget what this process knows of a sensor; its next message asks the database."""
    with _paired_lock:
        known = _paired.pop(token, None)
    if known is not None and known.stream_token:
        streams.close(known.stream_token, time.time() * 1000)


def find(token: str) -> Paired | None:
    """Return a sensor's state in this process, made from what is stored when it has none; None for a stranger."""
    with _paired_lock:
        known = _paired.get(token)
        if known is not None:
            return known
        row = Sensor.objects.select_related("trial").filter(token=token, removed_at__isnull=True).first()
        if row is None:
            return None
        return _paired.setdefault(token, Paired(row.pk, Sort(row.sort), row.rack, row.rate_hz, trial=_trial_of(row)))


def _trial_of(row: Sensor) -> ForTrial | None:
    trial = row.trial
    if trial is None or trial.ended_at is not None:
        return None
    motion = exercise(trial.exercise_id).motion
    detector = RepDetector(motion, row.rate_hz) if motion is not None and row.sort == Sort.BAR else None
    return ForTrial(trial.pk, trial.athlete_id, trial.exercise_id, detector)


def take_trial_samples(paired: Paired, batch: Batch) -> dict[str, Any]:
    """Push bar samples to the trial that the sensor measures; each repetition is a reading of it."""
    trial = paired.trial
    assert trial is not None
    last = batch.samples[-1][0]
    with paired.lock:
        fresh = [(t, x) for n, t, x in batch.samples if n > trial.last_n]
        trial.last_n = max(trial.last_n, last)
        found = trial.detector.push(fresh) if trial.detector is not None and fresh else []
    for rep in found:
        m = rep.metrics
        values = {"mean_mps": round(m.mean_mps, 3), "peak_mps": round(m.peak_mps, 3), "range_m": round(m.range_m, 3)}
        _keep_for_trial(paired, trial, values)
    return {"accepted": True, "resume_from": last + 1, "durable_seq": last, "reps": len(found), "problems": list(batch.problems)}


def _keep_for_trial(paired: Paired, trial: ForTrial, values: dict[str, Any]) -> None:
    Reading.objects.create(
        sensor_id=paired.sensor_id, athlete_id=trial.athlete_id, trial_id=trial.trial_id, values=values, at=clock.now()
    )


def up_at(rack: int) -> tuple[Up | None, frozenset[int]]:
    """The set that is up at a rack today, in the gathering opened last, and the keys whose changes may put up another."""
    for gathering in Gathering.objects.filter(day=clock.today(), attendances__rack=rack).distinct().order_by("-opened_at"):
        lane = lanes_of(gathering, rack)[0]
        keys = frozenset({room_key(gathering.pk), *(p.session.pk for p in lane.people)})
        if lane.up is not None and lane.up.coming is not None:
            line, item = lane.up.coming
            up = Up(lane.up.session.pk, lane.up.athlete.pk, line.line.pk, line.line.exercise_id, item.kind, item.number)
            return up, keys
    return None, frozenset()


def _is_fresh(paired: Paired) -> bool:
    return paired.seen_version == hub.version_of(paired.keys) and time.monotonic() - paired.looked_at < LOOK_AGAIN_S


def _look(paired: Paired) -> bool:
    """Look for what is up where something changed; returns whether it is another set than before."""
    if _is_fresh(paired):
        return False
    before = hub.version  # what changes while looking is looked at again
    up, paired.keys = up_at(paired.rack) if paired.rack is not None else (None, frozenset())
    paired.seen_version = hub.version_of(paired.keys) if hub.version == before else -1
    paired.looked_at = time.monotonic()
    if up == paired.up:
        return False
    paired.up = up
    return True


@dataclass(frozen=True)
class Answer:
    """What became of a batch: as for a bar stream, with the reason when nobody is up."""

    accepted: bool
    resume_from: int
    durable_seq: int
    reps: int
    problems: tuple[str, ...]
    word: str = ""


def is_settled(paired: Paired) -> bool:
    """Whether nothing has changed since what is up was looked for, and its stream is open: no database is needed."""
    return _is_fresh(paired) and bool(paired.stream_token) and paired.stream_token in streams._live


def settle(paired: Paired, first_n: int, received_ms: float) -> str:
    """Look for what is up and open its stream from the sensor's sample `first_n`; returns why there is none, or nothing."""
    with paired.lock:
        if _look(paired):
            _leave(paired, received_ms)
        if paired.stream_token and streams.find(paired.stream_token) is None:
            paired.stream_token = ""
        if not paired.stream_token and not _open(paired, first_n):
            return "nobody is up at this rack"
        streams.find(paired.stream_token)
        return ""


def push_bar(paired: Paired, batch: Batch) -> tuple[Answer, list[FoundRep]]:
    """Push bar samples to the stream of the set that is up; no database is touched. The repetitions are yet to be kept."""
    with paired.lock:
        live, base = streams._live.get(paired.stream_token), paired.base
        last = batch.samples[-1][0]
        if live is None:
            return Answer(True, last + 1, last, 0, batch.problems, "the set is over"), []
        moved = Batch(tuple((n - base, t, x) for n, t, x in batch.samples if n >= base), batch.problems)
        if not moved.samples:
            return Answer(True, live.last_seq + 1 + base, base - 1, 0, batch.problems), []
        found, refusal = streams.detect(live, moved, from_here=False)
        resume = refusal.resume_from if refusal else live.last_seq + 1
        taken = refusal is None or refusal.accepted
        return Answer(taken, resume + base, live.durable_seq + base, len(found), batch.problems), found


def keep_bar(paired: Paired, found: list[FoundRep], received_ms: float) -> int | None:
    """Store repetitions and faults of the set that is up; returns the sensor's sample up to which nothing need be kept."""
    live = streams.find(paired.stream_token)
    if live is None:
        return None
    if found:
        streams.store(live, found, received_ms)
    if len(live.detector.faults) > live.faults_told:
        streams.tell_faults(live)
    return live.durable_seq + paired.base


def has_faults(paired: Paired) -> bool:
    """Whether the stream under a sensor has left something out that nobody was told of."""
    live = streams._live.get(paired.stream_token)
    return live is not None and len(live.detector.faults) > live.faults_told


def _open(paired: Paired, first_n: int) -> bool:
    up = paired.up
    if up is None or exercise(up.exercise_id).motion is None:
        return False
    session = TrainingSession.objects.filter(pk=up.session_id).first()
    if session is None:
        return False
    try:
        stream = streams.open_stream(session, up.line_id, up.kind, up.number, paired.rate_hz, False)
    except (CoachError, Conflict):
        return False
    paired.stream_token, paired.base = stream.token, first_n
    return True


def _leave(paired: Paired, received_ms: float) -> None:
    if paired.stream_token:
        streams.close(paired.stream_token, received_ms)
        paired.stream_token = ""


def take_messages(paired: Paired, body: str) -> dict[str, Any]:
    """Take messages of a mat, gates, a heart-rate sensor or a device with results only; what they say is stored and told."""
    read = read_messages(FORMATS[paired.sort], body)
    with paired.lock:
        if paired.trial is None:
            _look(paired)
        if paired.sort is Sort.MAT:
            jumps = paired.mat.push(read.rows)
            values = [_jump(j) for j in jumps]
            refused, kind = paired.mat.refused, "jump"
        elif paired.sort is Sort.GATES:
            values = [{"gate": g, "seconds": s} for g, s in paired.gates.push(read.rows)]
            refused, kind = paired.gates.refused, "split"
        elif paired.sort is Sort.RESULTS:
            values = [{"mps": mps, "peak": is_peak} for mps, is_peak in paired.results.push(read.rows)]
            refused, kind = paired.results.refused, "velocity"
        else:
            values = _heart(paired, read.rows)
            refused, kind = paired.heart.refused, "heart"
        if values and paired.trial is not None:
            for value in values:
                _keep_for_trial(paired, paired.trial, value)
        elif values:
            _keep(paired, kind, values)
    return {"accepted": len(read.rows), "refused": refused, "found": len(values), "problems": list(read.problems)}


def _jump(jump: MatJump) -> dict[str, Any]:
    rsi = round(jump.rsi, 2) if jump.rsi else None
    return {"height_cm": jump.height_cm, "flight_s": jump.flight_s, "contact_s": jump.contact_s, "rsi": rsi}


def _heart(paired: Paired, rows: tuple[tuple[int, float, Any], ...]) -> list[dict[str, Any]]:
    fresh = paired.heart.push(rows)
    if not fresh or fresh[-1][0] - paired.heart_told < HEART_EVERY_S:
        return []
    paired.heart_told = fresh[-1][0]
    return [{"bpm": fresh[-1][1]}]


@transaction.atomic
def _keep(paired: Paired, kind: str, values: list[dict[str, Any]]) -> None:
    up, now = paired.up, clock.now()
    session = TrainingSession.objects.filter(pk=up.session_id).first() if up else None
    fits = up is not None and _fits(kind, exercise(up.exercise_id))
    for value in values:
        Reading.objects.create(
            sensor_id=paired.sensor_id,
            athlete_id=up.athlete_id if up else None,
            line_id=up.line_id if up and fits else None,
            set_number=up.number if up and fits else 0,
            values={**value, "kind": up.kind} if up is not None and kind == "velocity" else value,
            at=now,
        )
        if session is not None and up is not None:
            tell(session, kind, {"line_id": up.line_id, "kind": up.kind, "set_number": up.number, **value})


def _fits(kind: str, lift: Exercise) -> bool:
    """Whether a reading can be of an exercise: a jump of jumps, a split of runs, a velocity of a bar, a heart rate always."""
    if kind == "velocity":
        return lift.motion is not None
    return kind == "heart" or lift.kind == ("jump" if kind == "jump" else "run")
