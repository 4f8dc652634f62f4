"""What the application says after a set: the advice, the last warm-up's word, the day's load."""

from __future__ import annotations

from dataclasses import replace

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.floor.models import AdviceRecord, SessionLine, SetKind, TrainingSession
from jarvok.app.facts.put_together import StoreTogether
from jarvok.app.floor.at_hand import AtHand, put
from jarvok.app.floor.earlier_sets import last_typed_warm_ups, last_warm_ups, pairs_of
from jarvok.app.floor.lines import FloorLine, FloorSet, counted_mps, counting_mps, floor_line, run_s
from jarvok.app.shapes import working_out
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.advice import DoneSet, Move, Trouble
from jarvok.core.floor.jumps import assistance, drop_off
from jarvok.core.floor.runs import run_off
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.what_next import what_next
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.marks.conditions import from_raw
from jarvok.core.quantities.mass import said_mass
from jarvok.core.session.roles import BlockRole
from jarvok.core.velocity.effort_table import Settled, effort_table, settle
from jarvok.core.velocity.last_warm_up import UsualWarmUp, last_warm_up
from jarvok.core.velocity.profile import general_slope_mps_per_kg
from jarvok.core.working import Working

_ADVICE = StoreTogether(AdviceRecord)


def _say(
    line: SessionLine, after_number: int, move: str, load_kg: float | None, sentence: str, working: Working, outcome: str = ""
) -> None:
    """Store what is said after a set; it belongs to the line at hand."""
    said = _ADVICE.store(
        line=line, after_number=after_number, move=move, load_kg=load_kg, sentence=sentence,
        working=working_out(working).dict(), outcome=outcome,
    )  # fmt: skip
    put(line, "advice", said)


def after_warm_up(held: AtHand, line: SessionLine) -> None:
    """After the last warm-up: the load of a line written as a share of today, else what the warm-up says of the day."""
    if not _load_of_the_day(held.session, line):
        _word_of_the_warm_up(held, line)


def _load_of_the_day(session: TrainingSession, line: SessionLine) -> bool:
    """After the last warm-up a line written as a share of today is resolved again with what the warm-up said."""
    written = _prescription(line)
    if written is None or not any(g.load and g.load.needs_velocities_of_today for g in written.groups):
        return False
    book = LiftBook([session.athlete], session.day)  # with the velocities of this very session
    first = resolve(written, book.state(session.athlete_id, line.exercise_id, from_raw(line.conditions)))[0]
    if first.load_kg is None or first.working is None or first.method != "percent of today":
        return False
    move = "up" if first.load_kg > (ToldSet.from_raw(line.planned[0]).load_kg or 0) else "same"
    sentence = f"The warm-up says {said_mass(first.load_kg, first.unit)} for today."
    _say(line, 0, move, first.load_kg, sentence, first.working)
    return True


def _word_of_the_warm_up(held: AtHand, line: SessionLine) -> None:
    session, book = held.session, held.book
    current = floor_line(line)
    warm = [s for s in current.sets if s.kind == SetKind.RAMP]
    first = next((s for s in current.sets if s.kind == SetKind.WORK), None)
    record = warm[-1].record if warm else None
    if first is None or record is None or not record.load_kg or not first.planned_load_kg:
        return
    if not counted_mps(warm[-1], exercise(line.exercise_id).velocity == "peak"):
        return
    state, lift = book.state(session.athlete_id, line.exercise_id, from_raw(line.conditions)), exercise(line.exercise_id)
    slope = (
        state.profile.slope_mps_per_kg
        if state.profile is not None
        else general_slope_mps_per_kg(state.max_kg or 2 * record.load_kg)
    )
    word = last_warm_up(
        record.load_kg,
        _tries(warm[-1], lift.velocity == "peak"),
        first.planned_load_kg,
        slope,
        _usual(held, lift, is_measured=bool(warm[-1].reps)),
        state.implement,
        state.rules,
    )
    if word is None:
        return
    move = "same" if word.load_kg is None else "up" if word.load_kg > first.planned_load_kg else "down"
    _say(line, 0, move, word.load_kg, word.sentence, word.working, "passed" if word.is_usual else "")


def _usual(held: AtHand, lift: Exercise, *, is_measured: bool) -> list[UsualWarmUp]:
    """The usual last warm-ups of a lift, read once a session."""
    key = ("measured" if is_measured else "typed", lift.id)
    if key not in held.earlier:
        read = last_warm_ups if is_measured else last_typed_warm_ups
        held.earlier[key] = read(held.session, lift, held.book.rules)
    found: list[UsualWarmUp] = held.earlier[key]
    return found


def _tries(item: FloorSet, is_peak: bool) -> list[float]:
    """The fastest repetition of each sensor stream of the set: one, or two where a confirming one was asked for."""
    if not item.reps:
        return list(counted_mps(item, is_peak))
    best: dict[str, float] = {}
    for rep in item.reps:
        best[rep.stream] = max(best.get(rep.stream, 0.0), counting_mps(rep, is_peak))
    return list(best.values())


def _prescription(line: SessionLine) -> Prescription | None:
    try:
        return parse(line.text)
    except CoachError:
        return None  # lines told long ago may be written in words of their own


def after_work_set(held: AtHand, line: SessionLine, number: int) -> None:
    """After a work set: what next, from everything that is known of the sets so far."""
    session, book = held.session, held.book
    current = floor_line(line)
    lift = exercise(line.exercise_id)
    if lift.kind == "jump" and _word_of_the_jumps(held, current, number):
        return
    if lift.kind == "run" and _word_of_the_runs(current, number, book):
        return
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
                velocities_mps=counted_mps(item, lift.velocity == "peak"),
                trouble=Trouble(record.trouble) if record.trouble else None,
                planned_reps=record.planned_reps,
            )
        )
    left = sum(1 for s in current.sets if s.kind == SetKind.WORK and s.record is None)
    work = {s.number: s.planned for s in current.sets if s.kind == SetKind.WORK}
    coming = work[number + 1].resolved() if number + 1 in work else None
    state = book.state(session.athlete_id, line.exercise_id, from_raw(line.conditions))
    settled = _settled(held, current, done)
    if settled is not None and settled.rpe is not None and done[-1].rir is not None and settled.sentence and not settled.is_under:
        done[-1] = replace(done[-1], rir=max(0.0, 10.0 - settled.rpe))
    advice = what_next(work[number].resolved(), done, left, state, coming, _prescription(line))
    if line.role == BlockRole.PREPARE and advice.load_kg is None and advice.move is Move.SAME:
        return  # a warm-up without load goes on as written: nothing to ask
    sentence = f"{advice.sentence} {settled.sentence}".strip() if settled is not None else advice.sentence
    _say(line, number, advice.move, advice.load_kg, sentence, advice.working)


def _word_of_the_jumps(held: AtHand, current: FloorLine, number: int) -> bool:
    """Where a mat saw the jumps: a drop that ends them, or a band that helps too much or too little."""
    seen = {s.number: [j["height_cm"] for j in s.jumps] for s in current.sets if s.kind == SetKind.WORK and s.jumps}
    now = seen.get(number)
    if not now:
        return False
    best = max(h for heights in seen.values() for h in heights)
    best_now = max(now)
    word, move = drop_off([best_now], best, held.book.rules), "done"
    if not word.act:
        lift = exercise(current.line.exercise_id)
        free = [j["height_cm"] for s in _sets_of(held.session, lift.free_jump) for j in s.jumps] if lift.free_jump else []
        help_word = assistance(free, now, held.book.rules)
        if help_word is None or not help_word.act:
            return False
        word, move = help_word, "same"
    _say(current.line, number, move, None, word.sentence, word.working)
    return True


def _word_of_the_runs(current: FloorLine, number: int, book: LiftBook) -> bool:
    """Where runs were timed: one that is too slow ends them."""
    times = [(s.number, t) for s in current.sets if s.kind == SetKind.WORK and (t := run_s(s)) is not None]
    if not times or times[-1][0] != number:
        return False
    word = run_off([t for _, t in times], book.rules)
    if not word.act:
        return False
    _say(current.line, number, Move.DONE, None, word.sentence, word.working)
    return True


def _sets_of(session: TrainingSession, exercise_id: str) -> list[FloorSet]:
    return [s for line in session.lines.all() if line.exercise_id == exercise_id for s in floor_line(line).sets]


def _settled(held: AtHand, current: FloorLine, done: list[DoneSet]) -> Settled | None:
    """What the athlete's own effort–velocity table makes of the set just done; None without a velocity."""
    last = done[-1]
    if not last.velocities_mps or last.reps < 1:
        return None
    lift = exercise(current.line.exercise_id)
    if ("pairs", lift.id) not in held.earlier:
        held.earlier["pairs", lift.id] = pairs_of(held.session, lift)
    table = effort_table(held.earlier["pairs", lift.id], held.book.rules)
    said = 10.0 - last.rir if last.rir is not None else None
    return settle(table, said, last.velocities_mps[-1])
