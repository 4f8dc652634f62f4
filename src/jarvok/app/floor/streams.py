"""Live bar streams: samples in, repetitions stored and told.

Detection lives in memory; what is stored is the repetition. After each stored repetition `durable_seq` moves on, and a
bridge keeps the samples behind it until then: a server that died and came back asks for them again and sees the same
repetitions, because detection does not depend on how samples were batched.
"""

from __future__ import annotations

import secrets
import threading
import time
from collections import deque
from collections.abc import Iterable
from dataclasses import dataclass, field

from django.db.models import F

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import Rep, SensorStream, SessionLine, TrainingSession
from jarvok.app.facts.put_together import StoreTogether
from jarvok.app.facts.writing import writing
from jarvok.app.floor.events import tell
from jarvok.app.floor.lines import floor_line, rep_payload
from jarvok.app.hub import hub
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.floor.told import ToldSet
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.stream import Batch
from jarvok.core.velocity.detect import Rep as FoundRep
from jarvok.core.velocity.detect import RepDetector

_REPS = StoreTogether(Rep)
KEPT_SAMPLES = 4000
FAR_AHEAD = 1000  # [T] samples: at least a second of the fastest sensor
SILENT_S = 3.0  # [T] a sensor that sends sends many times a second


@dataclass
class Live:
    """One stream's detector and where it is in the samples."""

    token: str
    stream_id: int
    session_id: int
    athlete_id: int
    detector: RepDetector
    last_seq: int
    durable_seq: int
    reps_before: int
    times: deque[tuple[int, float]] = field(default_factory=lambda: deque(maxlen=KEPT_SAMPLES))
    faults_told: int = 0
    heard_at: float = field(default_factory=time.monotonic)
    doubted: int | None = None  # a number far ahead of all before, until the next one bears it out
    lock: threading.Lock = field(default_factory=threading.Lock)


@dataclass(frozen=True)
class Taken:
    """What became of a batch: whether it was taken, from where to send on, and up to where nothing need be kept."""

    accepted: bool
    resume_from: int
    durable_seq: int
    reps: int
    problems: tuple[str, ...]


_live: dict[str, Live] = {}
_live_lock = threading.Lock()


@writing()
def open_stream(
    session: TrainingSession, line_id: int, kind: str, number: int, rate_hz: float, simulated: bool,
    sensor_number: int | None = None, base: int = 0,
) -> SensorStream:  # fmt: skip
    """Bind a new stream to one set of a running session."""
    if session.finished_at is not None:
        raise Conflict("This session is finished.")
    if not 20 <= rate_hz <= 1000:
        raise CoachError(f"{rate_hz:g} samples a second cannot be used.", where="rate_hz", accepted="20 to 1000 are accepted.")
    line = SessionLine.objects.filter(session=session, pk=line_id).first()
    item = next((s for s in floor_line(line).sets if s.kind == kind and s.number == number), None) if line else None
    if line is None or item is None:
        raise CoachError("This set is not in the session.", where="set_number")
    if exercise(line.exercise_id).motion is None:
        raise CoachError(f"A bar sensor does not measure {exercise(line.exercise_id).name.lower()}.", where="line_id")
    if item.record is not None:
        raise Conflict("This set is already logged.")
    now = clock.now()
    session.streams.filter(line=line, kind=kind, set_number=number, closed_at__isnull=True).update(closed_at=now)
    stream = SensorStream.objects.create(
        token=secrets.token_urlsafe(18),
        session=session,
        line=line,
        kind=kind,
        set_number=number,
        load_kg=item.planned_load_kg,
        rate_hz=rate_hz,
        simulated=simulated,
        sensor_number=sensor_number,
        base=base,
        started_at=now,
    )
    tell(session, "sensor", {"line_id": line.pk, "kind": kind, "set_number": number, "state": "on", "message": ""})
    return stream


def find(token: str) -> Live | None:
    """Return the live state of a stream, making it from what is stored when this process has none."""
    with _live_lock:
        live = _live.get(token)
        if live is not None:
            return live
        stream = SensorStream.objects.select_related("line", "session").filter(token=token, closed_at__isnull=True).first()
        if stream is None:
            return None
        motion = exercise(stream.line.exercise_id).motion
        assert motion is not None
        live = Live(
            token=token,
            stream_id=stream.pk,
            session_id=stream.session_id,
            athlete_id=stream.session.athlete_id,
            detector=RepDetector(motion, stream.rate_hz),
            last_seq=stream.durable_seq,
            durable_seq=stream.durable_seq,
            reps_before=Rep.objects.filter(stream=token).count(),
        )
        _live[token] = live
    hub.taken(token)
    return live


def detect(live: Live, batch: Batch, from_here: bool) -> tuple[list[FoundRep], Taken | None]:
    """Push new samples; returns the finished repetitions, or a refusal that says where to send on from."""
    with live.lock:
        fresh = _borne_out(live, [s for s in batch.samples if s[0] > live.last_seq])
        if not fresh:
            return [], Taken(True, live.last_seq + 1, live.durable_seq, 0, batch.problems)
        if fresh[0][0] > live.last_seq + 1 and not from_here and live.last_seq == live.durable_seq:
            return [], Taken(False, live.last_seq + 1, live.durable_seq, 0, batch.problems)
        live.heard_at = time.monotonic()
        live.times.extend((n, t) for n, t, _ in fresh)
        live.last_seq = fresh[-1][0]
        return live.detector.push((t, x) for _, t, x in fresh), None


Sample = tuple[int, float, float]


def _borne_out(live: Live, samples: list[Sample]) -> list[Sample]:
    """Samples without those whose number lies far ahead of the one before and is not followed by one close behind it.

    One such number, taken for true, would make every later sample look like one that had been sent before.
    """
    kept: list[Sample] = []
    last = live.last_seq
    for sample in samples:
        number = sample[0]
        if number - last > FAR_AHEAD and not (live.doubted is not None and 0 < number - live.doubted <= FAR_AHEAD):
            live.doubted = number
            continue
        live.doubted = None
        kept.append(sample)
        last = max(last, number)
    return kept


def fell_silent(tokens: Iterable[str]) -> bool:
    """Whether one of some streams was running here and has sent nothing for some seconds."""
    now = time.monotonic()
    return any(live is not None and now - live.heard_at > SILENT_S for live in map(_live.get, tokens))


def forget(token: str) -> None:
    """Drop what is held in memory of a stream: the next samples begin anew behind the last stored repetition."""
    with _live_lock:
        _live.pop(token, None)


hub.when_taken(forget)


def store(live: Live, found: list[FoundRep], received_ms: float) -> None:
    """Store repetitions and tell the page. The samples before the last one's end need not be sent again.

    Found and not stored, they are found anew: the stream is forgotten, and the bridge sends again from what is durable.
    """
    try:
        with writing(of=live.athlete_id):
            _store(live, found, received_ms)
    except Exception:
        forget(live.token)
        raise


def _store(live: Live, found: list[FoundRep], received_ms: float) -> None:
    stream = SensorStream.objects.select_related("line", "session").get(pk=live.stream_id)
    line = stream.line
    before = list(Rep.objects.filter(line=line, kind=stream.kind, set_number=stream.set_number, taken_out_at__isnull=True))
    planned = line.ramp if stream.kind == "ramp" else line.planned
    stop = ToldSet.from_raw(planned[stream.set_number - 1]).stop_loss_pct if stream.set_number <= len(planned) else None
    for item in found:
        m = item.metrics
        rep = _REPS.store(
            line=line,
            kind=stream.kind,
            set_number=stream.set_number,
            number=live.reps_before + item.number,
            stream=stream.token,
            start_s=item.start_s,
            mean_mps=m.mean_mps,
            mean_propulsive_mps=m.mean_propulsive_mps,
            peak_mps=m.peak_mps,
            time_to_peak_s=m.time_to_peak_s,
            range_m=m.range_m,
            load_kg=stream.load_kg,
        )
        payload = rep_payload(rep, before, stop)
        payload["received_ms"] = received_ms
        newest_t = live.times[-1][1] if live.times else item.end_s
        payload["top_ms"] = received_ms - 1000 * (newest_t - item.end_s)
        tell(stream.session, "rep", payload)
        before.append(rep)
    Athlete.objects.filter(pk=stream.session.athlete_id).update(measured=F("measured") + 1)
    end_s = found[-1].end_s
    live.durable_seq = max((n for n, t in live.times if t <= end_s), default=live.durable_seq)
    stream.durable_seq = live.durable_seq
    stream.save(update_fields=["durable_seq"])


def tell_faults(live: Live) -> None:
    """Tell the page of what the stream left out, once each."""
    with writing(of=live.athlete_id):
        _tell_faults(live)


def _tell_faults(live: Live) -> None:
    faults = live.detector.faults[live.faults_told :]
    live.faults_told = len(live.detector.faults)
    stream = SensorStream.objects.select_related("session").get(pk=live.stream_id)
    stream.gaps += len(faults)
    stream.save(update_fields=["gaps"])
    for fault in faults:
        tell(
            stream.session,
            "sensor",
            {
                "line_id": stream.line_id,
                "kind": stream.kind,
                "set_number": stream.set_number,
                "state": "fault",
                "message": fault.message,
            },
        )


def close(token: str, received_ms: float) -> None:
    """End a stream: a repetition waiting for its look-ahead is measured with what is there."""
    live = find(token)
    if live is None:
        return
    with live.lock:
        rest = live.detector.flush()
    if rest:
        store(live, rest, received_ms)
    with writing(of=live.athlete_id):
        stream = SensorStream.objects.select_related("session").get(pk=live.stream_id)
        if stream.closed_at is None:
            stream.closed_at = clock.now()
            stream.save(update_fields=["closed_at"])
            tell(
                stream.session,
                "sensor",
                {"line_id": stream.line_id, "kind": stream.kind, "set_number": stream.set_number, "state": "off", "message": ""},
            )
    forget(token)
