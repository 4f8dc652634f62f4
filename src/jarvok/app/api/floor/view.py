"""A session as the floor shows it: its lines, sets and steps, what pain has ended, what comes next."""

from __future__ import annotations

from typing import Any

from django.conf import settings

from jarvok.app.api.floor.seen import GateSplitOut, JumpOut, seen_out
from jarvok.app.api.floor.shapes import (
    AdviceOut,
    CurrentOut,
    DoneOut,
    ExerciseChoiceOut,
    FloorLineOut,
    FloorOut,
    FloorSetOut,
    GoesOnOut,
    JustDoneOut,
    KeptResultOut,
    LeftOut,
    LevelOut,
    PainAreaOut,
    PainOut,
    RepOut,
    SetFigureOut,
    SetSummaryOut,
    StopReasonOut,
    TakenOutRep,
)
from jarvok.app.api.floor.steps import Results, steps_out
from jarvok.app.api.training.flags import minutes_there
from jarvok.app.athletes.findings import Learned, learned_by
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.floor.models import FloorEvent, SessionLine, SetRecord, TrainingSession
from jarvok.app.floor.at_hand import AtHand
from jarvok.app.floor.bests import Earlier, beaten_before
from jarvok.app.floor.just_done import JustDone, just_done
from jarvok.app.floor.lines import (
    FloorLine,
    FloorSet,
    counting_mps,
    floor_lines,
    next_of,
    read_session,
    rest_now_s,
    run_s,
    set_reps_payload,
    set_summary,
    steps_of,
)
from jarvok.app.floor.pains import standing
from jarvok.app.floor.replacing import choices
from jarvok.app.floor.results import last_results
from jarvok.app.floor.seen import gate_words
from jarvok.app.floor.what_is_left import minutes_gone, still_there
from jarvok.app.shapes import WorkingOut, shown_mass, working_out
from jarvok.core.exercises import Exercise
from jarvok.core.floor.jumps import drop_off
from jarvok.core.floor.measures import MEASURES, measured_words
from jarvok.core.floor.measures import words_of as words_of_measures
from jarvok.core.floor.pain import ILL, carried_words, falls_away, loads, sentence
from jarvok.core.floor.readiness import AREAS
from jarvok.core.floor.runs import run_off
from jarvok.core.floor.stop_reasons import StopReason
from jarvok.core.floor.told_steps import block_words
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import from_raw, words_of
from jarvok.core.quantities.mass import format_mass, said_mass
from jarvok.core.rules import Rules
from jarvok.core.season.model import PHASE_NAMES, PhaseKey
from jarvok.core.session.roles import OPTIONAL_WORDS, BlockRole, optional_block
from jarvok.core.velocity.set_summary import SetSummary

Said = dict[int, tuple[tuple[FloorLine, tuple[str, ...], Learned], FloorLineOut]]  # of each line by its number


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


def _done_out(item: FloorSet, record: SetRecord) -> DoneOut:
    return DoneOut(
        id=record.pk,
        load_kg=record.load_kg,
        load_words=format_mass(record.load_kg, item.unit) if record.load_kg is not None else "",
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
        measured=measured_words(record.measures),
        has_gap=record.has_gap,
        jumps=[_jump_out(j) for j in record.jumps],
        form=record.form,
    )


def _set_out(item: FloorSet, lift: Exercise, runs: list[float], rules: Rules) -> FloorSetOut:
    p, record = item.planned, item.record
    time_s = run_s(item) if lift.kind == "run" else None
    run = run_off(runs, rules) if time_s is not None and runs else None
    word = drop_off([j["height_cm"] for j in item.jumps], rules=rules) if item.jumps else None
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
        skipped=item.is_skipped,
        added=item.is_added,
        done=_done_out(item, record) if record else None,
        measured=[RepOut(**r) for r in set_reps_payload(item)],
        taken_out=[TakenOutRep(id=r.pk, counts_mps=round(counting_mps(r, lift.velocity == "peak"), 3)) for r in item.taken_out],
        summary=_summary_out(set_summary(item, lift)),
        jumps=[_jump_out(j) for j in item.jumps],
        jump_word=word.sentence if word else "",
        jumps_off=word is not None and word.act,
        splits=[GateSplitOut(gate=s["gate"], at=gate_words(s), seconds=s["seconds"]) for s in item.splits],
        device_mps=list(item.device_mps),
        seen=seen_out(item.readings),
        seen_out=seen_out(item.readings_out),
        run_word=run.sentence if run else "",
        run_off=run is not None and run.act,
        working=working_out(p.working) if p.working else None,
    )


def just_done_out(found: JustDone | None) -> JustDoneOut | None:
    """The set that was done last, or nothing before there is one."""
    return JustDoneOut(what=found.what, measured=list(found.measured), best=found.best) if found is not None else None


def _mass(load_kg: float | None, unit: str) -> str:
    return said_mass(load_kg, unit) if load_kg is not None else ""


def _jump_out(jump: dict[str, Any]) -> JumpOut:
    return JumpOut(height_cm=jump["height_cm"], contact_s=jump.get("contact_s"), rsi=jump.get("rsi"))


def _runs_until(item: FloorLine) -> list[list[float]]:
    """The times of a line's runs up to each of its sets, in s."""
    found: list[list[float]] = []
    for s in item.sets:
        now = run_s(s) if s.kind == "work" else None
        found.append([*(found[-1] if found else []), *([now] if now is not None else [])])
    return found


def _levels(line: SessionLine) -> list[LevelOut]:
    found = [LevelOut(key="easier", words=line.easier), LevelOut(key="harder", words=line.harder)]
    return [level for level in found if level.words]


def _block_words(session: TrainingSession, lines: list[FloorLine]) -> dict[str, str]:
    """How each block runs; where the optional half begins, that too."""
    words = block_words(session.told)
    block = optional_block([(x.line.role, x.line.block) for x in lines])
    if block is not None:
        words[block] = " · ".join(w for w in (words.get(block, ""), OPTIONAL_WORDS) if w)
    return words


def _void_words(item: FloorLine) -> str:
    return "the pain was taken back" if item.line.stands_in_for_id is not None else "taken back"


def _line_out(item: FloorLine, instead: tuple[str, ...], rules: Rules, learned: Learned) -> FloorLineOut:
    lift, advice = exercise(item.line.exercise_id), item.advice
    unit = item.sets[0].unit if item.sets else "kg"
    return FloorLineOut(
        id=item.line.pk,
        slot=item.line.slot,
        block=item.line.block,
        exercise_id=lift.id,
        exercise=lift.name,
        cue=lift.cue,
        text=item.line.text,
        note=", ".join(w for w in (item.line.note, words_of(from_raw(item.line.conditions))) if w),
        learned=[
            *(x.words for x in learned.of(lift.id)),
            *(learned.always if lift.is_loaded and BlockRole(item.line.role).counts else ()),
        ],
        forms=_levels(item.line),
        reason=item.line.reason,
        rest_s=item.line.rest_s,
        measured_by=("m/s peak" if lift.velocity == "peak" else "m/s mean") if lift.motion else "",
        is_loaded=lift.is_loaded,
        prepares=item.line.role == BlockRole.PREPARE,
        can_simulate=settings.LOCAL_DEMO and lift.simulated_pattern is not None,
        sets=[_set_out(s, lift, runs, rules) for s, runs in zip(item.sets, _runs_until(item), strict=True)],
        advice=AdviceOut(
            id=advice.pk,
            after_number=advice.after_number,
            move=advice.move,
            load_kg=advice.load_kg,
            load_words=_mass(advice.load_kg, unit),
            sentence=advice.sentence,
            working=WorkingOut(**advice.working),
            outcome=advice.outcome,
            chosen_load_kg=advice.chosen_load_kg,
            chosen_words=_mass(advice.chosen_load_kg, unit),
            unit=unit,
        )
        if advice
        else None,
        ended=item.ended,
        ended_by=f"pain, {item.pain}" if item.pain else _void_words(item) if item.is_void else "",
        instead=[ExerciseChoiceOut(exercise_id=e, name=exercise(e).name) for e in instead],
        change=item.line.change,
        left_out=item.line.left_out,
        sets_as_written=len(item.line.as_written) or len(item.line.planned),
    )


def _said_of(item: FloorLine, instead: tuple[str, ...], rules: Rules, learned: Learned, said: Said) -> FloorLineOut:
    """What the page is told of a line; of one that stands as it stood, what was said of it before."""
    said_of = (item, instead, learned)
    known = said.get(item.line.pk)
    if known is None or any(now is not then for now, then in zip(said_of, known[0], strict=True)):
        known = said[item.line.pk] = (said_of, _line_out(item, instead, rules, learned))
    return known[1]


def _as_shown(lines: list[FloorLine]) -> list[FloorLine]:
    """The lines in their order; what stands in for one follows it."""
    places = {x.line.pk: at for at, x in enumerate(lines)}
    return sorted(lines, key=lambda x: (places.get(x.line.stands_in_for_id or x.line.pk, 0), x.line.order))


def _is_gone(item: FloorLine) -> bool:
    """Whether a line was added by mistake: nothing of it is shown. What stood in for another is, with what became of it."""
    return item.is_void and item.line.stands_in_for_id is None


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
    session = read_session(session_id)
    return floor_view(session, last or 0, earlier=beaten_before(session))


def floor_at_hand(held: AtHand) -> FloorOut:
    """A session that is at hand as the floor shows it: nothing more is read."""
    results: Results = lambda _, lifts: held.results(lifts)  # noqa: E731
    return floor_view(
        held.session, held.placed.counters.event, held.book.rules, results, held.learned, held.beaten_before,
        lines=held.lines(), said=held.said,
    )  # fmt: skip


def floor_view(
    session: TrainingSession,
    last_event_id: int,
    rules: Rules | None = None,
    results: Results = last_results,
    learned: Learned | None = None,
    earlier: Earlier | None = None,
    *,
    lines: list[FloorLine] | None = None,
    said: Said | None = None,
) -> FloorOut:
    """A session as the floor shows it, from what is read already."""
    lines = floor_lines(session) if lines is None else lines
    steps = steps_of(session, lines)
    coming = next_of(steps, lines)
    there = minutes_there(session.athlete)
    rules = rules or rules_in_force()
    learned = learned or learned_by([session.athlete])[session.athlete_id]
    still = still_there(session, lines, steps, coming if session.finished_at is None else None, there, rules)
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
        lines=[
            _said_of(line, choices(session, lines, line), rules, learned, {} if said is None else said)
            for line in _as_shown(lines)
            if not _is_gone(line)
        ],
        steps=steps_out(session, steps, lines, results),
        block_words=_block_words(session, lines),
        current=_current_out(coming) if coming and session.finished_at is None else None,
        sets_left=still.left.sets,
        left=LeftOut(sets=still.left.sets, minutes=still.left.minutes, may_cut=list(still.left.may_cut)),
        light_task=still.light_task,
        asks_to_stop=still.asks_to_stop,
        goes_on=GoesOnOut(line_id=still.goes_on.line_id, words=still.goes_on.words)
        if still.goes_on and session.finished_at is None
        else None,
        just_done=just_done_out(just_done(lines, earlier)),
        last_done_at=max(done).isoformat() if done else None,
        rest_s=rest_now_s(steps, lines, coming),
        minutes_there=there,
        minutes_gone=minutes_gone(session),
        stop_reasons=[StopReasonOut(key=r, name=r.words.capitalize()) for r in StopReason],
        pain_areas=_areas_out(lines),
        pains=_pains_out(session, lines),
        last_event_id=last_event_id,
    )
