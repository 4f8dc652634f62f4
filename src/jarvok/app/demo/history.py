"""Twelve months of believable training, made by the same simulated lifter that drives the sensor."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import Any

import numpy as np
from numpy.random import Generator

from jarvok.app import clock
from jarvok.app.demo.many import Many, store_numbered
from jarvok.app.demo.people import USUAL_KG, Person
from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord
from jarvok.app.facts.floor.models import Rep, SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Act
from jarvok.core.floor.told import ToldSet
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.ramp import RampedLine, session_ramps
from jarvok.core.loading.resolve import ResolvedSet, resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.quantities.plates import build
from jarvok.core.season.model import monday_of
from jarvok.core.season.planner import plan_season
from jarvok.core.sensors.lifter import TrueStrength, lift_set, reps_to_failure, true_strength
from jarvok.core.session.duration import rest_s
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.week.generate import plan_week
from jarvok.core.week.placement import Practice

SENSOR_WEEKS = 10  # the centre has had its bar sensors this long
GROWTH_A_YEAR = 0.09
MISSED_SHARE = 0.06


@dataclass
class Rows:
    """What is written at the end, each kind by one statement."""

    sessions: list[TrainingSession] = field(default_factory=list)
    lines: list[SessionLine] = field(default_factory=list)
    sets: list[SetRecord] = field(default_factory=list)
    reps: list[Rep] = field(default_factory=list)
    marks: list[MarkRecord] = field(default_factory=list)
    masses: list[BodyMass] = field(default_factory=list)

    def write(self, act: Act) -> None:
        """Write all of it under one act: rows made many at a time name none by themselves."""
        for row in (*self.sessions, *self.sets, *self.marks, *self.masses):
            row.act = act
        store_numbered(self.sessions)
        for line in self.lines:
            line.session_id = line.session.pk
        store_numbered(self.lines)
        for done in self.sets:
            done.line_id = done.line.pk
        for rep in self.reps:
            rep.line_id = rep.line.pk
        for rows in (self.sets, self.reps, self.marks, self.masses):
            Many(rows).store()


class Lifter:
    """One demo athlete's hidden numbers and what the coach knows of them so far."""

    def __init__(self, athlete: Athlete, person: Person, today: date, rng: Generator) -> None:
        self.athlete, self.person, self.today, self.rng = athlete, person, today, rng
        self.truth: dict[str, TrueStrength] = {
            lift: true_strength(kg * person.strength * float(rng.normal(1, 0.05)), exercise(lift), rng)
            for lift, kg in USUAL_KG.items()
        }
        self.known: dict[str, list[Mark]] = defaultdict(list)
        self.growth = GROWTH_A_YEAR * (1.6 if person.years < 4 else 1.0) * (0.0 if "stuck" in person.note else 1.0)

    def true_on(self, lift_id: str, day: date) -> TrueStrength:
        """Hidden strength on a day; the stored numbers are today's."""
        now = self.truth[lift_id]
        share = 1 - self.growth * (self.today - day).days / 365
        return TrueStrength(now.one_rm_kg * share, now.max_mps, now.light_mps)

    def test(self, rows: Rows, lift_id: str, day: date, kind: MarkKind, reps: int = 1) -> None:
        """A test as it would have come out: the heaviest buildable load that went up."""
        truth = self.true_on(lift_id, day)
        form = float(self.rng.normal(0.99, 0.012))
        wanted = truth.one_rm_kg * form / (1 + reps / 30 if reps > 1 else 1)
        implement = implement_for(exercise(lift_id))
        load = build(round(wanted, 2), implement, cap_kg=max(wanted, 20.0)).load_kg if implement else wanted
        done = 1 if reps == 1 else max(2, int(reps_to_failure(truth, load, form)))
        rows.marks.append(MarkRecord(athlete=self.athlete, exercise_id=lift_id, kind=kind, day=day, load_kg=load, reps=done))
        self.known[lift_id].append(Mark("test", day, kind, load, done))

    def state(self, exercise_id: str, day: date) -> LiftState:
        lift = exercise(exercise_id)
        marks = self.known.get(lift.same_lift) or []
        related, ratio = "", 1.0
        if not marks and lift.max_from is not None:
            related, ratio = lift.max_from
            marks = self.known.get(related) or []
        tests = [m for m in marks if m.kind is not MarkKind.SET_RIR][-2:]
        recent = tests + [m for m in marks if m.kind is MarkKind.SET_RIR][-4:]
        return LiftState(lift, implement_for(lift), current_max(recent, day) if recent else None, related, ratio)


def _at(day: date, hour: float) -> datetime:
    zone = clock.zone()
    return datetime.combine(day, time(int(hour), int(hour % 1 * 60)), zone)


def _planned_json(sets: tuple[ResolvedSet, ...]) -> list[dict[str, Any]]:
    return [ToldSet.of(s, with_working=False).to_raw() for s in sets]


def lived_session(rows: Rows, lifter: Lifter, planned: PlannedSession, phase: str, days_to_go: int | None) -> None:
    """One past session: resolved as it would have been, then lifted by the simulated lifter."""
    rng, day = lifter.rng, planned.day
    started = _at(day, 16.5)
    session = TrainingSession(
        athlete=lifter.athlete,
        day=day,
        key=planned.key,
        theme=planned.theme,
        phase=phase,
        days_to_go=days_to_go,
        started_at=started,
        finished_at=started + timedelta(minutes=58),
        srpe=float(np.clip(round(rng.normal(6.2, 1.0)), 3, 9)),
        minutes=float(round(rng.normal(58, 5))),
    )
    rows.sessions.append(session)
    form = float(rng.normal(1.0, 0.015))
    with_sensor = (lifter.today - day).days <= 7 * SENSOR_WEEKS
    warmed: set[str] = set()
    for order, line in enumerate(planned.lines):
        _lived_line(rows, lifter, session, order, line, form, with_sensor, warmed)


def _lived_line(
    rows: Rows,
    lifter: Lifter,
    session: TrainingSession,
    order: int,
    line: PlannedLine,
    form: float,
    with_sensor: bool,
    warmed: set[str],
) -> None:
    lift, state = exercise(line.exercise_id), lifter.state(line.exercise_id, session.day)
    sets = resolve(line.prescription, state)
    ramp: list[dict[str, Any]] = []
    if line.is_main and lift.same_lift not in warmed:
        first = next((s.load_kg for s in sets if s.load_kg), None)
        steps = session_ramps([RampedLine(line.slot, lift, implement_for(lift), first, sets[0].reps or 3)])
        ramp = [{"load_kg": r.load_kg, "per_side_kg": list(r.per_side_kg), "reps": r.reps} for r in steps.get(line.slot, ())]
        warmed.add(lift.same_lift)
    record = SessionLine(
        session=session,
        order=order,
        slot=line.slot,
        block=line.block,
        exercise_id=line.exercise_id,
        text=write(line.prescription),
        reason=line.reason,
        is_main=line.is_main,
        role=line.role,
        ramp=ramp,
        planned=_planned_json(sets),
        rest_s=rest_s(line.prescription, lift),
    )
    rows.lines.append(record)
    measured = with_sensor and lift.motion is not None and lift.same_lift in lifter.truth and lift.velocity == "mean"
    for number, step in enumerate(ramp, start=1):
        _lived_set(rows, lifter, record, "ramp", number, step["load_kg"], step["reps"], form, measured, False)
    for number, item in enumerate(sets, start=1):
        if item.load_kg is None or lift.same_lift not in lifter.truth:
            rows.sets.append(
                SetRecord(
                    line=record, kind="work", number=number, planned_reps=item.reps, load_kg=item.load_kg,
                    planned_load_kg=item.load_kg, reps=item.reps or 1, done_at=session.started_at,
                )
            )  # fmt: skip
            continue
        last = number == len(sets)
        _lived_set(rows, lifter, record, "work", number, item.load_kg, item.reps or 1, form, measured, last and line.is_main)


def _lived_set(
    rows: Rows,
    lifter: Lifter,
    record: SessionLine,
    kind: str,
    number: int,
    load_kg: float,
    reps: int,
    form: float,
    measured: bool,
    rate: bool,
) -> None:
    lift = exercise(record.exercise_id)
    day = record.session.day
    work = lift_set(lifter.true_on(lift.same_lift, day), load_kg, reps, form, lifter.rng)
    done = max(1, work.reps)
    rir = None
    if rate and lifter.rng.uniform() < 0.7:
        rir = float(np.clip(round(work.reserve + lifter.rng.normal(0, 0.6)), 0, 5))
        lifter.known[lift.same_lift].append(Mark("set", day, MarkKind.SET_RIR, load_kg, done, rir))
    rows.sets.append(
        SetRecord(
            line=record,
            kind=kind,
            number=number,
            planned_load_kg=load_kg,
            planned_reps=reps,
            load_kg=load_kg,
            reps=done,
            rir=rir,
            done_at=record.session.started_at + timedelta(minutes=4 * record.order + 3 * number),
        )
    )
    if not measured:
        return
    for i, mean in enumerate(work.velocities_mps, start=1):
        rows.reps.append(
            Rep(
                line=record,
                kind=kind,
                set_number=number,
                number=i,
                start_s=4.0 * i,
                mean_mps=round(mean, 3),
                mean_propulsive_mps=round(mean * 1.02, 3),
                peak_mps=round(mean * 1.52, 3),
                time_to_peak_s=round(0.55 * lift.simulated_range_m / mean, 3),
                range_m=lift.simulated_range_m,
                load_kg=load_kg,
            )
        )


def lived_season(
    rows: Rows, lifter: Lifter, start: date, competition_day: date, practices: list[Practice], restricted: frozenset[str]
) -> None:
    """Every session of a season from `start` up to yesterday."""
    plan = plan_season(start, competition_day)
    for week in plan.weeks:
        for planned in plan_week(plan, week, practices, restricted):
            if not start <= planned.day < lifter.today or lifter.rng.uniform() < MISSED_SHARE:
                continue
            lived_session(rows, lifter, planned, week.phase, (competition_day - planned.day).days)


def _line(slot: str, block: str, exercise_id: str, text: str, reason: str) -> PlannedLine:
    prescription: Prescription = parse(text)
    return PlannedLine(slot, block, exercise_id, prescription, reason, True, role=BlockRole.MAIN)


LIFTING_DAYS = (
    ("A", 0, "snatch", "front_squat"),
    ("B", 2, "clean_and_jerk", "back_squat"),
    ("C", 4, "snatch", "front_squat"),
)


def lived_lifting_year(rows: Rows, lifter: Lifter, start: date) -> None:
    """A weightlifter's year as it was written on the board: three days a week, three rising weeks and an easy one."""
    monday, index = monday_of(start), 0
    while monday < lifter.today:
        easy, wave = index % 4 == 3, index % 4
        pct = 70 if easy else 75 + 4 * wave
        sets = 3 if easy else 5
        for key, offset, lead, other in LIFTING_DAYS:
            day = monday + timedelta(days=offset)
            if day >= lifter.today or day < start or lifter.rng.uniform() < MISSED_SHARE:
                continue
            lines = (
                _line("A1", "A · weightlifting", lead, f"{sets} × 2 @ {pct} %", "each classic lift twice a week"),
                _line("B1", "B · squat", other, f"{max(2, sets - 1)} × 3 @ {min(88, pct + 4)} %", "legs for standing up"),
                _line("C1", "C · pull", "snatch_pull", "3 × 3 @ 85 %", "position off the floor"),
            )
            lived_session(rows, lifter, PlannedSession(key, day, "Classic lifts", "as every week", lines), "", None)
        monday += timedelta(days=7)
        index += 1


def masses(rows: Rows, lifter: Lifter) -> None:
    for week in range(52, -1, -2):
        day = lifter.today - timedelta(days=7 * week + 1)
        drift = 0.6 * np.sin(week / 8) + float(lifter.rng.normal(0, 0.25))
        rows.masses.append(
            BodyMass(athlete=lifter.athlete, day=day, mass_kg=round(lifter.person.mass_kg + (float(drift) if week else 0), 1))
        )
