"""An athlete's record: who they are, restrictions, faults, body mass, kit and practice."""

from __future__ import annotations

from datetime import date

from django.db import transaction
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.athletes.api import ERRORS
from jarvok.app.athletes.models import Athlete, BodyMass, Fault, Practice, Restriction, Squad
from jarvok.app.athletes.queries import practice_rows_of
from jarvok.app.athletes.shapes import ChoiceOut
from jarvok.app.centre.models import KitRecord
from jarvok.app.problems import Conflict
from jarvok.app.schema import Schema
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.limiter import fault_kinds

router = Router(tags=["record"])
MASS_LIMITS_KG = (20.0, 250.0)


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


class PracticeRecord(Schema):
    id: int
    weekday: int
    hour: float
    minutes: int
    hardness: int
    own: bool
    sport: str


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
    class_limit_kg: float | None
    kit_id: int | None
    sessions_a_week: int | None
    minutes_a_session: int | None
    supervised: bool
    note: str
    dominant_side: str
    limb_note: str
    height_cm: float | None
    goals: str
    restrictions: list[RestrictionRecord]
    faults: list[FaultRecord]
    masses: list[MassRecord]
    practices: list[PracticeRecord]
    squads: list[ChoiceOut]
    kits: list[ChoiceOut]
    tags: list[ChoiceOut]
    fault_choices: list[ChoiceOut]
    lift_choices: list[ChoiceOut]


class NewRecord(Schema):
    name: str | None = None
    squad_id: int | None = None
    group: str | None = None
    position: str | None = None
    sex: str | None = None
    birth_date: date | None = None
    training_age_years: float | None = None
    body_mass_class: str | None = None
    class_limit_kg: float | None = None
    kit_id: int | None = None
    sessions_a_week: int | None = None
    minutes_a_session: int | None = None
    supervised: bool | None = None
    note: str | None = None
    dominant_side: str | None = None
    limb_note: str | None = None
    height_cm: float | None = None
    goals: str | None = None


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
    mass_kg: float


def _tags() -> list[ChoiceOut]:
    """What a restriction may take out: patterns, regions and tags that the library knows."""
    patterns = {e.pattern for e in exercises().values() if e.is_loaded or e.pattern in ("jump", "run", "throw")}
    tags = {tag for e in exercises().values() for tag in e.tags}
    return [ChoiceOut(id=t, name=t.replace("_", " ")) for t in sorted(patterns | tags | {"upper", "lower"})]


def record_out(athlete_id: int) -> RecordOut:
    rows = Athlete.objects.select_related("squad").prefetch_related("restrictions", "faults", "masses", "squad__practices")
    a, today, kinds = get_object_or_404(rows, pk=athlete_id), clock.today(), fault_kinds()
    return RecordOut(
        athlete_id=a.pk,
        athlete_name=a.name,
        squad_id=a.squad_id,
        squad=a.squad.name,
        group=a.group,
        position=a.position,
        sex=a.sex,
        birth_date=a.birth_date,
        training_age_years=a.training_age_years,
        body_mass_class=a.body_mass_class,
        class_limit_kg=a.class_limit_kg,
        kit_id=a.kit_id,
        sessions_a_week=a.sessions_a_week,
        minutes_a_session=a.minutes_a_session,
        supervised=a.supervised,
        note=a.note,
        dominant_side=a.dominant_side,
        limb_note=a.limb_note,
        height_cm=a.height_cm,
        goals=a.goals,
        restrictions=[
            RestrictionRecord(
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
            for r in a.restrictions.all()
        ],
        faults=[
            FaultRecord(
                id=f.pk,
                exercise=exercise(f.exercise_id).name,
                fault=kinds[f.fault].name,
                since=f.since,
                until=f.until,
                addresses=list(kinds[f.fault].addresses),
            )
            for f in a.faults.all()
        ],
        masses=[MassRecord(day=m.day, mass_kg=m.mass_kg) for m in list(a.masses.all())[-30:][::-1]],
        practices=[_practice(p) for p in practice_rows_of(a)],
        squads=[ChoiceOut(id=str(s.pk), name=s.name) for s in Squad.objects.all()],
        kits=[ChoiceOut(id=str(k.pk), name=k.name) for k in KitRecord.objects.all()],
        tags=_tags(),
        fault_choices=[ChoiceOut(id=f.id, name=f.name) for f in kinds.values()],
        lift_choices=[ChoiceOut(id=e.id, name=e.name) for e in exercises().values() if e.is_loaded and e.same_lift == e.id],
    )


@router.get("/athletes/{int:athlete_id}/record", response={200: RecordOut, **ERRORS})
def read_record(request: HttpRequest, athlete_id: int) -> RecordOut:
    return record_out(athlete_id)


def _check(payload: NewRecord) -> None:
    today = clock.today()
    if payload.name is not None and not 1 <= len(payload.name.strip()) <= 80:
        raise CoachError("An athlete needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if payload.birth_date is not None and not 5 <= (today - payload.birth_date).days / 365.25 <= 100:
        raise CoachError(
            f"Born {payload.birth_date:%-d %B %Y} cannot be.", where="birth_date", accepted="Ages from 5 to 100 are accepted."
        )
    limits = {
        "training_age_years": (0, 60),
        "class_limit_kg": (20, 250),
        "height_cm": (90, 240),
        "sessions_a_week": (0, 21),
        "minutes_a_session": (5, 400),
    }
    for name, (low, high) in limits.items():
        value = getattr(payload, name)
        if value is not None and not low <= value <= high:
            raise CoachError(
                f"{value:g} cannot be the {name.replace('_', ' ')}.", where=name, accepted=f"{low} to {high} are accepted."
            )
    if payload.dominant_side not in (None, "", "left", "right"):
        raise CoachError("A side is left or right.", where="dominant_side", accepted="left, right or none")
    lengths = {"group": 40, "position": 40, "sex": 10, "body_mass_class": 20, "note": 200, "limb_note": 120, "goals": 200}
    for name, most in lengths.items():
        if len(getattr(payload, name) or "") > most:
            raise CoachError(f"The {name.replace('_', ' ')} is too long.", where=name, accepted=f"Up to {most} characters.")


@router.patch("/athletes/{int:athlete_id}/record", response={200: RecordOut, **ERRORS})
def change_record(request: HttpRequest, athlete_id: int, payload: NewRecord) -> RecordOut:
    """Change what is sent; what is not sent stays. An empty date, limit or kit is taken out."""
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    _check(payload)
    sent = payload.dict(exclude_unset=True)
    if "squad_id" in sent:
        get_object_or_404(Squad, pk=sent["squad_id"])
    if sent.get("kit_id") is not None:
        get_object_or_404(KitRecord, pk=sent["kit_id"])
    optional = {"birth_date", "class_limit_kg", "height_cm", "kit_id", "sessions_a_week", "minutes_a_session"}
    with transaction.atomic():
        for key, value in sent.items():
            if value is not None or key in optional:
                setattr(athlete, key, value.strip() if isinstance(value, str) else value)
        athlete.save()
    return record_out(athlete_id)


@router.post("/athletes/{int:athlete_id}/restrictions", response={200: RecordOut, **ERRORS})
def add_restriction(request: HttpRequest, athlete_id: int, payload: NewRestriction) -> RecordOut:
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    if payload.tag not in {t.id for t in _tags()}:
        raise CoachError("The library does not know that.", where="tag", accepted="Choose a pattern, region or range.")
    if not payload.words.strip() or not payload.set_by.strip():
        raise CoachError("A restriction says what, and who set it.", where="words" if not payload.words.strip() else "set_by")
    if payload.until is not None and payload.until < payload.since:
        raise CoachError("It ends before it begins.", where="until", accepted="A day from its first day on.")
    Restriction.objects.create(
        athlete=athlete, tag=payload.tag, words=payload.words.strip()[:120], side=payload.side[:10],
        set_by=payload.set_by.strip()[:60], since=payload.since, until=payload.until,
    )  # fmt: skip
    return record_out(athlete_id)


@router.post("/restrictions/{int:restriction_id}/lift", response={200: RecordOut, **ERRORS})
def lift_restriction(request: HttpRequest, restriction_id: int) -> RecordOut:
    """Cleared: the restriction ended yesterday; it stays in the record."""
    found = get_object_or_404(Restriction, pk=restriction_id)
    yesterday = date.fromordinal(clock.today().toordinal() - 1)
    if found.until is not None and found.until <= yesterday:
        raise Conflict("This restriction is over already.")
    found.until = yesterday
    found.save()
    return record_out(found.athlete_id)


class Clearance(Schema):
    cleared_by: str


@router.post("/restrictions/{int:restriction_id}/clear-for-test", response={200: RecordOut, **ERRORS})
def clear_for_test(request: HttpRequest, restriction_id: int, payload: Clearance) -> RecordOut:
    """Note who cleared the athlete for the conservative test; the restriction itself stands."""
    found = get_object_or_404(Restriction, pk=restriction_id)
    who = payload.cleared_by.strip()
    if not 1 <= len(who) <= 60:
        raise CoachError("A clearance note says who gave it.", where="cleared_by", accepted="1 to 60 characters are accepted.")
    if found.until is not None and found.until < clock.today():
        raise Conflict("This restriction is over already.")
    found.cleared_by, found.cleared_on = who, clock.today()
    found.save()
    return record_out(found.athlete_id)


@router.post("/athletes/{int:athlete_id}/faults", response={200: RecordOut, **ERRORS})
def add_fault(request: HttpRequest, athlete_id: int, payload: NewFault) -> RecordOut:
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    lift = exercise(payload.exercise_id)
    kind = fault_kinds().get(payload.fault)
    if kind is None:
        raise CoachError("There is no such fault.", where="fault")
    if lift.pattern not in kind.patterns:
        raise CoachError(
            f"{kind.name} is not a fault of the {lift.name.lower()}.", where="fault", accepted="Another lift or fault."
        )
    Fault.objects.create(athlete=athlete, exercise_id=lift.id, fault=kind.id, since=payload.since)
    return record_out(athlete_id)


@router.post("/faults/{int:fault_id}/end", response={200: RecordOut, **ERRORS})
def end_fault(request: HttpRequest, fault_id: int) -> RecordOut:
    """Gone: the fault ended today and stays in the record."""
    found = get_object_or_404(Fault, pk=fault_id)
    found.until = date.fromordinal(clock.today().toordinal() - 1)
    found.save()
    return record_out(found.athlete_id)


@router.post("/athletes/{int:athlete_id}/masses", response={200: RecordOut, **ERRORS})
def add_mass(request: HttpRequest, athlete_id: int, payload: NewMass) -> RecordOut:
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    if payload.day > clock.today():
        raise CoachError(f"{payload.day:%-d %B %Y} is still to come.", where="day", accepted="Today or an earlier day.")
    low, high = MASS_LIMITS_KG
    if not low <= payload.mass_kg <= high:
        raise CoachError(
            f"A body mass of {payload.mass_kg:g} kg cannot be.", where="mass_kg", accepted=f"{low:g} to {high:g} kg are accepted."
        )
    BodyMass.objects.update_or_create(athlete=athlete, day=payload.day, defaults={"mass_kg": payload.mass_kg})
    return record_out(athlete_id)


class NewPractice(Schema):
    """A practice of the squad, or of the athlete alone: of a second sport, say."""

    weekday: int
    hour: float
    minutes: int
    hardness: int
    own: bool = False
    sport: str = ""


@router.post("/athletes/{int:athlete_id}/practices", response={200: RecordOut, **ERRORS})
def add_practice(request: HttpRequest, athlete_id: int, payload: NewPractice) -> RecordOut:
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    checks = {"weekday": (0, 6), "hour": (0, 23.99), "minutes": (10, 300), "hardness": (1, 10)}
    for name, (low, high) in checks.items():
        value = getattr(payload, name)
        if not low <= value <= high:
            raise CoachError(f"{value:g} cannot be the {name}.", where=name, accepted=f"{low:g} to {high:g} are accepted.")
    if len(payload.sport) > 40:
        raise CoachError("The name of the sport is too long.", where="sport", accepted="At most 40 characters.")
    Practice.objects.create(
        squad=athlete.squad,
        athlete=athlete if payload.own else None,
        sport=payload.sport.strip() if payload.own else "",
        weekday=payload.weekday,
        hour=payload.hour,
        minutes=payload.minutes,
        hardness=payload.hardness,
    )
    return record_out(athlete_id)


@router.delete("/athletes/{int:athlete_id}/practices/{int:practice_id}", response={200: RecordOut, **ERRORS})
def drop_practice(request: HttpRequest, athlete_id: int, practice_id: int) -> RecordOut:
    athlete = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete_id)
    found = next((p for p in practice_rows_of(athlete) if p.pk == practice_id), None)
    if found is None:
        raise Http404
    found.delete()
    return record_out(athlete_id)


def _practice(p: Practice) -> PracticeRecord:
    return PracticeRecord(
        id=p.pk,
        weekday=p.weekday,
        hour=p.hour,
        minutes=p.minutes,
        hardness=p.hardness,
        own=p.athlete_id is not None,
        sport=p.sport,
    )
