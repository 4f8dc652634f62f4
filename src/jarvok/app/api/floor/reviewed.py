"""A session looked back on: planned against done, what it says of the max, what changes next time."""

from __future__ import annotations

from datetime import date

from jarvok.app.api.athletes.rises import RiseOut, rise_out
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.floor.lines import FloorSet, counted_mps, read_session
from jarvok.app.floor.pains import as_told, standing
from jarvok.app.floor.review import LiftChange, NextLoad, SessionReview, review
from jarvok.app.schema import Schema
from jarvok.app.shapes import WorkingOut, working_out
from jarvok.core.floor.measures import words_of
from jarvok.core.floor.readiness import AREAS
from jarvok.core.learning.new_bests import Best
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import Kit, implement_for
from jarvok.core.quantities.mass import in_kg, said_mass
from jarvok.core.quantities.plates import unit_of


class ReviewLineOut(Schema):
    slot: str
    exercise: str
    text: str
    planned_sets: int
    done_sets: int
    planned_volume_kg: float
    done_volume_kg: float
    words: str
    sets: list[str]


class LiftChangeOut(Schema):
    exercise_id: str
    exercise: str
    unit: str
    before_kg: float | None
    after_kg: float | None
    before: str  # in the unit of the plates, as everything below
    after: str
    error: str
    working: WorkingOut | None
    velocity: str
    velocity_range: str
    velocity_missing: list[str]
    proposal: RiseOut | None


class ReviewPainOut(Schema):
    """A pain told in the session: what was told, whether it was carried on, and the word on it, if there is one."""

    id: int
    words: str
    carried_on: str
    answer: str
    may_restrict: bool


class BestOut(Schema):
    """Something that went beyond everything of its kind before: whose, of what, when, and what the best was until then."""

    athlete_id: int
    athlete: str
    exercise: str
    kind: str
    words: str
    day: date
    ref: str


def best_out(best: Best, exercise_id: str, athlete: Athlete) -> BestOut:
    """A best in the unit of its plates."""
    return BestOut(
        athlete_id=athlete.pk,
        athlete=athlete.name,
        exercise=exercise(exercise_id).name,
        kind=best.kind,
        words=best.words(_unit(exercise_id, kit_of(athlete.kit))),
        day=best.day,
        ref=best.ref,
    )


class NextLoadOut(Schema):
    day: date
    key: str
    slot: str
    exercise: str
    text: str
    before_kg: float | None
    after_kg: float | None
    before: str
    after: str
    exact: str
    waits: str
    working: WorkingOut | None


class ReviewOut(Schema):
    session_id: int
    athlete_id: int
    athlete_name: str
    day: date
    theme: str
    days_to_go: int | None
    srpe: float | None
    minutes: float | None
    load_au: float | None
    lines: list[ReviewLineOut]
    lifts: list[LiftChangeOut]
    next_loads: list[NextLoadOut]
    pains: list[ReviewPainOut]
    next_day: date | None
    next_key: str
    bests: list[BestOut]


def review_out(session_id: int) -> ReviewOut:
    """A session looked back on, in the unit of each lift's plates."""
    session = read_session(session_id)
    found, kit = review(session), kit_of(session.athlete.kit)
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
                sets=[
                    _done_words(s, exercise(line.line.exercise_id).velocity == "peak")
                    for s in line.sets
                    if s.kind == "work" and s.record
                ],
            )
            for line, r in found.lines
        ],
        lifts=[_lift_out(found, c, session.athlete_id, kit) for c in found.lifts],
        next_loads=[_next_out(found, n, kit) for n in found.next_loads],
        pains=[
            ReviewPainOut(
                id=p.pk, words=as_told(p).words, carried_on=p.carried_on, answer=p.answer, may_restrict=bool(AREAS[p.area][1])
            )
            for p in standing(session)
        ],
        next_day=found.next_day,
        next_key=found.next_key,
        bests=[best_out(best, lift, session.athlete) for lift, best in found.bests],
    )


def _unit(exercise_id: str, kit: Kit) -> str:
    return unit_of(implement_for(exercise(exercise_id), kit))


def _figure(mass_kg: float | None, unit: str, digits: int = 1) -> str:
    """A mass that is no load of plates, in a unit, without it; nothing where there is none."""
    return f"{mass_kg / in_kg(1.0, unit):.{digits}f}" if mass_kg is not None else ""


def _lift_out(found: SessionReview, c: LiftChange, athlete_id: int, kit: Kit) -> LiftChangeOut:
    unit = _unit(c.exercise_id, kit)
    by = c.by_velocity
    span = by.interval_kg if by is not None else None
    return LiftChangeOut(
        exercise_id=c.exercise_id,
        exercise=exercise(c.exercise_id).name,
        unit=unit,
        before_kg=round(c.before.value_kg, 1) if c.before else None,
        after_kg=round(c.after.value_kg, 1) if c.after else None,
        before=_figure(c.before.value_kg if c.before else None, unit),
        after=_figure(c.after.value_kg if c.after else None, unit),
        error=_figure(c.after.error_kg if c.after else None, unit),
        working=working_out(c.after.working) if c.after else None,
        velocity=_figure(by.load_kg, unit) if by is not None and by.load_kg else "",
        velocity_range=f"{_figure(span[0], unit, 0)} to {_figure(span[1], unit, 0)}" if span else "",
        velocity_missing=list(by.missing) if by is not None else ["no velocities were measured"],
        proposal=rise_out(found.book, athlete_id, c.exercise_id),
    )


def _next_out(found: SessionReview, n: NextLoad, kit: Kit) -> NextLoadOut:
    unit = _unit(n.exercise_id, kit)
    before_kg, after_kg = n.before.load_kg if n.before else None, n.after.load_kg
    exact = (n.before.wanted_kg if n.before else None, n.after.wanted_kg)
    moved = _figure(exact[0], unit) != _figure(exact[1], unit)
    return NextLoadOut(
        day=n.day,
        key=n.key,
        slot=n.slot,
        exercise=exercise(n.exercise_id).name,
        text=n.text,
        before_kg=before_kg,
        after_kg=after_kg,
        before=said_mass(before_kg, unit) if before_kg is not None else "–",
        after=said_mass(after_kg, unit) if after_kg is not None else "–",
        exact=f"{_figure(exact[0], unit) or '–'} to {_figure(exact[1], unit) or '–'} before rounding" if moved else "",
        waits=found.waits(n.exercise_id),
        working=working_out(n.after.working) if n.after.working else None,
    )


def _done_words(item: FloorSet, is_peak: bool) -> str:
    record = item.record
    assert record is not None
    load = f"{said_mass(record.load_kg, item.unit)} × " if record.load_kg else ""
    words = words_of(record.measures) or f"{load}{record.reps}"
    if record.rir is not None:
        words += f", {record.rir:g} in reserve"
    if velocities := counted_mps(item, is_peak):
        words += f", best {max(velocities):.2f} m/s{' peak' if is_peak else ''}"
    return words
