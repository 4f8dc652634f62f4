"""What happens on the floor: one function each, in one transaction, safe to send twice."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from datetime import date
from typing import Any

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.floor.hub import hub
from jarvok.app.floor.models import AdviceRecord, FloorEvent, IdempotentWrite, SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.app.floor.queries import floor_line, plates_for, read_session
from jarvok.app.problems import Conflict, NeedsConfirmation
from jarvok.app.shapes import told, working_out
from jarvok.app.training.finding import find_sheet
from jarvok.core.errors import CoachError
from jarvok.core.floor.what_next import DoneSet, Trouble, what_next
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.prescription import Prescription, TodayPercent
from jarvok.core.loading.resolve import ResolvedSet, resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.quantities.mass import check_load_kg, format_kg


def once(key: str, request: object, act: Callable[[], dict[str, Any]]) -> dict[str, Any]:
    """Do a write once per key: a repeated key gets the first answer; the same key with other content is refused."""
    if not 8 <= len(key) <= 80:
        raise CoachError("A floor write carries an Idempotency-Key of 8 to 80 characters.", where="Idempotency-Key")
    digest = hashlib.sha256(json.dumps(request, sort_keys=True, default=str).encode()).hexdigest()
    with transaction.atomic():
        kept = IdempotentWrite.objects.filter(key=key).first()
        if kept is not None:
            if kept.request != digest:
                raise Conflict("This key was used for something else.")
            answer: dict[str, Any] = kept.answer
            return answer
        answer = act()
        IdempotentWrite.objects.create(key=key, request=digest, answer=answer)
        return answer


def tell(session: TrainingSession, kind: str, payload: dict[str, Any]) -> None:
    """Store an event and wake the pages once the transaction is through."""
    FloorEvent.objects.create(session=session, kind=kind, payload=payload)
    transaction.on_commit(lambda: hub.wake(session.pk))


def start_session(athlete: Athlete, day: date, key: str) -> TrainingSession:
    """Start a planned session: what is told is kept as it stands now. A started one is returned as it is."""
    existing = TrainingSession.objects.filter(athlete=athlete, day=day, key=key).first()
    if existing is not None:
        return existing
    week, sheet = find_sheet(athlete, day, key)
    session = TrainingSession.objects.create(
        athlete=athlete,
        day=day,
        key=key,
        theme=sheet.planned.theme,
        phase=week.week.phase,
        days_to_go=(week.week.competition_day - day).days,
        started_at=clock.now(),
    )
    ramps = sheet.ramps
    for order, line in enumerate(sheet.lines):
        ramp = [
            {
                "load_kg": r.load_kg,
                "per_side_kg": list(r.per_side_kg),
                "reps": r.reps,
                "stop_loss_pct": week.rules["velocity.stop_loss_pct"],
            }
            for r in ramps.get(line.planned.slot, ())
        ]
        SessionLine.objects.create(
            session=session,
            order=order,
            slot=line.planned.slot,
            block=line.planned.block,
            exercise_id=line.planned.exercise_id,
            text=line.text,
            reason=line.planned.reason,
            is_main=line.planned.is_main,
            ramp=ramp,
            planned=[told(s) for s in line.sets],
            rest_s=line.rest_s,
        )
    return session


def _open(session: TrainingSession) -> None:
    if session.finished_at is not None:
        raise Conflict("This session is finished. Its record stays as it is.")


def _check_set(load_kg: float | None, reps: int, rir: float | None) -> None:
    if load_kg is not None:
        check_load_kg(load_kg, "load_kg")
    if not 0 <= reps <= 200:
        raise CoachError(f"{reps} repetitions cannot be.", where="reps", accepted="0 to 200 are accepted.")
    if rir is not None and not 0 <= rir <= 10:
        raise CoachError(f"{rir:g} in reserve cannot be.", where="rir", accepted="0 to 10 are accepted.")


def log_set(
    session: TrainingSession,
    line_id: int,
    kind: str,
    number: int,
    load_kg: float | None,
    reps: int,
    rir: float | None,
    trouble: str,
    note: str,
    confirm: bool,
) -> None:
    """Store one set as done; after a work set the advice for the next is stored with it."""
    _open(session)
    _check_set(load_kg, reps, rir)
    if trouble and trouble not in set(Trouble):
        raise CoachError(f"“{trouble}” is not known.", where="trouble", accepted="form_broke or pain.")
    line = SessionLine.objects.filter(session=session, pk=line_id).first()
    if line is None:
        raise CoachError("This line is not in the session.", where="line_id")
    current = floor_line(line)
    item = next((s for s in current.sets if s.kind == kind and s.number == number), None)
    if item is None:
        raise CoachError(f"{line.slot} has no {kind} set {number}.", where="number")
    if item.record is not None:
        raise Conflict(
            f"Set {number} of {line.slot} is already logged: {format_kg(item.record.load_kg or 0)} kg × {item.record.reps}."
        )
    book = LiftBook([session.athlete], session.day)
    state = book.state(session.athlete_id, line.exercise_id)
    improbable = 1 + book.rules["marks.improbable_set_pct"] / 100
    if load_kg is not None and state.max_kg and load_kg > improbable * state.max_kg and not confirm:
        raise NeedsConfirmation(
            f"{format_kg(load_kg)} kg is far over the max of {state.max_kg:.0f} kg.",
            where="load_kg",
            accepted="Log it again to confirm.",
        )
    _pending_advice_lapses(line)
    SetRecord.objects.create(
        line=line,
        kind=kind,
        number=number,
        planned_load_kg=item.planned_load_kg,
        planned_reps=item.planned.get("reps"),
        load_kg=load_kg,
        reps=reps,
        rir=rir,
        trouble=trouble,
        note=note[:200],
        done_at=clock.now(),
    )
    line.reps.filter(kind=kind, set_number=number).update(load_kg=load_kg)
    if kind == SetKind.WORK:
        _advise(session, SessionLine.objects.get(pk=line.pk), number, book)
    elif number == len(line.ramp):
        _load_of_the_day(session, line)
    tell(session, "changed", {"line_id": line.pk})


def _load_of_the_day(session: TrainingSession, line: SessionLine) -> None:
    """After the last warm-up a line written as a share of today is resolved again with what the warm-up said."""
    written = _prescription(line)
    if written is None or not any(isinstance(g.load, TodayPercent) for g in written.groups):
        return
    first = resolve(written, LiftBook([session.athlete], session.day).state(session.athlete_id, line.exercise_id))[0]
    if first.load_kg is None or first.working is None or first.method != "percent of today":
        return
    AdviceRecord.objects.create(
        line=line,
        after_number=0,
        move="up" if first.load_kg > (line.planned[0].get("load_kg") or 0) else "same",
        load_kg=first.load_kg,
        sentence=f"The warm-up says {first.load_kg:g} kg for today.",
        working=working_out(first.working).dict(),
    )


def _pending_advice_lapses(line: SessionLine) -> None:
    AdviceRecord.objects.filter(line=line, outcome="", taken_back_at__isnull=True).exclude(move="done").update(outcome="passed")


def _resolved(planned: dict[str, Any]) -> ResolvedSet:
    low, high = planned.get("target_low_mps"), planned.get("target_high_mps")
    return ResolvedSet(
        set_index=planned["index"],
        reps=planned["reps"],
        or_more=planned["or_more"],
        seconds=planned["seconds"],
        metres=planned["metres"],
        per_side=planned["per_side"],
        load_kg=planned["load_kg"],
        wanted_kg=planned.get("wanted_kg"),
        per_side_kg=tuple(planned["per_side_kg"]),
        share_of_max=planned["share_of_max"],
        target_mps=(low, high) if low is not None and high is not None else None,
        target_is_peak=planned["target_is_peak"],
        target_rir=planned["target_rir"],
        stop_loss_pct=planned["stop_loss_pct"],
        method=planned["method"],
        working=None,
    )


def _prescription(line: SessionLine) -> Prescription | None:
    try:
        return parse(line.text)
    except CoachError:
        return None  # lines told long ago may be written in words of their own


def _advise(session: TrainingSession, line: SessionLine, number: int, book: LiftBook) -> None:
    current = floor_line(line)
    lift = exercise(line.exercise_id)
    done: list[DoneSet] = []
    for item in current.sets:
        if item.kind != SetKind.WORK or item.record is None:
            continue
        record = item.record
        done.append(
            DoneSet(
                load_kg=record.load_kg,
                reps=record.reps,
                rir=record.rir,
                velocities_mps=tuple(r.peak_mps if lift.velocity == "peak" else r.mean_mps for r in item.reps),
                trouble=Trouble(record.trouble) if record.trouble else None,
                planned_reps=record.planned_reps,
            )
        )
    left = sum(1 for s in current.sets if s.kind == SetKind.WORK and s.record is None)
    work = {s.number: s.planned for s in current.sets if s.kind == SetKind.WORK}
    coming = _resolved(work[number + 1]) if number + 1 in work else None
    state = book.state(session.athlete_id, line.exercise_id)
    advice = what_next(_resolved(work[number]), done, left, state, coming, _prescription(line))
    AdviceRecord.objects.create(
        line=line,
        after_number=number,
        move=advice.move,
        load_kg=advice.load_kg,
        sentence=advice.sentence,
        working=working_out(advice.working).dict(),
    )


def answer_advice(session: TrainingSession, advice_id: int, accept: bool, load_kg: float | None) -> None:
    """Keep what the coach made of the advice: taken, or another load (or going on) instead."""
    _open(session)
    advice = AdviceRecord.objects.filter(pk=advice_id, line__session=session, taken_back_at__isnull=True).first()
    if advice is None:
        raise CoachError("This advice is not in the session.", where="advice")
    if advice.outcome in ("accepted", "overridden"):
        raise Conflict(f"This was answered already: {advice.outcome}.")
    advice.outcome = "accepted" if accept else "overridden"
    if accept:
        advice.chosen_load_kg = advice.load_kg
    elif load_kg is not None:
        advice.chosen_load_kg = check_load_kg(load_kg, "load_kg")
    advice.save()
    tell(session, "changed", {"line_id": advice.line_id})


def undo_last(session: TrainingSession) -> None:
    """Take back the last logged set and the advice that came with it; its repetitions stay."""
    _open(session)
    last = SetRecord.objects.filter(line__session=session, taken_back_at__isnull=True).order_by("-id").first()
    if last is None:
        raise Conflict("Nothing has been logged yet.")
    now = clock.now()
    last.taken_back_at = now
    last.save()
    after = last.number if last.kind == SetKind.WORK else 0  # advice after a warm-up stands at nought
    AdviceRecord.objects.filter(line=last.line, after_number=after, taken_back_at__isnull=True).update(taken_back_at=now)
    tell(session, "changed", {"line_id": last.line_id})


def finish_session(session: TrainingSession, srpe: float | None, minutes: float | None) -> None:
    _open(session)
    if srpe is not None and not 0 <= srpe <= 10:
        raise CoachError("Session RPE runs from 0 to 10.", where="srpe")
    if minutes is not None and not 1 <= minutes <= 400:
        raise CoachError("A session lasts 1 to 400 minutes.", where="minutes")
    session.finished_at = clock.now()
    session.srpe = srpe
    session.minutes = (
        minutes if minutes is not None else round((session.finished_at - session.started_at).total_seconds() / 60, 1)
    )
    session.save()
    session.streams.filter(closed_at__isnull=True).update(closed_at=session.finished_at)
    tell(session, "finished", {})


__all__ = [
    "answer_advice", "finish_session", "log_set", "once", "plates_for", "read_session", "start_session", "tell", "undo_last",
]  # fmt: skip
