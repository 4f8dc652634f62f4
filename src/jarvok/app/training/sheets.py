"""Weeks and sessions of an athlete: the arrangement's proposal with the coach's edits on it, loads resolved."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from itertools import groupby
from typing import Literal, NamedTuple

from jarvok.app.athletes.findings import Beside, Learned, learned_by
from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.training.models import LineEdit, MethodChoice
from jarvok.app.training.own_rests import OwnRest, own_rests, primed
from jarvok.app.training.planned_weeks import plan_of, planned_week
from jarvok.app.training.told_weeks import place_of, told_of
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.ladder_next import ladder_of
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.learning.findings import Kind
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import FURNISHED, Kit, implement_for
from jarvok.core.loading.compare import express
from jarvok.core.loading.methods import METHOD_BY_KEY
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.progress import contacts_of, last_contacts, to_beat
from jarvok.core.loading.ramp import RampedLine, RampSet, session_ramps
from jarvok.core.loading.resolve import ResolvedSet, resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.loading.state import LiftState
from jarvok.core.quantities.plates import Implement
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.model import PhaseKey, SeasonPlan, SeasonWeek
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.complexes import as_complex
from jarvok.core.session.drop_sets import as_drop
from jarvok.core.session.duration import raises, rest_s, warm_up_minutes
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.session.sequence import line_minutes, steps_of
from jarvok.core.session.station import Station

Detail = Literal["full", "loads", "main"]
MERGED_SLOT, MERGED_LINE = "M1", "merged"  # the main lift of a missed session, put into this one


class SheetLine(NamedTuple):
    planned: PlannedLine
    prescription: Prescription
    text: str
    edited: bool
    choice: MethodChoice | None
    to_beat: str
    sets: tuple[ResolvedSet, ...]
    minutes: float
    rest_s: int
    has_own_rest: bool = False
    learned: tuple[Beside, ...] = ()  # what was found of this lift, said beside it

    @property
    def told(self) -> tuple[ToldSet, ...]:
        """The sets as they would be told now, without their workings."""
        return tuple(ToldSet.of(s, self.planned.forms, with_working=False) for s in self.sets)

    def station(self, ramp_sets: int = 0, sets: int | None = None) -> Station:
        """The line as the sequence takes it; `sets` where the day makes them fewer."""
        planned = self.planned
        return Station(
            slot=planned.slot,
            block=planned.block,
            style=planned.style,
            prescription=self.prescription,
            exercise=exercise(planned.exercise_id),
            rest_s=self.rest_s,
            ramp_sets=ramp_sets,
            sets=sets,
            has_own_rest=self.has_own_rest,
        )


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

    @cached_property
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
                    any(g.load is not None and g.load.needs_velocities_of_today for g in line.prescription.groups),
                )
                for line in self.lines
                if line.planned.is_main
            ],
            self.rules,
        )

    @cached_property
    def steps(self) -> tuple[ToldStep, ...]:
        """What is done after what, warm-up sets of the lifts included, as it would be told now."""
        ramps = self.ramps
        stations = [x.station(len(ramps.get(x.planned.slot, ()))) for x in self.lines]
        return tuple(ToldStep.of(s, stations) for s in steps_of(stations, self.rules))

    def set_at(self, place: StepSet) -> ToldSet | None:
        """The set at a place of a step."""
        line = self.lines[place.line]
        if not place.warms_up:
            return line.told[place.number - 1] if place.number <= len(line.sets) else None
        ramp = self.ramps.get(line.planned.slot, ())
        if place.number > len(ramp):
            return None
        return replace(ToldSet.of_ramp(ramp[place.number - 1], 0.0), unit=line.sets[0].unit)

    @property
    def has_own_warm_up(self) -> bool:
        """Whether a block of it raises, so that no general warm-up is counted beside it."""
        return raises([(x.station(), x.planned.role) for x in self.lines])

    @property
    def warm_up_minutes(self) -> float:
        ramp_sets = sum(len(ramp) for ramp in self.ramps.values())
        return warm_up_minutes(ramp_sets, self.rules, has_own=self.has_own_warm_up)

    @property
    def minutes(self) -> float:
        return self.warm_up_minutes + sum(line.minutes for line in self.lines)


@dataclass(frozen=True)
class AthleteWeek:
    plan: SeasonPlan
    week: SeasonWeek
    sheets: tuple[Sheet, ...]
    book: LiftBook
    before: tuple[PlannedSession, ...] = ()
    rules: Rules = DEFAULT_RULES
    beside: _Beside | None = None  # what was read for its sheets and those of the week before


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
    planned: PlannedLine,
    text: str | None,
    book: LiftBook,
    athlete_id: int,
    choice: MethodChoice | None = None,
    *,
    detail: Detail = "full",
) -> SheetLine:
    lift = exercise(planned.exercise_id)
    if detail == "main" and not planned.is_main:
        written = parse(text) if text else planned.prescription
        shown = write(written)
        return SheetLine(planned, written, shown, text is not None, None, "", (), 0.0, rest_s(written, lift, book.rules))
    state = book.state(athlete_id, planned.exercise_id, planned.conditions)
    chosen = None if text else by_choice(planned, choice, state)
    prescription = parse(text) if text else chosen or planned.prescription
    return SheetLine(
        planned=planned,
        prescription=prescription,
        text=write(prescription),
        edited=text is not None,
        choice=choice if chosen is not None else None,
        to_beat="" if detail != "full" else _to_beat(planned, prescription, state),
        sets=resolve(prescription, state, with_others=detail == "full"),
        minutes=0.0,
        rest_s=rest_s(prescription, lift, book.rules),
    )


def _to_beat(planned: PlannedLine, prescription: Prescription, state: LiftState) -> str:
    """What stands beside a line as its measure: the record of a ladder, else for smaller work what was done last."""
    ladder = ladder_of(prescription)
    if ladder is not None:
        return ladder.record_words(state)
    return "" if planned.is_main else to_beat(prescription.groups[0], state)


def _timed(lines: Sequence[SheetLine], kit: Kit, rules: Rules) -> tuple[SheetLine, ...]:
    """The lines with their minutes, block by block; the weakest lift of a complex sets its load, drops get lighter."""
    found: list[SheetLine] = []
    for _, block in groupby(lines, key=lambda x: x.planned.block):
        rows = list(block)
        grouping = rows[0].planned.style.grouping
        if grouping is Grouping.COMPLEX:
            together = as_complex([x.sets for x in rows])
            rows = [x._replace(sets=sets) for x, sets in zip(rows, together, strict=True)]
        elif grouping is Grouping.DROP:
            rows = [x._replace(sets=as_drop(x.sets, implement_for(exercise(x.planned.exercise_id), kit))) for x in rows]
        found += rows
    each = line_minutes([x.station() for x in found], rules)
    return tuple(x._replace(minutes=m) for x, m in zip(found, each, strict=True))


@dataclass
class _Beside:
    """What was written and started on some days, for some athletes, read at once."""

    edits: dict[int, dict[tuple[date, str, str], LineEdit]]
    started: dict[tuple[int, date, str], TrainingSession]
    choices: dict[int, list[MethodChoice]]
    rests: dict[int, dict[str, OwnRest]]
    learned: Mapping[int, Learned]


_EDITS = Objects(
    lambda ids, start, end: LineEdit.objects.filter(athlete_id__in=ids, day__range=(start, end), undone_at__isnull=True)
)
_STARTED = Objects(lambda ids, start, end: TrainingSession.objects.filter(athlete_id__in=ids, day__range=(start, end)))
_CHOICES = Objects(lambda ids: MethodChoice.objects.filter(athlete_id__in=ids, withdrawn_at__isnull=True))


def _beside(people: Sequence[Athlete], sessions: Mapping[int, Sequence[PlannedSession]], start: date, end: date) -> _Beside:
    ids = list(sessions)
    edits: dict[int, dict[tuple[date, str, str], LineEdit]] = {i: {} for i in ids}
    for edit in _EDITS.of(ids, start, end):
        edits[edit.athlete_id][edit.day, edit.session_key, edit.line_id or edit.slot] = edit
    started = {(t.athlete_id, t.day, t.key): t for t in _STARTED.of(ids, start, end)}
    choices = {i: [c for c in rows if c.until_day >= start] for i, rows in _picked(people).items()}
    written = {i: {k: e for k, e in rows.items() if e.text} for i, rows in edits.items()}
    return _Beside(written, started, choices, own_rests(sessions), learned_by(people))


def _picked(people: Sequence[Athlete]) -> dict[int, list[MethodChoice]]:
    """Methods picked for a lift that are not withdrawn, by athlete."""
    if len(people) == 1:
        (athlete,) = people
        return {athlete.pk: while_kept(athlete, lambda: _choices([athlete.pk]), "method choices")}
    found: dict[int, list[MethodChoice]] = {p.pk: [] for p in people}
    for choice in _choices(found):
        found[choice.athlete_id].append(choice)
    return found


def _choices(athletes: Iterable[int]) -> list[MethodChoice]:
    return _CHOICES.of(list(athletes))


def sheets_of(athlete: Athlete, sessions: Sequence[PlannedSession], book: LiftBook, week: SeasonWeek) -> tuple[Sheet, ...]:
    """Return the sheets of an athlete's sessions, loads as they would be set today."""
    return sheets_for([athlete], {athlete.pk: sessions}, {athlete.pk: week}, book)[athlete.pk]


def sheets_for(
    people: Sequence[Athlete],
    sessions: Mapping[int, Sequence[PlannedSession]],
    weeks: Mapping[int, SeasonWeek | None],
    book: LiftBook,
    *,
    detail: Detail = "full",
) -> dict[int, tuple[Sheet, ...]]:
    """Return the sheets of some athletes' sessions by athlete, with the same few queries however many they are.

    `detail` leaves out what a page of many does not show: `loads` the workings and what is to be beaten, `main` the loads of
    small work too. A session outside any plan has no week.
    """
    days = [s.day for rows in sessions.values() for s in rows]
    if not days:
        return {p.pk: () for p in people}
    beside = _beside(people, {p.pk: sessions[p.pk] for p in people}, min(days), max(days))
    if detail != "full":
        book.narrow_history(_led_by_the_past(sessions, beside))
    return {p.pk: tuple(_sheet(p, s, book, weeks[p.pk], beside, detail) for s in sessions[p.pk]) for p in people}


def _led_by_the_past(sessions: Mapping[int, Sequence[PlannedSession]], beside: _Beside) -> frozenset[str]:
    """Exercises whose load comes from earlier sessions, by the plan, by a line as typed, or by a picked method."""
    found = {c.exercise_id for rows in beside.choices.values() for c in rows}
    found |= {e.exercise_id for rows in beside.edits.values() for e in rows.values()}
    for rows in sessions.values():
        for line in (x for s in rows for x in s.lines):
            for g in line.prescription.groups:
                if g.load is not None and g.load.uses_past:
                    found.add(line.exercise_id)
    return frozenset(found)


def _sheet(
    athlete: Athlete, session: PlannedSession, book: LiftBook, week: SeasonWeek | None, beside: _Beside, detail: Detail = "full"
) -> Sheet:
    edits, choices = beside.edits[athlete.pk], beside.choices[athlete.pk]
    if week is not None and (week.is_easy or week.phase is PhaseKey.TAPER):
        choices = [c for c in choices if METHOD_BY_KEY[c.method].knows_the_week]
    used: set[tuple[date, str, str]] = set()
    primes, rests = primed(session), beside.rests.get(athlete.pk, {})
    lines: list[SheetLine] = []
    for planned in session.lines:
        key = (session.day, session.key, planned.line_id)
        edit = edits.get(key)
        text = edit.text if edit is not None and edit.exercise_id == planned.exercise_id and not session.is_own else None
        if text is not None:
            used.add(key)
        choice = None if session.is_own else _chosen(choices, planned.exercise_id, session.day)
        line = sheet_line(planned, text, book, athlete.pk, choice, detail=detail)
        line = line._replace(learned=beside.learned[athlete.pk].of(planned.exercise_id))
        own = rests.get(primes.get(planned.line_id, ""))
        if own is not None:
            why = Beside(Kind.REST, own.words, is_squads=False)
            line = line._replace(rest_s=own.rest_s, has_own_rest=True, learned=(*line.learned, why))
        lines.append(line)
    merged = edits.get((session.day, session.key, MERGED_LINE))
    if merged is not None:
        used.add((session.day, session.key, MERGED_LINE))
        reason = "main lift of a session that was missed"
        added = PlannedLine(
            MERGED_SLOT,
            "Merged",
            merged.exercise_id,
            parse(merged.text),
            reason,
            True,
            role=BlockRole.MAIN,
            line_id=MERGED_LINE,
        )
        lines.append(sheet_line(added, None, book, athlete.pk))
    before = None
    if detail == "full":
        jumps = [e for e in exercises().values() if e.kind == "jump"]
        before = last_contacts(((e, book.history(athlete.pk, e.id)) for e in jumps), session.day)
    left = () if session.is_own else tuple(e for k, e in edits.items() if k[:2] == (session.day, session.key) and k not in used)
    begun = beside.started.get((athlete.pk, session.day, session.key))
    kit = kit_of(athlete.kit)
    return Sheet(session, _timed(lines, kit, book.rules), left, begun, kit, book.rules, before)


def athlete_week(athlete: Athlete, day: date, today: date, book: LiftBook | None = None) -> AthleteWeek | None:
    """Return the week a day lies in with every load as it would be set today, or None without a season there.

    `book` is one that has been read already and that nothing since has changed.
    """
    rules = book.rules if book is not None else rules_in_force()
    plan = plan_of(athlete, today, rules)
    if plan is None:
        return None
    return week_in(athlete, plan, day, book or LiftBook([athlete], today, rules=rules))


def week_in(athlete: Athlete, plan: SeasonPlan, day: date, book: LiftBook) -> AthleteWeek | None:
    """Return the week of a plan that a day lies in, or None outside it."""
    week = plan.week_of(day)
    if week is None:
        return None
    share_book(book)
    last = plan.week_of(week.start - timedelta(days=7))
    before = planned_week(athlete, plan, last, book.rules) if last is not None else ()
    planned = planned_week(athlete, plan, week, book.rules)
    told = told_of(athlete, week.start)
    if told is not None and told.through >= week.end:
        week = place_of(told, week)
    days = [s.day for s in (*before, *planned)]
    beside = _beside([athlete], {athlete.pk: planned}, min(days), max(days)) if days else None
    sheets = tuple(_sheet(athlete, s, book, week, beside, "full") for s in planned) if beside is not None else ()
    return AthleteWeek(plan, week, sheets, book, before, book.rules, beside)


def sheets_before(athlete: Athlete, found: AthleteWeek, last: SeasonWeek) -> tuple[Sheet, ...]:
    """Return the sheets of the week before, from what was read for the week itself."""
    if found.beside is None:
        return sheets_of(athlete, found.before, found.book, last)
    return tuple(_sheet(athlete, s, found.book, last, found.beside, "full") for s in found.before)


def week_days(start: date) -> list[date]:
    return [start + timedelta(days=i) for i in range(7)]
