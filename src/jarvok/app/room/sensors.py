"""Sensors of the room: paired with a rack, their data go to whoever is up there.

A paired sensor needs to know nothing of sessions. What is up is looked for again only after something has changed.
"""

from __future__ import annotations

import time
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db.models import F

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SensorStream, SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Via
from jarvok.app.facts.room.models import Gathering, Reading, Sensor, Trial
from jarvok.app.facts.writing import writing
from jarvok.app.floor import streams
from jarvok.app.floor.events import LIVE, newest_events, tell
from jarvok.app.floor.measured_again import measuring
from jarvok.app.floor.seen import seen_of, words_of_reading
from jarvok.app.hub import hub
from jarvok.app.problems import Conflict
from jarvok.app.room.lanes import up_in
from jarvok.app.room.paired import ForTrial, Late, Paired, Sort, Up
from jarvok.app.room.telling import room_key
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.gate_places import place_m
from jarvok.core.sensors.readings import (
    GATES,
    HEART,
    LATE_S,
    MAT,
    RESULTS,
    MatJump,
    is_of_the_set_before,
    read_messages,
)
from jarvok.core.sensors.stream import Batch
from jarvok.core.velocity.detect import Rep as FoundRep

HEART_EVERY_S = 5.0
LOOK_AGAIN_S, LOOK_WHOLE_S = 10.0, 60.0  # [T] whether something was told by another process; who stands at the rack
TRIAL_LOOK_S = 2.0  # [T]
FORMATS = {Sort.MAT: MAT, Sort.GATES: GATES, Sort.HEART: HEART, Sort.RESULTS: RESULTS}


def _let_go(paired: Paired) -> bool:
    """Send a sensor back to its rack once its trial has ended; returns whether it was. Asked again after some seconds only."""
    trial = paired.trial
    if trial is None or time.monotonic() - trial.looked_at < TRIAL_LOOK_S:
        return False
    trial.looked_at = time.monotonic()
    if Trial.objects.filter(pk=trial.trial_id, ended_at__isnull=True).exists():
        return False
    paired.trial = None
    return True


def take_trial_samples(paired: Paired, batch: Batch) -> dict[str, Any]:
    """Push bar samples to the trial that the sensor measures; each repetition is a reading of it."""
    last = batch.samples[-1][0]
    if _let_go(paired):
        return {"accepted": True, "resume_from": last + 1, "durable_seq": last, "reps": 0, "problems": list(batch.problems)}
    trial = paired.trial
    assert trial is not None
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
        first, people = up_in(gathering, rack)
        keys = frozenset({room_key(gathering.pk), *(p.session.pk for p in people)})
        if first is not None and first.coming is not None:
            line, item = first.coming
            return Up(first.session.pk, first.athlete.pk, line.line.pk, line.line.exercise_id, item.kind, item.number), keys
    return None, frozenset()


def _is_fresh(paired: Paired) -> bool:
    return paired.seen_version == hub.version_of(paired.keys) and time.monotonic() - paired.asked_at < LOOK_AGAIN_S


def _is_still_so(paired: Paired) -> bool:
    """Whether nothing new was told of the sessions here: what another process wrote is not heard of, but stored."""
    now = time.monotonic()
    if paired.seen_version != hub.version_of(paired.keys) or now - paired.looked_at >= LOOK_WHOLE_S or not paired.keys:
        return False
    if _newest_events(paired.keys) != paired.seen_events:
        return False
    paired.asked_at = now
    return True


def _newest_events(keys: frozenset[int]) -> dict[int, int]:
    return newest_events([k for k in keys if k > 0], without=LIVE)


def _look(paired: Paired) -> bool:
    """Look for what is up where something changed; returns whether it is another set than before."""
    if _is_fresh(paired) or _is_still_so(paired):
        return False
    before, of_keys, events = hub.version, hub.version_of(paired.keys), _newest_events(paired.keys)
    up, keys = up_at(paired.rack) if paired.rack is not None else (None, frozenset())
    if keys != paired.keys:
        # what changed while looking is looked at again
        of_keys, events = (hub.version_of(keys), _newest_events(keys)) if hub.version == before else (-1, {})
    paired.keys, paired.seen_version, paired.seen_events = keys, of_keys, events
    paired.looked_at = paired.asked_at = time.monotonic()
    if up == paired.up:
        return False
    paired.late, paired.up = _late_for(paired.up), up
    return True


def _late_for(up: Up | None) -> Late | None:
    """A result takes a moment from the device to here: until when it is of the set that was done last."""
    if up is None:
        return None
    where = {"line_id": up.line_id, "kind": up.kind, "number": up.number, "taken_back_at__isnull": True}
    record = SetRecord.objects.filter(**where).first()
    return Late(up, record.reps, record.done_at + timedelta(seconds=LATE_S)) if record is not None else None


def _up_for(paired: Paired, kind: str, value: dict[str, Any], now: datetime) -> Up | None:
    """Whose a result is: of the set before, where it comes just after the tap and one is missing there; else of what is up."""
    late = paired.late
    if late is None or now >= late.until or kind == "heart":
        return paired.up
    line = SessionLine.objects.prefetch_related("readings").get(pk=late.up.line_id)
    seen = seen_of(line)[(late.up.kind, late.up.number)]
    count = len(seen.jumps) + len(seen.device_mps)
    return late.up if is_of_the_set_before(count, late.reps, set(seen.splits), value.get("gate")) else paired.up


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
    begun = SensorStream.objects.filter(
        sensor_number=paired.sensor_id, line_id=up.line_id, kind=up.kind, set_number=up.number, closed_at__isnull=True,
        base__lte=first_n,
    ).last()  # fmt: skip
    if begun is not None:  # another process began it: the sensor is asked for what is not durable yet
        paired.stream_token, paired.base = begun.token, begun.base
        return True
    try:
        stream = streams.open_stream(
            session, up.line_id, up.kind, up.number, paired.rate_hz, False, sensor_number=paired.sensor_id, base=first_n
        )
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
        _let_go(paired)
        if paired.trial is None:
            _look(paired)
        if paired.sort is Sort.MAT:
            jumps = paired.mat.push(read.rows)
            values = [_jump(j) for j in jumps]
            refused, kind = paired.mat.refused, "jump"
        elif paired.sort is Sort.GATES:
            values = _splits(paired, paired.gates.push(read.rows))
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


def _splits(paired: Paired, found: list[tuple[int, float]]) -> list[dict[str, Any]]:
    """Splits with the distances of their gates, as they are stored now: another process may have been told of others."""
    places_m = Sensor.objects.filter(pk=paired.sensor_id).values_list("gates_m", flat=True).first() if found else None
    said = [(gate, seconds, place_m(places_m or (), gate)) for gate, seconds in found]
    return [{"gate": g, "seconds": s} | ({"metres": m} if m is not None else {}) for g, s, m in said]


def _jump(jump: MatJump) -> dict[str, Any]:
    rsi = round(jump.rsi, 2) if jump.rsi else None
    return {"height_cm": jump.height_cm, "flight_s": jump.flight_s, "contact_s": jump.contact_s, "rsi": rsi}


def _heart(paired: Paired, rows: tuple[tuple[int, float, Any], ...]) -> list[dict[str, Any]]:
    fresh = paired.heart.push(rows)
    if not fresh or fresh[-1][0] - paired.heart_told < HEART_EVERY_S:
        return []
    paired.heart_told = fresh[-1][0]
    return [{"bpm": fresh[-1][1]}]


@writing()
def _keep(paired: Paired, kind: str, values: list[dict[str, Any]]) -> None:
    now = clock.now()
    for value in values:
        up = _up_for(paired, kind, value, now)
        session = TrainingSession.objects.filter(pk=up.session_id).first() if up else None
        fits = up is not None and _fits(kind, exercise(up.exercise_id))
        reading = Reading(
            sensor_id=paired.sensor_id,
            athlete_id=up.athlete_id if up else None,
            line_id=up.line_id if up and fits else None,
            set_number=up.number if up and fits else 0,
            values={**value, "kind": up.kind} if up is not None and kind == "velocity" else value,
            at=now,
        )
        if session is not None and up is not None and fits and up is not paired.up:
            _fill_in(session, up, reading)
        else:
            reading.save()
        if up is not None and kind != "heart":  # no act counts it: what is kept of the athlete follows by this
            Athlete.objects.filter(pk=up.athlete_id).update(measured=F("measured") + 1)
        if session is not None and up is not None:
            tell(session, kind, {"line_id": up.line_id, "kind": up.kind, "set_number": up.number, **value})


def _fill_in(session: TrainingSession, up: Up, reading: Reading) -> None:
    """Store a result of a set that was logged already: what was worked out of the set follows."""
    with acting(Who(None, Via.SENSOR), "late_result", f"{words_of_reading(reading.values)} came late", athlete=session.athlete):
        with measuring(session, (up.line_id, up.kind, up.number)):
            reading.save()
        tell(session, "changed", {"line_id": up.line_id})


def _fits(kind: str, lift: Exercise) -> bool:
    """Whether a reading can be of an exercise: a jump of jumps, a split of runs, a velocity of a bar, a heart rate always."""
    if kind == "velocity":
        return lift.motion is not None
    return kind == "heart" or lift.kind == ("jump" if kind == "jump" else "run")
