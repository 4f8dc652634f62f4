from __future__ import annotations

from functools import partial
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router
from ninja.security import django_auth

from jarvok.app.api.athletes.rises import rise_out
from jarvok.app.api.floor.shapes import (
    AdviceOut,
    AnswerAdvice,
    AnswerPain,
    CancelledOut,
    CorrectSet,
    CurrentOut,
    DoneOut,
    ExerciseChoiceOut,
    Finish,
    FloorLineOut,
    FloorOut,
    FloorSetOut,
    JumpOut,
    KeptResultOut,
    LevelOut,
    LiftChangeOut,
    LogSet,
    NextLoadOut,
    OpenStream,
    PainAreaOut,
    PainOut,
    RepOut,
    RepPlace,
    ReviewLineOut,
    ReviewOut,
    ReviewPainOut,
    SetFigureOut,
    SetSummaryOut,
    StandIn,
    StartSession,
    StopLine,
    StreamOut,
    TakenOutRep,
)
from jarvok.app.api.floor.steps import steps_out
from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.training.flags import minutes_there
from jarvok.app.api.who import who_of
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import FloorEvent, PainReport, SensorStream, SessionLine, TrainingSession
from jarvok.app.floor import simulate, streams
from jarvok.app.floor.actions import answer_advice as answer
from jarvok.app.floor.actions import answer_pain, cancel_session, finish_session, stand_in, stop_line, take_out_rep, undo_set
from jarvok.app.floor.actions import correct_set as correct
from jarvok.app.floor.actions import log_set as log
from jarvok.app.floor.actions import move_rep as give_rep
from jarvok.app.floor.actions import start_session as start
from jarvok.app.floor.done_sets import Done
from jarvok.app.floor.lines import (
    FloorLine,
    FloorSet,
    counting_mps,
    floor_lines,
    next_set,
    read_session,
    rest_now_s,
    set_reps_payload,
    set_summary,
    steps_of,
)
from jarvok.app.floor.pains import as_told, standing
from jarvok.app.floor.review import review
from jarvok.app.once import once
from jarvok.app.room.links import rack_auth
from jarvok.app.shapes import WorkingOut, shown_mass, working_out
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.jumps import drop_off
from jarvok.core.floor.measures import MEASURES
from jarvok.core.floor.measures import words_of as words_of_measures
from jarvok.core.floor.pain import ILL, carried_words, falls_away, loads, sentence
from jarvok.core.floor.readiness import AREAS
from jarvok.core.floor.told_steps import block_words
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import from_raw, words_of
from jarvok.core.season.model import PHASE_NAMES, PhaseKey
from jarvok.core.session.roles import BlockRole
from jarvok.core.velocity.set_summary import SetSummary

router = Router(tags=["floor"])
RACK_TOO = [django_auth, rack_auth]  # also from a tablet with its rack's link


def _summary_out(found: SetSummary | None) -> SetSummaryOut | None:
    """A measured set in one look, its figures in words."""
    if found is None:
        return None
    spread = f" ± {found.spread_pct:.0f} %" if found.spread_pct is not None else ""
    time_spread = f" ± {found.time_to_peak_spread_s:.2f}" if found.time_to_peak_spread_s is not None else ""
    figures = [
        ("fastest, " + found.counts, f"{found.fastest_mps:.2f} m/s"),
        ("last", f"{found.last_mps:.2f} m/s"),
        ("loss", f"{found.loss_pct:.0f} %"),
        ("mean of the set", f"{found.mean_mps:.2f} m/s{spread if found.counts == 'mean' else ''}"),
        ("propulsive", f"{found.propulsive_mps:.2f} m/s"),
        ("highest peak", f"{found.peak_mps:.2f} m/s{spread if found.counts == 'peak' else ''}"),
        ("time to peak", f"{found.time_to_peak_s:.2f}{time_spread} s"),
    ]
    return SetSummaryOut(
        zone=found.zone, evenness=found.words, definition=found.definition, caution=found.caution,
        figures=[SetFigureOut(name=name, value=value) for name, value in figures],
    )  # fmt: skip


def _set_out(item: FloorSet, lift: Exercise) -> FloorSetOut:
    p, record = item.planned, item.record
    word = drop_off([j["height_cm"] for j in item.jumps], rules=rules_in_force()) if item.jumps else None
    return FloorSetOut(
        kind="ramp" if item.kind == "ramp" else "work",
        number=item.number,
        load_kg=item.planned_load_kg,
        per_side_kg=item.per_side_kg,
        **shown_mass(item.planned_load_kg, item.per_side_kg, item.unit),
        reps=p.reps,
        or_more=p.or_more,
        seconds=p.seconds,
        metres=p.metres,
        drops_kg=list(p.drops_kg),
        per_side=p.per_side,
        target_low_mps=p.target_mps[0] if p.target_mps else None,
        target_high_mps=p.target_mps[1] if p.target_mps else None,
        target_rir=p.target_rir,
        stop_loss_pct=p.stop_loss_pct,
        over=item.over,
        done=DoneOut(
            id=record.pk,
            load_kg=record.load_kg,
            reps=record.reps,
            rir=record.rir,
            trouble=record.trouble,
            note=record.note,
            left_reps=record.left_reps,
            right_reps=record.right_reps,
            results=[
                KeptResultOut(key=k, name=MEASURES[k].asked, unit=MEASURES[k].unit, value=v)
                for k, v in record.measures.items()
                if k in MEASURES
            ],
            result=words_of_measures(record.measures),
            form=record.form,
        )
        if record
        else None,
        measured=[RepOut(**r) for r in set_reps_payload(item)],
        taken_out=[TakenOutRep(id=r.pk, counts_mps=round(counting_mps(r, lift.velocity == "peak"), 3)) for r in item.taken_out],
        summary=_summary_out(set_summary(item, lift)),
        jumps=[JumpOut(height_cm=j["height_cm"], contact_s=j.get("contact_s"), rsi=j.get("rsi")) for j in item.jumps],
        jump_word=word.sentence if word else "",
        jumps_off=word is not None and word.act,
        working=working_out(p.working) if p.working else None,
    )


def _levels(line: SessionLine) -> list[LevelOut]:
    found = [LevelOut(key="easier", words=line.easier), LevelOut(key="harder", words=line.harder)]
    return [level for level in found if level.words]


def _line_out(item: FloorLine, instead: tuple[str, ...]) -> FloorLineOut:
    lift, advice = exercise(item.line.exercise_id), item.advice
    return FloorLineOut(
        id=item.line.pk,
        slot=item.line.slot,
        block=item.line.block,
        exercise_id=lift.id,
        exercise=lift.name,
        cue=lift.cue,
        text=item.line.text,
        note=", ".join(w for w in (item.line.note, words_of(from_raw(item.line.conditions))) if w),
        forms=_levels(item.line),
        reason=item.line.reason,
        rest_s=item.line.rest_s,
        measured_by=("m/s peak" if lift.velocity == "peak" else "m/s mean") if lift.motion else "",
        is_loaded=lift.is_loaded,
        prepares=item.line.role == BlockRole.PREPARE,
        can_simulate=settings.LOCAL_DEMO and lift.simulated_pattern is not None,
        sets=[_set_out(s, lift) for s in item.sets],
        advice=AdviceOut(
            id=advice.pk,
            after_number=advice.after_number,
            move=advice.move,
            load_kg=advice.load_kg,
            sentence=advice.sentence,
            working=WorkingOut(**advice.working),
            outcome=advice.outcome,
            chosen_load_kg=advice.chosen_load_kg,
        )
        if advice
        else None,
        ended=item.ended,
        ended_by=f"pain, {item.pain}" if item.pain else "",
        instead=[ExerciseChoiceOut(exercise_id=e, name=exercise(e).name) for e in instead],
        change=item.line.change,
        left_out=item.line.left_out,
        sets_as_written=len(item.line.as_written) or len(item.line.planned),
    )


def _as_shown(lines: list[FloorLine]) -> list[FloorLine]:
    """The lines in their order; what stands in for one follows it."""
    places = {x.line.pk: at for at, x in enumerate(lines)}
    return sorted(lines, key=lambda x: (places.get(x.line.stands_in_for_id or x.line.pk, 0), x.line.order))


def _has_left(item: FloorLine) -> bool:
    return any(s.kind == "work" and s.record is None and not s.over for s in item.sets)


def _areas_out(lines: list[FloorLine]) -> list[PainAreaOut]:
    """The places that may hurt, each with what would fall away."""
    left = [(x.line.pk, exercise(x.line.exercise_id)) for x in lines if not x.ended and _has_left(x)]
    return [
        PainAreaOut(key=k, name=name, line_ids=[pk for pk, lift in left if loads(k, lift)], may_carry_on=k != ILL)
        for k, (name, _) in AREAS.items()
    ]


def _pains_out(session: TrainingSession, lines: list[FloorLine]) -> list[PainOut]:
    lifts = [exercise(x.line.exercise_id) for x in lines]
    places = [x.line.pk for x in lines]
    found: list[PainOut] = []
    for pain in standing(session):
        at = places.index(pain.record.line_id)
        away = [] if pain.carried_on else [i for i in falls_away(pain.area, at, lifts) if _has_left(lines[i])]
        names = [f"{lines[i].line.slot} {lifts[i].name}" for i in away if lines[i].line.stands_in_for_id is None or i == at]
        said = carried_words(pain.area, lifts[at].name, pain.carried_on) if pain.carried_on else sentence(pain.area, names)
        found.append(PainOut(id=pain.pk, line_id=pain.record.line_id, sentence=said, carried_on=pain.carried_on))
    return found


def _current_out(coming: tuple[FloorLine, FloorSet]) -> CurrentOut:
    line, item = coming
    return CurrentOut(line_id=line.line.pk, kind="ramp" if item.kind == "ramp" else "work", number=item.number)


def floor_out(session_id: int) -> FloorOut:
    last = FloorEvent.objects.filter(session_id=session_id).order_by("-id").values_list("id", flat=True).first()
    return floor_view(read_session(session_id), last or 0)


def floor_view(session: TrainingSession, last_event_id: int) -> FloorOut:
    """A session as the floor shows it, from what is read already."""
    lines = floor_lines(session)
    steps = steps_of(session, lines)
    coming = next_set(session, lines)
    done = [s.record.done_at for line in lines for s in line.sets if s.record]
    return FloorOut(
        id=session.pk,
        athlete_id=session.athlete_id,
        athlete_name=session.athlete.name,
        day=session.day,
        key=session.key,
        plan=session.plan,
        plan_reason=session.plan_reason,
        theme=session.theme,
        phase_name=PHASE_NAMES[PhaseKey(session.phase)] if session.phase else "",
        days_to_go=session.days_to_go,
        started_at=session.started_at.isoformat(),
        finished=session.finished_at is not None,
        may_cancel=session.finished_at is None and not any(line.line.sets.all() for line in lines),
        lines=[_line_out(line, stand_in.choices(session, lines, line)) for line in _as_shown(lines)],
        steps=steps_out(session, steps, lines),
        block_words=block_words(session.told),
        current=CurrentOut(
            line_id=coming[0].line.pk, kind="ramp" if coming[1].kind == "ramp" else "work", number=coming[1].number
        )
        if coming and session.finished_at is None
        else None,
        sets_left=sum(1 for x in lines if not x.ended for s in x.sets if s.kind == "work" and s.record is None and not s.over),
        last_done_at=max(done).isoformat() if done else None,
        rest_s=rest_now_s(steps, lines, coming),
        minutes_there=minutes_there(session.athlete),
        pain_areas=_areas_out(lines),
        pains=_pains_out(session, lines),
        last_event_id=last_event_id,
    )


def _session(session_id: int) -> TrainingSession:
    return get_object_or_404(TrainingSession.objects.select_related("athlete"), pk=session_id)


def _write(key: str, session_id: int, request: Any, act: Any) -> FloorOut:
    def do() -> dict[str, Any]:
        act()
        return {"session_id": session_id}

    once(key, {"session": session_id, **request}, do)
    return floor_out(session_id)


@router.post("/floor/sessions", response={200: FloorOut, **ERRORS})
def start_session(request: HttpRequest, payload: StartSession, idempotency_key: IdempotencyKey) -> FloorOut:
    athlete = get_object_or_404(Athlete.objects.select_related("squad", "kit"), pk=payload.athlete_id)

    def act() -> dict[str, Any]:
        return {"session_id": start.run(who_of(request), athlete, payload.day, payload.key, as_today=payload.as_today).pk}

    answer = once(idempotency_key, payload.dict(), act)
    return floor_out(answer["session_id"])


@router.get("/floor/sessions/{int:session_id}", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def read_floor(request: HttpRequest, session_id: int) -> FloorOut:
    return floor_out(session_id)


@router.post("/floor/sessions/{int:session_id}/sets", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def log_set(request: HttpRequest, session_id: int, payload: LogSet, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    return _write(
        idempotency_key,
        session_id,
        payload.dict(),
        lambda: log.run(who_of(request), session, payload.line_id, payload.kind, payload.number, _done_of(payload)),
    )


def _done_of(payload: LogSet) -> Done:
    values = payload.dict(exclude={"line_id", "kind", "number", "seen_id"})
    return Done(**{**values, "parts": tuple(payload.parts)})


@router.post("/floor/sessions/{int:session_id}/sets/correct", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def correct_set(request: HttpRequest, session_id: int, payload: CorrectSet, idempotency_key: IdempotencyKey) -> FloorOut:
    """Another word on a logged set; a newer one by somebody else is not overwritten."""
    session = _session(session_id)

    def act() -> None:
        correct.run(who_of(request), session, payload.line_id, payload.kind, payload.number, payload.seen_id, _done_of(payload))

    return _write(idempotency_key, session_id, payload.dict(), act)


@router.post("/floor/sessions/{int:session_id}/advice/{int:advice_id}", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def answer_advice(
    request: HttpRequest, session_id: int, advice_id: int, payload: AnswerAdvice, idempotency_key: IdempotencyKey
) -> FloorOut:
    session = _session(session_id)
    body = {"advice": advice_id, **payload.dict()}
    who = who_of(request)
    return _write(idempotency_key, session_id, body, lambda: answer.run(who, session, advice_id, payload.accept, payload.load_kg))


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/instead", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def put_in_its_place(
    request: HttpRequest, session_id: int, line_id: int, payload: StandIn, idempotency_key: IdempotencyKey
) -> FloorOut:
    """Another exercise in the place of a line that pain has ended."""
    session = _session(session_id)
    act = partial(stand_in.run, who_of(request), session, line_id, payload.exercise_id)
    return _write(idempotency_key, session_id, {"line": line_id, **payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/lines/{int:line_id}/stop", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def stop_a_line(
    request: HttpRequest, session_id: int, line_id: int, payload: StopLine, idempotency_key: IdempotencyKey
) -> FloorOut:
    """A lift is ended before its last set."""
    session = _session(session_id)
    act = partial(stop_line.run, who_of(request), session, line_id, payload.reason)
    return _write(idempotency_key, session_id, {"line": line_id, **payload.dict()}, act)


@router.post("/floor/pains/{int:pain_id}/answer", response={200: ReviewOut, **ERRORS})
def answer_a_pain(request: HttpRequest, pain_id: int, payload: AnswerPain, idempotency_key: IdempotencyKey) -> ReviewOut:
    """A person's word on a pain: as before, or restricted."""
    report = get_object_or_404(PainReport.objects.select_related("session__athlete__squad", "record__line"), pk=pain_id)

    def act() -> dict[str, Any]:
        answer_pain.run(who_of(request), report, payload.answer)
        return {"pain_id": pain_id}

    once(idempotency_key, {"pain": pain_id, **payload.dict()}, act)
    return read_review(request, report.session_id)


@router.post("/floor/sessions/{int:session_id}/reps/{int:rep_id}/out", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def take_rep_out(request: HttpRequest, session_id: int, rep_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    """Leave a repetition out of everything; it can be put back."""
    session = _session(session_id)
    act = partial(take_out_rep.run, who_of(request), session, rep_id, True)
    return _write(idempotency_key, session_id, {"rep": rep_id, "out": True}, act)


@router.post("/floor/sessions/{int:session_id}/reps/{int:rep_id}/back", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def put_rep_back(request: HttpRequest, session_id: int, rep_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    act = partial(take_out_rep.run, who_of(request), session, rep_id, False)
    return _write(idempotency_key, session_id, {"rep": rep_id, "out": False}, act)


@router.post("/floor/sessions/{int:session_id}/reps/{int:rep_id}/move", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def move_rep(request: HttpRequest, session_id: int, rep_id: int, payload: RepPlace, idempotency_key: IdempotencyKey) -> FloorOut:
    """Give a repetition to another set of the same lift."""
    session = _session(session_id)
    act = partial(give_rep.run, who_of(request), session, rep_id, payload.line_id, payload.kind, payload.number)
    return _write(idempotency_key, session_id, {"rep": rep_id, **payload.dict()}, act)


@router.post("/floor/sessions/{int:session_id}/undo", response={200: FloorOut, **ERRORS}, auth=RACK_TOO)
def undo(request: HttpRequest, session_id: int, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    return _write(idempotency_key, session_id, {"undo": True}, lambda: undo_set.run(who_of(request), session))


@router.post("/floor/sessions/{int:session_id}/cancel", response={200: CancelledOut, **ERRORS})
def cancel(request: HttpRequest, session_id: int, idempotency_key: IdempotencyKey) -> CancelledOut:
    """A session begun by mistake is taken back, as long as it holds no set."""

    def act() -> dict[str, Any]:
        session = _session(session_id)
        cancel_session.run(who_of(request), session)
        return {"athlete_id": session.athlete_id, "day": session.day.isoformat(), "key": session.key}

    return CancelledOut(**once(idempotency_key, {"session": session_id, "cancel": True}, act))


@router.post("/floor/sessions/{int:session_id}/finish", response={200: FloorOut, **ERRORS})
def finish(request: HttpRequest, session_id: int, payload: Finish, idempotency_key: IdempotencyKey) -> FloorOut:
    session = _session(session_id)
    who = who_of(request)
    return _write(
        idempotency_key, session_id, payload.dict(), lambda: finish_session.run(who, session, payload.srpe, payload.minutes)
    )


@router.post("/floor/sessions/{int:session_id}/streams", response={200: StreamOut, **ERRORS})
def open_stream(request: HttpRequest, session_id: int, payload: OpenStream) -> StreamOut:
    """Open a stream for one set; a bridge sends its samples to the path that comes back."""
    stream = streams.open_stream(_session(session_id), payload.line_id, payload.kind, payload.number, payload.rate_hz, False)
    return StreamOut(token=stream.token, path=f"/api/streams/{stream.token}")


@router.post("/floor/sessions/{int:session_id}/simulate", response={200: StreamOut, **ERRORS}, auth=RACK_TOO)
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
    session = read_session(session_id)
    found = review(session)
    return ReviewOut(
        session_id=session.pk,
        athlete_id=session.athlete_id,
        athlete_name=session.athlete.name,
        day=session.day,
        theme=session.theme,
        days_to_go=session.days_to_go,
        srpe=session.srpe,
        minutes=session.minutes,
        load_au=round(session.srpe * session.minutes) if session.srpe is not None and session.minutes else None,
        lines=[
            ReviewLineOut(
                slot=line.line.slot,
                exercise=exercise(line.line.exercise_id).name,
                text=line.line.text,
                planned_sets=r.planned_sets,
                done_sets=r.done_sets,
                planned_volume_kg=r.planned_volume_kg,
                done_volume_kg=r.done_volume_kg,
                words=r.words,
                sets=[_done_words(s) for s in line.sets if s.kind == "work" and s.record],
            )
            for line, r in found.lines
        ],
        lifts=[
            LiftChangeOut(
                exercise_id=c.exercise_id,
                exercise=exercise(c.exercise_id).name,
                before_kg=round(c.before.value_kg, 1) if c.before else None,
                after_kg=round(c.after.value_kg, 1) if c.after else None,
                error_kg=round(c.after.error_kg, 1) if c.after else None,
                working=working_out(c.after.working) if c.after else None,
                velocity_kg=round(c.by_velocity.load_kg, 1) if c.by_velocity and c.by_velocity.load_kg else None,
                velocity_low_kg=round(c.by_velocity.interval_kg[0], 1) if c.by_velocity and c.by_velocity.interval_kg else None,
                velocity_high_kg=round(c.by_velocity.interval_kg[1], 1) if c.by_velocity and c.by_velocity.interval_kg else None,
                velocity_missing=list(c.by_velocity.missing) if c.by_velocity else ["no velocities were measured"],
                proposal=rise_out(found.book, session.athlete_id, c.exercise_id),
            )
            for c in found.lifts
        ],
        next_loads=[
            NextLoadOut(
                day=n.day,
                key=n.key,
                slot=n.slot,
                exercise=exercise(n.exercise_id).name,
                text=n.text,
                before_kg=n.before.load_kg if n.before else None,
                after_kg=n.after.load_kg,
                before_exact_kg=round(n.before.wanted_kg, 1) if n.before and n.before.wanted_kg else None,
                after_exact_kg=round(n.after.wanted_kg, 1) if n.after.wanted_kg else None,
                waits=found.waits(n.exercise_id),
                working=working_out(n.after.working) if n.after.working else None,
            )
            for n in found.next_loads
        ],
        pains=[
            ReviewPainOut(
                id=p.pk, words=as_told(p).words, carried_on=p.carried_on, answer=p.answer, may_restrict=bool(AREAS[p.area][1])
            )
            for p in standing(session)
        ],
        next_day=found.next_day,
        next_key=found.next_key,
    )


def _done_words(item: FloorSet) -> str:
    record = item.record
    assert record is not None
    load = f"{record.load_kg:g} × " if record.load_kg else ""
    words = words_of_measures(record.measures) or f"{load}{record.reps}"
    if record.rir is not None:
        words += f", {record.rir:g} left"
    if item.reps:
        words += f", best {max(r.mean_mps for r in item.reps):.2f}"
    return words
