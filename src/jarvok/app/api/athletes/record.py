"""An athlete's record: who they are, restrictions, faults, body mass, kit and practice."""

from __future__ import annotations

from datetime import date
from typing import Literal

from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.permission import person_of, squads_seen
from jarvok.app.api.athletes.shapes import ChoiceOut
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import add_fault as add_fault_of
from jarvok.app.athletes.actions import add_mass as write_mass
from jarvok.app.athletes.actions import add_practice as write_practice
from jarvok.app.athletes.actions import add_restriction as add_restriction_to
from jarvok.app.athletes.actions import clear_for_test as clear
from jarvok.app.athletes.actions import end_fault as fixed
from jarvok.app.athletes.actions import end_restriction, remove_practice, tick_trait
from jarvok.app.athletes.reading import athlete_alone, practice_rows_of, practice_span_words, restriction_tags
from jarvok.app.centre.habits import unit_at_the_desk
from jarvok.app.facts.athletes.models import Athlete, Fault, Practice, Restriction, Squad
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.put_together import Objects, Part
from jarvok.app.schema import Schema
from jarvok.app.seasons.actions import join_squad
from jarvok.core.chooser.known import lifts_with_faults, traits_for
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.limiter import FaultKind, fault_kinds
from jarvok.core.quantities.mass import in_kg, in_unit, said_mass

router = Router(tags=["record"])


class RestrictionRecord(Schema):
    id: int
    tag: str
    words: str
    side: str
    set_by: str
    since: date
    until: date | None
    is_open: bool
    cleared_by: str
    cleared_on: date | None


class FaultRecord(Schema):
    id: int
    exercise: str
    fault: str
    since: date
    until: date | None
    addresses: list[str]


class MassRecord(Schema):
    day: date
    mass_kg: float
    words: str


class PracticeRecord(Schema):
    id: int
    weekday: int
    hour: float
    minutes: int
    hardness: int
    own: bool
    sport: str
    goes_on: str


class TraitChoice(Schema):
    """Something of an athlete that can be ticked, under the heading it stands with, and what it asks of the week."""

    id: str
    kind: str
    name: str
    asks: str


class LiftChoice(Schema):
    """An exercise with the faults that can be seen in it."""

    id: str
    name: str
    faults: list[str]


class RecordOut(Schema):
    athlete_id: int
    athlete_name: str
    squad_id: int
    squad: str
    group: str
    position: str
    sex: str
    birth_date: date | None
    training_age_years: float
    body_mass_class: str
    class_limit: float | None  # in `unit`
    unit: str
    kit_id: int | None
    sessions_a_week: int | None
    minutes_a_session: int | None
    supervised: bool
    note: str
    dominant_side: str
    limb_note: str
    height_cm: float | None
    goals: str
    traits: list[str]
    trait_choices: list[TraitChoice]
    restrictions: list[RestrictionRecord]
    faults: list[FaultRecord]
    masses: list[MassRecord]
    practices: list[PracticeRecord]
    squads: list[ChoiceOut]
    kits: list[ChoiceOut]
    tags: list[ChoiceOut]
    fault_choices: list[ChoiceOut]
    lift_choices: list[LiftChoice]


class NewRecord(Schema):
    name: str | None = None
    squad_id: int | None = None
    group: str | None = None
    position: str | None = None
    sex: str | None = None
    birth_date: date | None = None
    training_age_years: float | None = None
    body_mass_class: str | None = None
    class_limit: float | None = None  # in `unit`
    unit: Literal["kg", "lb"] = "kg"
    kit_id: int | None = None
    sessions_a_week: int | None = None
    minutes_a_session: int | None = None
    supervised: bool | None = None
    note: str | None = None
    dominant_side: str | None = None
    limb_note: str | None = None
    height_cm: float | None = None
    goals: str | None = None
    traits: list[str] | None = None


class TickIn(Schema):
    is_true: bool


class NewRestriction(Schema):
    tag: str
    words: str
    side: str = ""
    set_by: str
    since: date
    until: date | None = None


class NewFault(Schema):
    exercise_id: str
    fault: str
    since: date


class NewMass(Schema):
    day: date
    mass: float
    unit: Literal["kg", "lb"] = "kg"


_PARTS = tuple(Part(Athlete, name) for name in ("restrictions", "faults", "masses"))
_PRACTICES = Part(Squad, "practices")
_KITS = Objects(lambda _: KitRecord.objects.all())


def _restriction(r: Restriction, today: date) -> RestrictionRecord:
    return RestrictionRecord(
        id=r.pk,
        tag=r.tag,
        words=r.words,
        side=r.side,
        set_by=r.set_by,
        since=r.since,
        until=r.until,
        is_open=r.until is None or r.until >= today,
        cleared_by=r.cleared_by,
        cleared_on=r.cleared_on,
    )


def _fault(f: Fault, kind: FaultKind) -> FaultRecord:
    return FaultRecord(
        id=f.pk,
        exercise=exercise(f.exercise_id).name,
        fault=kind.name,
        since=f.since,
        until=f.until,
        addresses=list(kind.addresses),
    )


def record_out(request: HttpRequest, athlete_id: int) -> RecordOut:
    a, today, kinds = athlete_alone(athlete_id, _PARTS), clock.today(), fault_kinds()
    _PRACTICES.read([a.squad])
    return RecordOut(
        athlete_id=a.pk,
        athlete_name=a.name,
        squad_id=a.squad_id,
        squad=a.squad.name,
        group=a.group,
        position=a.position,
        sex=a.sex,
        birth_date=a.birth_date,
        training_age_years=round(a.years_of_lifting_on(clock.today()), 1),
        body_mass_class=a.body_mass_class,
        class_limit=round(in_unit(a.class_limit_kg, unit_at_the_desk()), 1) if a.class_limit_kg is not None else None,
        unit=unit_at_the_desk(),
        kit_id=a.kit_id,
        sessions_a_week=a.sessions_a_week,
        minutes_a_session=a.minutes_a_session,
        supervised=a.supervised,
        note=a.note,
        dominant_side=a.dominant_side,
        limb_note=a.limb_note,
        height_cm=a.height_cm,
        goals=a.goals,
        traits=list(a.traits),
        trait_choices=[
            TraitChoice(id=t.id, kind=t.kind, name=t.name, asks="; ".join(dict.fromkeys(w for n in t.needs for w in n.words)))
            for t in traits_for(a.squad.sport)
        ],
        restrictions=[_restriction(r, today) for r in a.restrictions.all()],
        faults=[_fault(f, kinds[f.fault]) for f in a.faults.all()],
        masses=[
            MassRecord(day=m.day, mass_kg=m.mass_kg, words=said_mass(round(m.mass_kg, 2), unit_at_the_desk()))
            for m in list(a.masses.all())[-30:][::-1]
        ],
        practices=[_practice(p) for p in practice_rows_of(a)],
        squads=[ChoiceOut(id=str(s.pk), name=s.name) for s in squads_seen(person_of(request))],
        kits=[ChoiceOut(id=str(k.pk), name=k.name) for k in _KITS.all()],
        tags=[ChoiceOut(id=t, name=t.replace("_", " ")) for t in restriction_tags()],
        fault_choices=[ChoiceOut(id=f.id, name=f.name) for f in kinds.values()],
        lift_choices=[LiftChoice(id=e.id, name=e.name, faults=list(faults)) for e, faults in lifts_with_faults()],
    )


@router.get("/athletes/{int:athlete_id}/record", response={200: RecordOut, **ERRORS})
def read_record(request: HttpRequest, athlete_id: int) -> RecordOut:
    return record_out(request, athlete_id)


@router.patch("/athletes/{int:athlete_id}/record", response={200: RecordOut, **ERRORS})
def change_record(request: HttpRequest, athlete_id: int, payload: NewRecord) -> RecordOut:
    """Change what is sent; what is not sent stays. An empty date, limit or kit is taken out."""
    sent = payload.dict(exclude_unset=True, exclude={"unit"})
    if "class_limit" in sent:
        limit = sent.pop("class_limit")
        sent["class_limit_kg"] = in_kg(limit, payload.unit) if limit is not None else None
    join_squad.change(who_of(request), get_object_or_404(Athlete, pk=athlete_id), sent)
    return record_out(request, athlete_id)


@router.put("/athletes/{int:athlete_id}/traits/{trait}", response={200: RecordOut, **ERRORS})
def tick_one(request: HttpRequest, athlete_id: int, trait: str, payload: TickIn) -> RecordOut:
    """Tick one thing that is true of an athlete, or take it back; the others stay as they are."""
    tick_trait.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id), trait, is_true=payload.is_true)
    return record_out(request, athlete_id)


@router.post("/athletes/{int:athlete_id}/restrictions", response={200: RecordOut, **ERRORS})
def add_restriction(request: HttpRequest, athlete_id: int, payload: NewRestriction) -> RecordOut:
    add_restriction_to.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id), **payload.dict())
    return record_out(request, athlete_id)


@router.post("/restrictions/{int:restriction_id}/lift", response={200: RecordOut, **ERRORS})
def lift_restriction(request: HttpRequest, restriction_id: int) -> RecordOut:
    """Cleared: the restriction ended yesterday; it stays in the record."""
    found = get_object_or_404(Restriction.objects.select_related("athlete"), pk=restriction_id)
    end_restriction.run(who_of(request), found)
    return record_out(request, found.athlete_id)


class Clearance(Schema):
    cleared_by: str


@router.post("/restrictions/{int:restriction_id}/clear-for-test", response={200: RecordOut, **ERRORS})
def clear_for_test(request: HttpRequest, restriction_id: int, payload: Clearance) -> RecordOut:
    """Note who cleared the athlete for the conservative test; the restriction itself stands."""
    found = get_object_or_404(Restriction.objects.select_related("athlete"), pk=restriction_id)
    clear.run(who_of(request), found, payload.cleared_by)
    return record_out(request, found.athlete_id)


@router.post("/athletes/{int:athlete_id}/faults", response={200: RecordOut, **ERRORS})
def add_fault(request: HttpRequest, athlete_id: int, payload: NewFault) -> RecordOut:
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    add_fault_of.run(who_of(request), athlete, payload.exercise_id, payload.fault, payload.since)
    return record_out(request, athlete_id)


@router.post("/faults/{int:fault_id}/end", response={200: RecordOut, **ERRORS})
def end_fault(request: HttpRequest, fault_id: int) -> RecordOut:
    """Gone: the fault ended today and stays in the record."""
    found = get_object_or_404(Fault.objects.select_related("athlete"), pk=fault_id)
    fixed.run(who_of(request), found)
    return record_out(request, found.athlete_id)


@router.post("/athletes/{int:athlete_id}/masses", response={200: RecordOut, **ERRORS})
def add_mass(request: HttpRequest, athlete_id: int, payload: NewMass) -> RecordOut:
    write_mass.run(who_of(request), get_object_or_404(Athlete, pk=athlete_id), payload.day, payload.mass, payload.unit)
    return record_out(request, athlete_id)


class NewPractice(Schema):
    """A practice of the squad, or of the athlete alone: of a second sport, say."""

    weekday: int
    hour: float
    minutes: int
    hardness: int
    own: bool = False
    sport: str = ""
    since: date | None = None
    until: date | None = None


@router.post("/athletes/{int:athlete_id}/practices", response={200: RecordOut, **ERRORS})
def add_practice(request: HttpRequest, athlete_id: int, payload: NewPractice) -> RecordOut:
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    write_practice.run(who_of(request), athlete, **payload.dict())
    return record_out(request, athlete_id)


@router.delete("/athletes/{int:athlete_id}/practices/{int:practice_id}", response={200: RecordOut, **ERRORS})
def drop_practice(request: HttpRequest, athlete_id: int, practice_id: int) -> RecordOut:
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    found = next((p for p in practice_rows_of(athlete) if p.pk == practice_id), None)
    if found is None:
        raise Http404
    remove_practice.run(who_of(request), found)
    return record_out(request, athlete_id)


def _practice(p: Practice) -> PracticeRecord:
    return PracticeRecord(
        id=p.pk,
        weekday=p.weekday,
        hour=p.hour,
        minutes=p.minutes,
        hardness=p.hardness,
        own=p.athlete_id is not None,
        sport=p.sport,
        goes_on=practice_span_words(p.since, p.until, [date.fromisoformat(d) for d in p.but_not], clock.today()),
    )
