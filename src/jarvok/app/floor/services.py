"""What happens on the floor: one function each, in one transaction, safe to send twice."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app import clock
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.floor.advising import after_warm_up, after_work_set
from jarvok.app.floor.models import AdviceRecord, SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.app.floor.queries import FloorSet, floor_line
from jarvok.app.floor.writes import check_open, tell
from jarvok.app.problems import Conflict, NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.floor.what_next import Trouble
from jarvok.core.quantities.mass import check_load_kg, format_kg


@dataclass(frozen=True)
class Done:
    """One set as it was done. With two sides the fewer repetitions of both count; `confirm` takes an improbable load."""

    load_kg: float | None
    reps: int
    rir: float | None = None
    trouble: str = ""
    note: str = ""
    left_reps: int | None = None
    right_reps: int | None = None
    confirm: bool = False

    @property
    def counted(self) -> int:
        """The repetitions that count."""
        sides = [n for n in (self.left_reps, self.right_reps) if n is not None]
        return min(sides) if len(sides) == 2 else self.reps


def _check_set(done: Done) -> None:
    if done.load_kg is not None:
        check_load_kg(done.load_kg, "load_kg")
    for name, reps in (("reps", done.reps), ("left_reps", done.left_reps), ("right_reps", done.right_reps)):
        if reps is not None and not 0 <= reps <= 200:
            raise CoachError(f"{reps} repetitions cannot be.", where=name, accepted="0 to 200 are accepted.")
    if done.rir is not None and not 0 <= done.rir <= 10:
        raise CoachError(f"{done.rir:g} in reserve cannot be.", where="rir", accepted="0 to 10 are accepted.")
    if done.trouble and done.trouble not in set(Trouble):
        raise CoachError(f"“{done.trouble}” is not known.", where="trouble", accepted="form_broke or pain.")


def _line_and_set(session: TrainingSession, line_id: int, kind: str, number: int) -> tuple[SessionLine, FloorSet]:
    line = SessionLine.objects.filter(session=session, pk=line_id).first()
    if line is None:
        raise CoachError("This line is not in the session.", where="line_id")
    item = next((s for s in floor_line(line).sets if s.kind == kind and s.number == number), None)
    if item is None:
        raise CoachError(f"{line.slot} has no {kind} set {number}.", where="number")
    return line, item


def _as_logged(line: SessionLine, record: SetRecord) -> str:
    load = f"{format_kg(record.load_kg)} kg × " if record.load_kg else ""
    return f"set {record.number} of {line.slot}: {load}{record.reps}"


def log_set(session: TrainingSession, line_id: int, kind: str, number: int, done: Done) -> None:
    """Store one set as done; after a work set the advice for the next is stored with it."""
    check_open(session)
    _check_set(done)
    line, item = _line_and_set(session, line_id, kind, number)
    if item.record is not None:
        raise Conflict(f"Already logged, {_as_logged(line, item.record)}. Yours was not stored; change it there if it differs.")
    _store(session, line, item, done)


def correct_set(session: TrainingSession, line_id: int, kind: str, number: int, seen_id: int, done: Done) -> None:
    """Put another word in place of a logged set. `seen_id` is the record the page showed: a newer one is not overwritten."""
    check_open(session)
    _check_set(done)
    line, item = _line_and_set(session, line_id, kind, number)
    if item.record is None:
        raise Conflict(f"Set {number} of {line.slot} was taken back meanwhile. Yours was not stored.")
    if item.record.pk != seen_id:
        raise Conflict(f"Changed meanwhile, {_as_logged(line, item.record)}. Yours was not stored: look at it first.")
    now = clock.now()
    item.record.taken_back_at = now
    item.record.save(update_fields=["taken_back_at"])
    after = number if kind == SetKind.WORK else 0
    AdviceRecord.objects.filter(line=line, after_number=after, taken_back_at__isnull=True).update(taken_back_at=now)
    _store(session, SessionLine.objects.get(pk=line.pk), item, done)


def _store(session: TrainingSession, line: SessionLine, item: FloorSet, done: Done) -> None:
    book = LiftBook([session.athlete], session.day)
    state = book.state(session.athlete_id, line.exercise_id)
    improbable = 1 + book.rules["marks.improbable_set_pct"] / 100
    if done.load_kg is not None and state.max_kg and done.load_kg > improbable * state.max_kg and not done.confirm:
        raise NeedsConfirmation(
            f"{format_kg(done.load_kg)} kg is far over the max of {state.max_kg:.0f} kg.",
            where="load_kg",
            accepted="Log it again to confirm.",
        )
    _pending_advice_lapses(line)
    SetRecord.objects.create(
        line=line,
        kind=item.kind,
        number=item.number,
        planned_load_kg=item.planned_load_kg,
        planned_reps=item.planned.get("reps"),
        load_kg=done.load_kg,
        reps=done.counted,
        left_reps=done.left_reps,
        right_reps=done.right_reps,
        rir=done.rir,
        trouble=done.trouble,
        note=done.note[:200],
        done_at=clock.now(),
    )
    line.reps.filter(kind=item.kind, set_number=item.number).update(load_kg=done.load_kg)
    fresh = SessionLine.objects.get(pk=line.pk)
    if item.kind == SetKind.WORK:
        after_work_set(session, fresh, item.number, book)
    elif item.number == len(line.ramp):
        after_warm_up(session, fresh, book)
    tell(session, "changed", {"line_id": line.pk})


def _pending_advice_lapses(line: SessionLine) -> None:
    AdviceRecord.objects.filter(line=line, outcome="", taken_back_at__isnull=True).exclude(move="done").update(outcome="passed")


def answer_advice(session: TrainingSession, advice_id: int, accept: bool, load_kg: float | None) -> None:
    """Keep what the coach made of the advice: taken, or another load (or going on) instead."""
    check_open(session)
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
    check_open(session)
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
    check_open(session)
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
