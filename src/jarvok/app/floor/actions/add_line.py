"""An exercise is added to a running session."""

from __future__ import annotations

from dataclasses import replace

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.floor.models import ChangeKind, SessionChange, SessionLine, SetKind, TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import floor_lines, read_session
from jarvok.app.floor.pains import standing
from jarvok.app.training.planned_weeks import limits_of, why_no_max_on
from jarvok.core.checks.effort import TYPING_ERROR_SHARE, is_limit_work, short_of_the_limit
from jarvok.core.checks.plan_views import LineView
from jarvok.core.errors import CoachError
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.pain import area_words, loads
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.ramp import RampedLine, session_ramps
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.blocks import STRAIGHT
from jarvok.core.session.duration import rest_s
from jarvok.core.session.roles import role_of
from jarvok.core.session.sequence import steps_of
from jarvok.core.session.station import Station

BLOCK = "Added here"
MOST_ADDED = 20  # [T]


def run(who: Who, session: TrainingSession, exercise_id: str, text: str) -> None:
    """Add a line behind all others, with the athlete's own loads and a warm-up for a barbell. What hurts or is off is refused."""
    with acting(who, "add_line", "an exercise added", athlete=session.athlete) as act:
        check_open(session)
        session = read_session(session.pk)
        lift, written = exercise(exercise_id), parse(text)
        lines = floor_lines(session)
        felt = [p for p in standing(session) if not p.carried_on and loads(p.area, lift)]
        if felt:
            raise CoachError(f"{lift.name} loads what hurts today: {area_words(felt[0].area)}.", where="exercise_id")
        why = limits_of(session.athlete, session.day).why_not(lift)
        if why:
            raise CoachError(f"{lift.name}: {why}.", where="exercise_id", accepted="Another exercise.")
        added = [x for x in lines if x.line.block == BLOCK]
        if len(added) >= MOST_ADDED:
            raise CoachError(f"{MOST_ADDED} added exercises is the most.", where="exercise_id", accepted="Finish the session.")
        act.words = f"{lift.name} added: {write(written)}"
        book = LiftBook([session.athlete], clock.today())
        sets = resolve(written, book.state(session.athlete_id, lift.id))
        _check_effort(session, LineView("X", BLOCK, lift, written, False, sets=sets))
        implement = implement_for(lift, kit_of(session.athlete.kit))
        is_bar = lift.implement == "barbell"
        first = next((s.load_kg for s in sets if s.load_kg), None)
        slot = f"X{len(added) + 1}"
        ramp = session_ramps([RampedLine(slot, lift, implement, first, sets[0].reps or 3)]).get(slot, ()) if is_bar else ()
        line = SessionLine.objects.create(
            session=session, order=len(lines), slot=slot, block=BLOCK, exercise_id=lift.id, text=write(written),
            reason="added on the floor", is_main=False, role=role_of(BLOCK, lift, is_main=False),
            ramp=[ToldSet.of_ramp(r, book.rules["velocity.stop_loss_pct"]).to_raw() for r in ramp],
            planned=[ToldSet.of(s).to_raw() for s in sets], rest_s=rest_s(written, lift, book.rules),
        )  # fmt: skip
        SessionChange.objects.create(line=line, kind=ChangeKind.LINE, set_kind=SetKind.WORK, number=0, step="", at=clock.now())
        if session.told or not lines:
            station = Station(
                slot=slot,
                block=BLOCK,
                style=STRAIGHT,
                prescription=written,
                exercise=lift,
                rest_s=line.rest_s,
                ramp_sets=len(ramp),
            )
            steps = [_at(ToldStep.of(s, [station]), line.order) for s in steps_of([station], book.rules)]
            session.told = {**session.told, "steps": [*session.told.get("steps", ()), *(s.to_raw() for s in steps)]}
            session.save(update_fields=["told"])
        tell(session, "changed", {"line_id": line.pk})


def _at(step: ToldStep, order: int) -> ToldStep:
    """A step of a line by itself, with the line in its place in the session."""
    return replace(step, sets=tuple(StepSet(order, s.warms_up, s.number) for s in step.sets))


def _check_effort(session: TrainingSession, line: LineView) -> None:
    """Refuse a slip of the hand, and limit work for those whom it is not open to: no margin speaks on the floor."""
    share = line.share or 0
    if share > TYPING_ERROR_SHARE:
        said = f"{100 * share:.0f} % of the max is likely a slip of the hand."
        raise CoachError(said, where="text", accepted="A load that can be lifted.")
    why = why_no_max_on(session.athlete, session.day)
    if why and is_limit_work(line):
        short = write(short_of_the_limit(line))
        raise CoachError(f"No max effort for this athlete today: {why.lower()}.", where="text", accepted=f"Such as {short}.")
