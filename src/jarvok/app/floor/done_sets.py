"""What happens on the floor: one function each, in one transaction, safe to send twice."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from jarvok.app import clock
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.floor.models import AdviceRecord, PainReport, SensorStream, SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.app.facts.put_together import ChangeTogether, StoreTogether
from jarvok.app.floor.advising import after_warm_up, after_work_set
from jarvok.app.floor.at_hand import AtHand, put
from jarvok.app.floor.events import tell
from jarvok.app.floor.lines import FloorSet, floor_line, read_line, set_at
from jarvok.app.floor.streams import fell_silent
from jarvok.app.problems import NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.floor.advice import Trouble
from jarvok.core.floor.all_out import is_all_out
from jarvok.core.floor.measurable import TypedJump, check_jumps
from jarvok.core.floor.measures import check_measures, reps_in_rounds
from jarvok.core.floor.pain import check_felt
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.marks.conditions import from_raw
from jarvok.core.quantities.mass import check_load_kg, in_kg, said_mass
from jarvok.core.quantities.plates import lifted_kg, unit_of
from jarvok.core.session.forms import SIDES

_SETS = StoreTogether(SetRecord)


@dataclass(frozen=True)
class Done:
    """One set as it was done. With two sides the fewer repetitions of both count; `confirm` takes an improbable load.

    `parts` are the repetitions of each line where one tap logs several; `measures` results that are no load; `form` is
    "easier" or "harder" where the line holds such a form. A pain has a place (`pain_area`) and stops what loads it, unless it
    is carried on for a reason. `jumps` were measured where no mat of ours stands.
    """

    load_kg: float | None
    reps: int
    rir: float | None = None
    trouble: str = ""
    note: str = ""
    left_reps: int | None = None
    right_reps: int | None = None
    confirm: bool = False
    parts: tuple[int, ...] = ()
    form: str = ""
    measures: Mapping[str, float] = field(default_factory=dict)
    pain_area: str = ""
    carries_on: bool = False
    carry_on: str = ""
    jumps: tuple[TypedJump, ...] = ()

    @property
    def counted(self) -> int:
        """The repetitions that count."""
        sides = [n for n in (self.left_reps, self.right_reps) if n is not None]
        return min(sides) if len(sides) == 2 else self.reps


def check_set(done: Done) -> None:
    if done.load_kg is not None:
        check_load_kg(done.load_kg, "load_kg")
    for name, reps in (("reps", done.reps), ("left_reps", done.left_reps), ("right_reps", done.right_reps)):
        if reps is not None and not 0 <= reps <= 200:
            raise CoachError(f"{reps} repetitions cannot be.", where=name, accepted="0 to 200 are accepted.")
    if done.rir is not None and not 0 <= done.rir <= 10:
        raise CoachError(f"{done.rir:g} in reserve cannot be.", where="rir", accepted="0 to 10 are accepted.")
    for reps in done.parts:
        if not 0 <= reps <= 200:
            raise CoachError(f"{reps} repetitions cannot be.", where="parts", accepted="0 to 200 are accepted.")
    check_measures(done.measures)
    check_jumps(done.jumps)
    if done.form and done.form not in SIDES:
        raise CoachError(f"“{done.form}” is no form.", where="form", accepted=" or ".join(SIDES))
    if done.trouble and done.trouble not in set(Trouble):
        raise CoachError(f"“{done.trouble}” is not known.", where="trouble", accepted="form_broke or pain.")
    if done.trouble == Trouble.PAIN:
        check_felt(done.pain_area, done.carry_on, done.carries_on)


def line_and_set(session: TrainingSession, line_id: int, kind: str, number: int) -> tuple[SessionLine, FloorSet]:
    return set_of(read_line(session, line_id), kind, number)


def set_of(line: SessionLine | None, kind: str, number: int) -> tuple[SessionLine, FloorSet]:
    """A line and a set of it as it stands; raises `CoachError` for one that is not there."""
    if line is None:
        raise CoachError("This line is not in the session.", where="line_id")
    item = next((s for s in floor_line(line).sets if s.kind == kind and s.number == number), None)
    if item is None:
        raise CoachError(f"{line.slot} has no {kind} set {number}.", where="number")
    return line, item


def typed_kg(session: TrainingSession, line: SessionLine | None, load: float, unit: str) -> float:
    """A load as typed in a unit, in kg: the one that the plates make, where it is that."""
    if unit not in ("kg", "lb"):
        raise CoachError(f"“{unit}” is no unit of a load.", where="unit", accepted="kg or lb.")
    implement = implement_for(exercise(line.exercise_id), kit_of(session.athlete.kit)) if line is not None else None
    return lifted_kg(load, implement) if unit_of(implement) == unit else in_kg(load, unit)


def as_logged(line: SessionLine, record: SetRecord) -> str:
    unit = floor_line(line).sets[0].unit
    load = f"{said_mass(record.load_kg, unit)} × " if record.load_kg else ""
    left = f", {record.rir:g} left" if record.rir is not None else ""
    return f"set {record.number} of {line.slot}: {load}{record.reps}{left}"


def is_alike(record: SetRecord, done: Done) -> bool:
    """Whether a word says the same as what stands: nothing is said twice."""
    said = (done.load_kg, done.counted, done.left_reps, done.right_reps, done.rir, done.trouble, done.note[:200], done.form)
    stands = (
        record.load_kg, record.reps, record.left_reps, record.right_reps, record.rir, record.trouble, record.note, record.form,
    )  # fmt: skip
    return said == stands and dict(done.measures) == record.measures and not done.jumps and not done.parts


def store_step(held: AtHand, step: ToldStep, line: SessionLine, item: FloorSet, done: Done) -> None:
    """Store what one tap says: the set, and with it all others of its step, each as told unless `parts` say otherwise.

    Pain stops at the set that was tapped: what comes after it was not done.
    """
    lines = held.lines()
    places = [(place, set_at(lines, place)) for place in step.sets]
    planned = [found.planned.reps or 0 for _, found in places if found is not None]
    rounds = done.measures.get("rounds")
    if rounds is not None:
        counted = reps_in_rounds(planned, int(rounds), int(done.measures.get("extra_reps", 0)))
    elif done.parts and len(done.parts) != len(planned):
        raise CoachError("A number for each lift is wanted.", where="parts", accepted=f"{len(planned)} numbers are accepted.")
    else:
        counted = list(done.parts) or planned
    for n, (place, found) in enumerate(places):
        if found is None or found.record is not None:
            continue
        is_first = found.kind == item.kind and found.number == item.number and lines[place.line].line.pk == line.pk
        if done.trouble == Trouble.PAIN and not is_first:
            continue
        reps = counted[n] if done.parts or (rounds is not None and planned[n]) or not is_first else done.reps
        if is_first:
            said = replace(done, reps=reps)
        else:
            load_kg = done.load_kg if step.is_one_bar else found.planned_load_kg
            said = Done(load_kg, reps, confirm=True)
        store(held, lines[place.line].line, found, said, step_id=step.id, advises=is_first)


def store(held: AtHand, line: SessionLine, item: FloorSet, done: Done, *, step_id: str = "", advises: bool = True) -> None:
    """Store a set that was done, and what is said after it; both belong to the line that is at hand from then on."""
    session = held.session
    held.writes(line)
    speaks = advises and done.trouble != Trouble.PAIN and (item.kind == SetKind.WORK or item.number == len(line.ramp))
    as_told = item.kind == SetKind.RAMP and done.load_kg is not None and done.load_kg <= (item.planned_load_kg or 0.0)
    if speaks or not as_told:  # a warm-up as told asks nothing of what is known
        _check_probable(held, line, item, done)
    form = done.form if done.form and getattr(line, done.form) else ""
    pending_advice_lapses(line)
    record = _SETS.store(
        line=line,
        kind=item.kind,
        number=item.number,
        planned_load_kg=item.planned_load_kg,
        planned_reps=item.planned.reps,
        load_kg=done.load_kg,
        reps=done.counted,
        left_reps=done.left_reps,
        right_reps=done.right_reps,
        rir=done.rir,
        is_all_out=item.kind == SetKind.WORK and is_all_out([ToldSet.from_raw(p) for p in line.planned], line.text, item.number),
        trouble=done.trouble,
        note=done.note[:200],
        step=step_id,
        form=form,
        measures={**device_velocity(line, item), **done.measures},
        has_gap=held.placed.has_streams and _has_gap(line, item, done.counted),
        jumps=[
            {"height_cm": j.height_cm, "contact_s": j.contact_s, "rsi": round(j.rsi, 2) if j.rsi else None} for j in done.jumps
        ],
        rack=held.placed.rack,
        done_at=max(clock.now(), session.started_at),
    )
    put(line, "sets", record)
    if (
        item.reps or item.taken_out
    ):  # velocities of an easier or harder form are no evidence of the lift: without a load in no profile
        line.reps.filter(kind=item.kind, set_number=item.number).update(load_kg=None if form else done.load_kg)
        for rep in (*item.reps, *item.taken_out):
            rep.load_kg = None if form else done.load_kg
    if done.trouble == Trouble.PAIN:
        carried_on = done.carry_on.strip() if done.carries_on else ""
        pain = PainReport.objects.create(session=session, record=record, area=done.pain_area, carried_on=carried_on)
        put(session, "pains", pain)
    elif not speaks:
        pass
    elif item.kind == SetKind.WORK:
        after_work_set(held, line, item.number)
    else:
        after_warm_up(held, line)
    held.told.append(tell(session, "changed", {"line_id": line.pk}))


def _check_probable(held: AtHand, line: SessionLine, item: FloorSet, done: Done) -> None:
    """Raise `NeedsConfirmation` for a load far over what is known of the lift."""
    state = held.book.state(held.session.athlete_id, line.exercise_id, from_raw(line.conditions))
    improbable = 1 + held.book.rules["marks.improbable_set_pct"] / 100
    if done.load_kg is not None and state.max_kg and done.load_kg > state.at_share(improbable) and not done.confirm:
        raise NeedsConfirmation(
            f"{said_mass(done.load_kg, item.unit)} is far over the max of {said_mass(state.max_kg, item.unit, whole=True)}.",
            where="load_kg",
            accepted="Log it again to confirm.",
        )


def device_velocity(line: SessionLine, item: FloorSet) -> dict[str, float]:
    """The fastest repetition that a device with results only gave of the set: kept with it, as if it were typed."""
    return {"velocity_mps": max(item.device_mps)} if item.device_mps and not item.reps else {}


def _has_gap(line: SessionLine, item: FloorSet, reps: int) -> bool:
    """Whether a sensor dropped out during the set: its numbers are then of what is left."""
    if exercise(line.exercise_id).motion is None:
        return False
    here = SensorStream.objects.filter(line=line, kind=item.kind, set_number=item.number)
    streams = list(here.values_list("gaps", "closed_at", "token"))
    if any(gaps > 0 for gaps, _, _ in streams):
        return True
    return len(item.reps) < reps and fell_silent(token for _, closed_at, token in streams if closed_at is None)


_LAPSE = ChangeTogether(lambda pending: (AdviceRecord.objects.filter(pk__in=pending), {"outcome": "passed"}))


def pending_advice_lapses(line: SessionLine) -> None:
    pending = [a.pk for a in line.advice.all() if not a.outcome and a.taken_back_at is None and a.move != "done"]
    if pending:
        _LAPSE.change(pending)
        for advice in line.advice.all():
            advice.outcome = "passed" if advice.pk in pending else advice.outcome
