"""Starting a session: what is told is kept as it stands, with what the day made of it."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
from jarvok.app.training.sheets import Sheet
from jarvok.core.floor.day_plan import DayLine, Less, Written, day_lines
from jarvok.core.floor.ladder_next import ladder_of
from jarvok.core.floor.readiness import Plan
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import told_to
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.ramp import RampedLine, RampSet, session_ramps
from jarvok.core.session.sequence import StepKind, steps_of


@dataclass(frozen=True)
class DayPlan:
    """The coach's word on an athlete's day: the plan, how B is less, what pain takes out, what practice has worked, and why."""

    plan: Plan = Plan.A
    less: Less = Less.FEWER
    removed: frozenset[str] = frozenset()
    unwell: bool = False
    spared: frozenset[str] = frozenset()
    restricted: frozenset[str] = frozenset()  # where a session was not planned for them
    reason: str = ""

    @property
    def changes(self) -> bool:
        """Whether the session is done otherwise than written."""
        return self.plan is not Plan.A or bool(self.removed or self.spared or self.restricted) or self.unwell


AS_WRITTEN = DayPlan()
LONGEST_REASON = 400


def write_lines(session: TrainingSession, sheet: Sheet, book: LiftBook, word: DayPlan) -> None:
    written = [
        Written(
            lift := exercise(x.planned.exercise_id),
            sheet.implement(lift),
            x.sets,
            x.planned.is_main,
            book.state(session.athlete_id, lift.id).max_kg,
        )
        for x in sheet.lines
    ]
    today = day_lines(written, word.plan, word.less, word.removed, word.unwell, book.rules, word.spared, word.restricted)
    ramps = _ramps_of(sheet, today) if word.changes else sheet.ramps
    stations = [
        line.station(len(ramps.get(line.planned.slot, ())), len(day.sets)) for line, day in zip(sheet.lines, today, strict=True)
    ]
    steps = steps_of(stations, sheet.rules)
    ramped = {p.line for step in steps if step.kind is StepKind.RAMP for p in step.pieces}
    stop_pct = book.rules["velocity.stop_loss_pct"]
    session.told = told_to(steps, stations)
    session.save(update_fields=["told"])
    for order, (line, day) in enumerate(zip(sheet.lines, today, strict=True)):
        slot = line.planned.slot
        changed = bool(day.change)
        SessionLine.objects.create(
            session=session,
            order=order,
            slot=slot,
            block=line.planned.block,
            exercise_id=line.planned.exercise_id,
            text=line.text,
            reason=line.planned.reason[:LONGEST_REASON],
            note=", ".join(w for w in (line.planned.note, line.to_beat if ladder_of(line.prescription) else "") if w),
            easier=line.planned.forms.easier,
            harder=line.planned.forms.harder,
            conditions=dict(line.planned.conditions),
            is_main=line.planned.is_main,
            role=line.planned.role,
            ramp=[ToldSet.of_ramp(r, _stop_of(day, stop_pct)).to_raw() for r in (ramps.get(slot, ()) if order in ramped else ())],
            planned=[ToldSet.of(s, line.planned.forms).to_raw() for s in day.sets],
            rest_s=line.rest_s,
            as_written=[ToldSet.of(s, line.planned.forms, with_working=False).to_raw() for s in line.sets] if changed else [],
            change=day.change,
            left_out=day.left_out,
        )


def _stop_of(day: DayLine, usual_pct: float) -> float:
    """The loss of velocity that ends a warm-up set: that of the work sets, where they have one of their own."""
    return next((s.stop_loss_pct for s in day.sets if s.stop_loss_pct), usual_pct)


def _ramps_of(sheet: Sheet, today: tuple[DayLine, ...]) -> dict[str, tuple[RampSet, ...]]:
    """The warm-ups to the loads as they are today."""
    return session_ramps(
        [
            RampedLine(
                line.planned.slot,
                lift := exercise(line.planned.exercise_id),
                sheet.implement(lift),
                next((s.load_kg for s in day.sets if s.load_kg), None),
                day.sets[0].reps or 3,
            )
            for line, day in zip(sheet.lines, today, strict=True)
            if line.planned.is_main and day.sets
        ],
        sheet.rules,
    )
