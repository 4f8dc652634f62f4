"""Starting a session: what is told is kept as it stands, with what the day made of it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.floor.models import SessionLine, SetRecord, TrainingSession
from jarvok.app.floor.writes import check_open, tell
from jarvok.app.problems import Conflict
from jarvok.app.room.models import OwnDefault
from jarvok.app.shapes import told
from jarvok.app.training.finding import find_sheet
from jarvok.app.training.queries import Sheet
from jarvok.core.floor.day_plan import DayLine, Less, Written, day_lines
from jarvok.core.floor.readiness import Plan
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.ramp import RampedLine, RampSet, session_ramps
from jarvok.core.season.model import SeasonWeek
from jarvok.core.session.blocks import Grouping


@dataclass(frozen=True)
class DayPlan:
    """The coach's word on an athlete's day: the plan, how B is less, what pain takes out, and why."""

    plan: Plan = Plan.A
    less: Less = Less.FEWER
    removed: frozenset[str] = frozenset()
    unwell: bool = False
    reason: str = ""

    @property
    def changes(self) -> bool:
        """Whether the session is done otherwise than written."""
        return self.plan is not Plan.A or bool(self.removed) or self.unwell


AS_WRITTEN = DayPlan()


def start_session(athlete: Athlete, day: date, key: str, word: DayPlan = AS_WRITTEN) -> TrainingSession:
    """Start a planned session: what is told is kept as it stands now. A started one is returned as it is."""
    existing = TrainingSession.objects.filter(athlete=athlete, day=day, key=key).first()
    if existing is not None:
        return existing
    week, sheet = find_sheet(athlete, day, key)
    return start_sheet(athlete, week.week, sheet, week.book, word)


@transaction.atomic
def start_sheet(athlete: Athlete, week: SeasonWeek, sheet: Sheet, book: LiftBook, word: DayPlan) -> TrainingSession:
    """Start a session from its resolved sheet."""
    planned = sheet.planned
    session = TrainingSession.objects.create(
        athlete=athlete,
        day=planned.day,
        key=planned.key,
        theme=planned.theme,
        phase=week.phase,
        days_to_go=(week.competition_day - planned.day).days,
        started_at=clock.now(),
        plan=word.plan,
        plan_reason=word.reason[:200],
    )
    _write_lines(session, sheet, book, word)
    return session


@transaction.atomic
def change_plan(session: TrainingSession, word: DayPlan) -> None:
    """Change the day's plan of a running session in which no work has been logged yet."""
    check_open(session)
    if SetRecord.objects.filter(line__session=session, taken_back_at__isnull=True).exists():
        raise Conflict("Sets are logged already: from here the advice after each set changes the day, or stop a lift.")
    week, sheet = find_sheet(session.athlete, session.day, session.key)
    session.lines.all().delete()
    session.plan, session.plan_reason = word.plan, word.reason[:200]
    session.save(update_fields=["plan", "plan_reason"])
    _write_lines(session, sheet, week.book, word)
    tell(session, "changed", {"line_id": None})


def _write_lines(session: TrainingSession, sheet: Sheet, book: LiftBook, word: DayPlan) -> None:
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
    today = day_lines(written, word.plan, word.less, word.removed, word.unwell, book.rules)
    ramps = _ramps_of(sheet, today) if word.changes else sheet.ramps
    rests = _own_rests(session.athlete_id, sheet)
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
            reason=line.planned.reason,
            is_main=line.planned.is_main,
            ramp=[
                {
                    "load_kg": r.load_kg,
                    "per_side_kg": list(r.per_side_kg),
                    "reps": r.reps,
                    "stop_loss_pct": book.rules["velocity.stop_loss_pct"],
                }
                for r in ramps.get(slot, ())
            ],
            planned=[told(s) for s in day.sets],
            rest_s=rests.get(slot, line.rest_s),
            as_written=[told(s, with_working=False) for s in line.sets] if changed else [],
            change=day.change,
            left_out=day.left_out,
        )


def _own_rests(athlete_id: int, sheet: Sheet) -> dict[str, int]:
    """Rests in s by slot that the athlete's own rest test has found: after the heavy set of a primer pair, before its jump."""
    pairs = [
        (heavy.planned.slot, jump.planned.exercise_id)
        for heavy, jump in pairwise(sheet.lines)
        if heavy.planned.style.grouping is Grouping.PAPE and heavy.planned.block == jump.planned.block
    ]
    if not pairs:
        return {}
    kept = OwnDefault.objects.filter(athlete_id=athlete_id, kind="rest", exercise_id__in=[x for _, x in pairs]).order_by("id")
    own = {d.exercise_id: int(d.value) for d in kept}
    return {slot: own[exercise_id] for slot, exercise_id in pairs if exercise_id in own}


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
