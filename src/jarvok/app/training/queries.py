"""Weeks and sessions of an athlete: the arrangement's proposal with the coach's edits on it, loads resolved."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import LiftBook, practices_of, restrictions_of
from jarvok.app.centre.queries import kit_of, rules_in_force
from jarvok.app.floor.models import SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.app.seasons.queries import SeasonBook
from jarvok.app.training.models import LineEdit, MethodChoice
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import Exercise, exercise, exercises
from jarvok.core.library.kit import FURNISHED, Kit, implement_for
from jarvok.core.loading.compare import express
from jarvok.core.loading.methods import BLIND_TO_THE_WEEK
from jarvok.core.loading.prescription import Prescription, TodayPercent
from jarvok.core.loading.progress import contacts_of, last_contacts, to_beat
from jarvok.core.loading.ramp import RampedLine, RampSet, session_ramps
from jarvok.core.loading.resolve import ResolvedSet, resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.loading.state import LiftState
from jarvok.core.quantities.plates import Implement
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.match_days import played_share
from jarvok.core.season.model import PhaseKey, SeasonPlan, SeasonWeek, monday_of
from jarvok.core.session.duration import line_minutes, rest_s, warm_up_minutes
from jarvok.core.week.generate import plan_week
from jarvok.core.week.plan import PlannedLine, PlannedSession

MERGED_SLOT = "M1"  # the main lift of a missed session, put into this one


@dataclass(frozen=True)
class SheetLine:
    planned: PlannedLine
    prescription: Prescription
    text: str
    edited: bool
    choice: MethodChoice | None
    to_beat: str
    sets: tuple[ResolvedSet, ...]
    minutes: float
    rest_s: int


@dataclass(frozen=True)
class Sheet:
    planned: PlannedSession
    lines: tuple[SheetLine, ...]
    unused_edits: tuple[LineEdit, ...]
    started: TrainingSession | None
    kit: Kit = FURNISHED
    rules: Rules = DEFAULT_RULES
    contacts_before: tuple[date, int] | None = None

    @property
    def contacts(self) -> int:
        """Ground contacts of the jumps on the sheet."""
        return contacts_of((exercise(line.planned.exercise_id), line.prescription.groups) for line in self.lines)

    def implement(self, lift: Exercise) -> Implement | None:
        """What the lift is loaded with in the athlete's room."""
        return implement_for(lift, self.kit)

    @property
    def ramps(self) -> dict[str, tuple[RampSet, ...]]:
        """Warm-up sets of the main lines by slot."""
        return session_ramps(
            [
                RampedLine(
                    line.planned.slot,
                    lift := exercise(line.planned.exercise_id),
                    self.implement(lift),
                    next((s.load_kg for s in line.sets if s.load_kg), None),
                    line.sets[0].reps or 3,
                    any(isinstance(g.load, TodayPercent) for g in line.prescription.groups),
                )
                for line in self.lines
                if line.planned.is_main
            ],
            self.rules,
        )

    @property
    def warm_up_minutes(self) -> float:
        return warm_up_minutes(sum(len(ramp) for ramp in self.ramps.values()), self.rules)

    @property
    def minutes(self) -> float:
        return self.warm_up_minutes + sum(line.minutes for line in self.lines)


@dataclass(frozen=True)
class AthleteWeek:
    plan: SeasonPlan
    week: SeasonWeek
    sheets: tuple[Sheet, ...]
    rules: Rules = DEFAULT_RULES


def _moves(athlete: Athlete, week: SeasonWeek) -> dict[str, date]:
    newest: dict[str, date | None] = {}
    for move in athlete.session_moves.all():
        if move.week_start == week.start:
            newest[move.session_key] = move.day
    return {key: day for key, day in newest.items() if day is not None}


def planned_week(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[PlannedSession, ...]:
    tags = frozenset(r.tag for r in restrictions_of(athlete, week.start))
    played = played_share([(m.day, m.minutes) for m in athlete.minutes_played.all()], week.start, rules)
    return plan_week(plan, week, practices_of(athlete), tags, _moves(athlete, week), rules, played)


def _edits(athlete: Athlete, start: date, end: date) -> dict[tuple[date, str, str], LineEdit]:
    newest: dict[tuple[date, str, str], LineEdit] = {}
    for edit in LineEdit.objects.filter(athlete=athlete, day__gte=start, day__lte=end):
        newest[edit.day, edit.session_key, edit.slot] = edit
    return {key: edit for key, edit in newest.items() if edit.text}


def _paired(line: PlannedLine, lines: Iterable[PlannedLine]) -> bool:
    return sum(1 for other in lines if other.block == line.block) > 1 and not line.block.startswith("Prepare")


def _chosen(choices: Sequence[MethodChoice], exercise_id: str, day: date) -> MethodChoice | None:
    """The newest choice of a method for an exercise on a day."""
    return next((c for c in reversed(choices) if c.exercise_id == exercise_id and c.from_day <= day <= c.until_day), None)


def choice_for(athlete: Athlete, exercise_id: str, day: date) -> MethodChoice | None:
    """The method picked for an exercise on a day, resting or not."""
    choices = list(MethodChoice.objects.filter(athlete=athlete, exercise_id=exercise_id, withdrawn_at__isnull=True))
    return _chosen(choices, exercise_id, day)


def by_choice(planned: PlannedLine, choice: MethodChoice | None, state: LiftState) -> Prescription | None:
    """The planned line as the chosen method writes it, or None where it cannot or none is chosen."""
    if choice is None or planned.prescription.groups[0].load is None:
        return None
    try:
        return express(planned.prescription, choice.method, state)
    except CoachError:
        return None  # a hold or an unloaded line is left as it is


def sheet_line(
    planned: PlannedLine, text: str | None, paired: bool, book: LiftBook, athlete_id: int, choice: MethodChoice | None = None
) -> SheetLine:
    state = book.state(athlete_id, planned.exercise_id)
    chosen = None if text else by_choice(planned, choice, state)
    prescription = parse(text) if text else chosen or planned.prescription
    lift = exercise(planned.exercise_id)
    return SheetLine(
        planned=planned,
        prescription=prescription,
        text=write(prescription),
        edited=text is not None,
        choice=choice if chosen is not None else None,
        to_beat="" if planned.is_main else to_beat(prescription.groups[0], state),
        sets=resolve(prescription, state),
        minutes=line_minutes(prescription, lift, paired, book.rules),
        rest_s=rest_s(prescription, lift, book.rules),
    )


def sheets_of(athlete: Athlete, sessions: Sequence[PlannedSession], book: LiftBook, week: SeasonWeek) -> tuple[Sheet, ...]:
    if not sessions:
        return ()
    start, end = min(s.day for s in sessions), max(s.day for s in sessions)
    edits = _edits(athlete, start, end)
    started = {(t.day, t.key): t for t in TrainingSession.objects.filter(athlete=athlete, day__gte=start, day__lte=end)}
    choices = list(MethodChoice.objects.filter(athlete=athlete, withdrawn_at__isnull=True, until_day__gte=start))
    if week.is_easy or week.phase is PhaseKey.TAPER:
        choices = [c for c in choices if c.method not in BLIND_TO_THE_WEEK]
    jumps = [e for e in exercises().values() if e.kind == "jump"]
    found: list[Sheet] = []
    for session in sessions:
        used: set[tuple[date, str, str]] = set()
        lines: list[SheetLine] = []
        for planned in session.lines:
            key = (session.day, session.key, planned.slot)
            edit = edits.get(key)
            text = edit.text if edit is not None and edit.exercise_id == planned.exercise_id else None
            if text is not None:
                used.add(key)
            choice = _chosen(choices, planned.exercise_id, session.day)
            lines.append(sheet_line(planned, text, _paired(planned, session.lines), book, athlete.pk, choice))
        merged = edits.get((session.day, session.key, MERGED_SLOT))
        if merged is not None:
            used.add((session.day, session.key, MERGED_SLOT))
            line = PlannedLine(
                MERGED_SLOT, "Merged", merged.exercise_id, parse(merged.text), "main lift of a session that was missed", True
            )
            lines.append(sheet_line(line, None, False, book, athlete.pk))
        before = last_contacts(((e, book.history(athlete.pk, e.id)) for e in jumps), session.day)
        left = tuple(e for k, e in edits.items() if k[:2] == (session.day, session.key) and k not in used)
        begun = started.get((session.day, session.key))
        found.append(Sheet(session, tuple(lines), left, begun, kit_of(athlete.kit), book.rules, before))
    return tuple(found)


def athlete_week(athlete: Athlete, day: date, today: date) -> AthleteWeek | None:
    """Return the week a day lies in with every load as it would be set today, or None without a season there."""
    rules = rules_in_force()
    plan = SeasonBook([athlete], today, rules).plan(athlete.pk)
    week = plan.week_of(day) if plan is not None else None
    if plan is None or week is None:
        return None
    book = LiftBook([athlete], today, rules=rules)
    planned = planned_week(athlete, plan, week, book.rules)
    return AthleteWeek(
        plan,
        week,
        sheets_of(athlete, planned, book, week),
        book.rules,
    )


def done_load_by_week(athlete_id: int, plan: SeasonPlan) -> dict[int, float]:
    """Return, per past week of a season, the share of planned work sets that were done (0 and up)."""
    rows = SetRecord.objects.filter(
        line__session__athlete_id=athlete_id,
        line__session__day__gte=plan.start,
        kind=SetKind.WORK,
        taken_back_at__isnull=True,
    ).values_list("line__session__day", flat=True)
    done: dict[date, int] = {}
    for day in rows:
        done[monday_of(day)] = done.get(monday_of(day), 0) + 1
    planned: dict[date, int] = {}
    lines = SessionLine.objects.filter(session__athlete_id=athlete_id, session__day__gte=plan.start)
    for day, sets in lines.order_by().values_list("session__day", "planned"):
        planned[monday_of(day)] = planned.get(monday_of(day), 0) + len(sets)
    return {week.index: round(done.get(week.start, 0) / planned[week.start], 2) for week in plan.weeks if planned.get(week.start)}


def week_days(start: date) -> list[date]:
    return [start + timedelta(days=i) for i in range(7)]
