"""The floor over HTTP: sessions started, logged, ended and looked back on."""

from __future__ import annotations

from functools import partial
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app.api.floor.reviewed import ReviewOut, review_out
from jarvok.app.api.floor.shapes import (
    AddExercise,
    AnswerAdvice,
    AnswerPain,
    Cancel,
    CancelledOut,
    CorrectSet,
    Finish,
    FloorOut,
    LogSet,
    OpenStream,
    RepPlace,
    SetPlace,
    StandIn,
    StartSession,
    StopLine,
    StreamOut,
    SwapOut,
)
from jarvok.app.api.floor.view import floor_at_hand, floor_out
from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.who import signed_in, who_of
from jarvok.app.api.written import answered, text_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import PainReport, SensorStream, SessionLine, TrainingSession
from jarvok.app.floor import simulate, streams
from jarvok.app.floor.actions import (
    add_line,
    add_set,
    answer_pain,
    cancel_session,
    finish_session,
    move_reading,
    skip_set,
    stand_in,
    stop_here,
    stop_line,
    swap_line,
    take_out_reading,
    take_out_rep,
    undo_set,
)
from jarvok.app.floor.actions import answer_advice as answer
from jarvok.app.floor.actions import correct_set as correct
from jarvok.app.floor.actions import log_set as log
from jarvok.app.floor.actions import move_rep as give_rep
from jarvok.app.floor.actions import start_session as start
from jarvok.app.floor.at_hand import AtHand, give_back, keep, lent, make_ready, taken
from jarvok.app.floor.done_sets import Done, typed_kg
from jarvok.app.floor.lines import (
    floor_lines,
    read_session,
)
from jarvok.app.floor.replacing import swaps
from jarvok.app.once import once
from jarvok.app.room.links import rack_auth
from jarvok.app.training.lookup import has_sheet
from jarvok.core.errors import CoachError
from jarvok.core.floor.measurable import TypedJump
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import in_kg

router = Router(tags=["floor"])
RACK_TOO = [signed_in, rack_auth]  # also from a tablet with its rack's link


def _session(session_id: int) -> TrainingSession:
    return get_object_or_404(TrainingSession.objects.select_related("athlete__squad", "athlete__kit"), pk=session_id)


def _write(key: str, session: TrainingSession, request: Any, act: Any) -> FloorOut:
    def do() -> dict[str, Any]:
        # it was read before others' writes were waited for
        session.finished_at = get_object_or_404(TrainingSession.objects.only("finished_at"), pk=session.pk).finished_at
        act()
        return {"session_id": session.pk}

    once(key, {"session": session.pk, **request}, do, of=session.athlete_id)
    return floor_out(session.pk)


@router.post("/floor/sessions", response={200: FloorOut, **ERRORS})
def start_session(request: HttpRequest, payload: StartSession, idempotency_key: IdempotencyKey) -> FloorOut:
    athlete = get_object_or_404(Athlete.objects.select_related("squad", "kit"), pk=payload.athlete_id)

    def act() -> dict[str, Any]:
        return {"session_id": start.run(who_of(request), athlete, payload.day, payload.key, as_today=payload.as_today).pk}

    answer = once(idempotency_key, payload.dict(), act)
    return floor_out(answer["session_id"])


@router.get("/floor/sessions/{int:session_id}", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def read_floor(request: HttpRequest, session_id: int) -> HttpResponse:
    held = lent(session_id) or taken(session_id)
    answer = answered(text_of(floor_at_hand(held)))
    give_back(held)
    return answer


@router.post("/floor/sessions/{int:session_id}/sets", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def log_set(request: HttpRequest, session_id: int, payload: LogSet, idempotency_key: IdempotencyKey) -> HttpResponse:
    """One set as it was done. Short: what it needs is at hand from the set before, and the answer is made after it is stored."""
    stored: list[AtHand] = []
    athlete_id = make_ready(session_id)

    def act() -> dict[str, Any]:
        held = taken(session_id)
        done = _done_of(held.session, held.line(payload.line_id), payload)
        log.run(who_of(request), held, payload.line_id, payload.kind, payload.number, done)
        stored.append(held)
        return {"session_id": session_id}

    once(idempotency_key, {"session": session_id, **payload.dict()}, act, of=athlete_id)
    if not stored:
        return answered(text_of(floor_out(session_id)))  # it was sent twice
    answer = answered(text_of(floor_at_hand(stored[-1])))
    keep(stored[-1])
    return answer


def _done_of(session: TrainingSession, line: SessionLine | None, payload: LogSet) -> Done:
    values = payload.dict(exclude={"line_id", "kind", "number", "seen_id", "load", "unit"})
    if payload.load is not None:
        values["load_kg"] = typed_kg(session, line, payload.load, payload.unit)
    jumps = tuple(TypedJump(j.height_cm, j.contact_s) for j in payload.jumps)
    return Done(**{**values, "parts": tuple(payload.parts), "jumps": jumps})


@router.post("/floor/sessions/{int:session_id}/sets/correct", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def correct_set(request: HttpRequest, session_id: int, payload: CorrectSet, idempotency_key: IdempotencyKey) -> FloorOut:
    """Another word on a logged set; a newer one by somebody else is not overwritten."""
    session = _session(session_id)
    done = _done_of(session, session.lines.filter(pk=payload.line_id).first(), payload)

    def act() -> None:
        correct.run(who_of(request), session, payload.line_id, payload.kind, payload.number, payload.seen_id, done)

    return _write(idempotency_key, session, payload.dict(), act)


@router.post("/floor/sessions/{int:session_id}/advice/{int:advice_id}", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def answer_advice(
    request: HttpRequest, session_id: int, advice_id: int, payload: AnswerAdvice, idempotency_key: IdempotencyKey
) -> FloorOut:
    session = _session(session_id)
    body = {"advice": advice_id, **payload.dict()}
    load_kg = payload.load_kg if payload.load is None else in_kg(payload.load, payload.unit)
    who = who_of(request)
    return _write(idempotency_key, session, body, lambda: answer.run(who, session, advice_id, payload.accept, load_kg))


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/instead", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def put_in_its_place(
    request: HttpRequest, session_id: int, line_id: int, payload: StandIn, idempotency_key: IdempotencyKey
) -> FloorOut:
    """Another exercise in the place of a line that pain has ended."""
    session = _session(session_id)
    act = partial(stand_in.run, who_of(request), session, line_id, payload.exercise_id)
    return _write(idempotency_key, session, {"line": line_id, **payload.dict()}, act)


@router.get("/floor/sessions/{int:session_id}/lines/{int:line_id}/swaps", response={200: list[SwapOut], **ERRORS}, auth=RACK_TOO)
def read_swaps(request: HttpRequest, session_id: int, line_id: int) -> list[SwapOut]:
    """What may be done in place of a line, the closest first."""
    session = read_session(_session(session_id).pk)
    lines = floor_lines(session)
    line = next((x for x in lines if x.line.pk == line_id), None)
    if line is None:
        raise CoachError("This line is not in the session.", where="line_id")
    return [SwapOut(exercise_id=e, name=exercise(e).name, reason=why) for e, why in swaps(session, lines, line)]


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/swap", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def swap_a_line(
    request: HttpRequest, session_id: int, line_id: int, payload: StandIn, idempotency_key: IdempotencyKey
) -> FloorOut:
    """Another exercise in the place of a line, for the sets that are left."""
    session = _session(session_id)
    act = partial(swap_line.run, who_of(request), session, line_id, payload.exercise_id)
    return _write(idempotency_key, session, {"line": line_id, "swap": payload.exercise_id}, act)


@router.post("/floor/sessions/{int:session_id}/lines", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def add_an_exercise(request: HttpRequest, session_id: int, payload: AddExercise, idempotency_key: IdempotencyKey) -> FloorOut:
    """An exercise is added behind all others."""
    session = _session(session_id)
    act = partial(add_line.run, who_of(request), session, payload.exercise_id, payload.text)
    return _write(idempotency_key, session, {"add": payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/skip", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def skip_a_set(
    request: HttpRequest, session_id: int, line_id: int, payload: SetPlace, idempotency_key: IdempotencyKey
) -> FloorOut:
    """A set is passed over."""
    session = _session(session_id)
    act = partial(skip_set.run, who_of(request), session, line_id, payload.kind, payload.number)
    return _write(idempotency_key, session, {"line": line_id, "skip": payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/more", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def add_a_set(request: HttpRequest, session_id: int, line_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    """One set more than was told."""
    session = _session(session_id)
    act = partial(add_set.run, who_of(request), session, line_id)
    return _write(idempotency_key, session, {"line": line_id, "more": True}, act)


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/stop", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def stop_a_line(
    request: HttpRequest, session_id: int, line_id: int, payload: StopLine, idempotency_key: IdempotencyKey
) -> FloorOut:
    """A lift is ended before its last set."""
    session = _session(session_id)
    act = partial(stop_line.run, who_of(request), session, line_id, payload.reason)
    return _write(idempotency_key, session, {"line": line_id, **payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/stop-here", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def stop_after_the_main_work(request: HttpRequest, session_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    """What is left of the session is stopped."""
    session = _session(session_id)
    return _write(idempotency_key, session, {"stop_here": True}, partial(stop_here.run, who_of(request), session))


@router.post("/floor/pains/{int:pain_id}/answer", response={200: ReviewOut, **ERRORS})
def answer_a_pain(request: HttpRequest, pain_id: int, payload: AnswerPain, idempotency_key: IdempotencyKey) -> ReviewOut:
    """A person's word on a pain: as before, or restricted."""
    report = get_object_or_404(PainReport.objects.select_related("session__athlete__squad", "record__line"), pk=pain_id)

    def act() -> dict[str, Any]:
        answer_pain.run(who_of(request), report, payload.answer)
        return {"pain_id": pain_id}

    once(idempotency_key, {"pain": pain_id, **payload.dict()}, act)
    return review_out(report.session_id)


@router.post("/floor/sessions/{int:session_id}/reps/{int:rep_id}/out", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def take_rep_out(request: HttpRequest, session_id: int, rep_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    """Leave a repetition out of everything; it can be put back."""
    session = _session(session_id)
    act = partial(take_out_rep.run, who_of(request), session, rep_id, True)
    return _write(idempotency_key, session, {"rep": rep_id, "out": True}, act)


@router.post("/floor/sessions/{int:session_id}/reps/{int:rep_id}/back", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def put_rep_back(request: HttpRequest, session_id: int, rep_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    act = partial(take_out_rep.run, who_of(request), session, rep_id, False)
    return _write(idempotency_key, session, {"rep": rep_id, "out": False}, act)


@router.post("/floor/sessions/{int:session_id}/reps/{int:rep_id}/move", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def move_rep(request: HttpRequest, session_id: int, rep_id: int, payload: RepPlace, idempotency_key: IdempotencyKey) -> FloorOut:
    """Give a repetition to another set of the same lift."""
    session = _session(session_id)
    act = partial(give_rep.run, who_of(request), session, rep_id, payload.line_id, payload.kind, payload.number)
    return _write(idempotency_key, session, {"rep": rep_id, **payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/readings/{int:reading_id}/out", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def take_reading_out(request: HttpRequest, session_id: int, reading_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    """Leave a jump, a split or a device's velocity out of everything; it can be put back."""
    session = _session(session_id)
    act = partial(take_out_reading.run, who_of(request), session, reading_id, True)
    return _write(idempotency_key, session, {"reading": reading_id, "out": True}, act)


@router.post("/floor/sessions/{int:session_id}/readings/{int:reading_id}/back", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def put_reading_back(request: HttpRequest, session_id: int, reading_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    act = partial(take_out_reading.run, who_of(request), session, reading_id, False)
    return _write(idempotency_key, session, {"reading": reading_id, "out": False}, act)


@router.post("/floor/sessions/{int:session_id}/readings/{int:reading_id}/move", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def move_a_reading(
    request: HttpRequest, session_id: int, reading_id: int, payload: RepPlace, idempotency_key: IdempotencyKey
) -> FloorOut:
    """Give a jump, a split or a device's velocity to another set of the same exercise."""
    session = _session(session_id)
    act = partial(move_reading.run, who_of(request), session, reading_id, payload.line_id, payload.kind, payload.number)
    return _write(idempotency_key, session, {"reading": reading_id, **payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/undo", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def undo(request: HttpRequest, session_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    return _write(idempotency_key, session, {"undo": True}, lambda: undo_set.run(who_of(request), session))


@router.post("/floor/sessions/{int:session_id}/cancel", response={200: CancelledOut, **ERRORS})
def cancel(request: HttpRequest, session_id: int, payload: Cancel, idempotency_key: IdempotencyKey) -> CancelledOut:
    """A session begun by mistake is taken back, as long as it holds no set."""

    def act() -> dict[str, Any]:
        session = _session(session_id)
        cancel_session.run(who_of(request), session, payload.reason)
        place = {"athlete_id": session.athlete_id, "day": session.day.isoformat(), "key": session.key}
        return {**place, "is_planned": has_sheet(session.athlete, session.day, session.key)}

    return CancelledOut(**once(idempotency_key, {"session": session_id, **payload.dict()}, act))


@router.post("/floor/sessions/{int:session_id}/finish", response={200: FloorOut, **ERRORS})
def finish(request: HttpRequest, session_id: int, payload: Finish, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    who = who_of(request)
    return _write(
        idempotency_key, session, payload.dict(), lambda: finish_session.run(who, session, payload.srpe, payload.minutes)
    )


@router.post("/floor/sessions/{int:session_id}/streams", response={200: StreamOut, **ERRORS})
def open_stream(request: HttpRequest, session_id: int, payload: OpenStream) -> StreamOut:
    """Open a stream for one set; a bridge sends its samples to the path that comes back."""
    stream = streams.open_stream(_session(session_id), payload.line_id, payload.kind, payload.number, payload.rate_hz, False)
    return StreamOut(token=stream.token, path=f"/api/streams/{stream.token}")


@router.post("/floor/sessions/{int:session_id}/simulate", response={200: StreamOut, **ERRORS})
def simulate_set(request: HttpRequest, session_id: int, payload: OpenStream) -> StreamOut:
    """Let the simulated sensor lift one set. It runs as a process of its own and speaks the open format."""
    if not settings.LOCAL_DEMO:
        raise CoachError("The simulated sensor belongs to the demo.", where="sensor", accepted="Pair a sensor with the rack.")
    session = _session(session_id)
    stream: SensorStream = streams.open_stream(session, payload.line_id, payload.kind, payload.number, simulate.RATE_HZ, True)
    lines = {line.line.pk: line for line in floor_lines(read_session(session_id))}
    item = next(s for s in lines[payload.line_id].sets if s.kind == payload.kind and s.number == payload.number)
    stream.session = session
    simulate.run(stream, item.planned_load_kg or 20.0, item.planned.reps or 3, f"http://{request.get_host()}")
    return StreamOut(token=stream.token, path=f"/api/streams/{stream.token}")


@router.get("/floor/sessions/{int:session_id}/review", response={200: ReviewOut, **ERRORS})
def read_review(request: HttpRequest, session_id: int) -> ReviewOut:
    return review_out(session_id)
