from __future__ import annotations

from zoneinfo import available_timezones

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.centre import typed_kit as services
from jarvok.app.centre.actions import rename_centre, reset_rules, save_kit
from jarvok.app.centre.actions import set_equation as equation
from jarvok.app.centre.actions import set_habits as habits
from jarvok.app.centre.actions import set_rule as rule
from jarvok.app.centre.actions import set_zone as zone
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.centre.models import Centre, KitRecord
from jarvok.app.schema import Schema
from jarvok.core.equations import EQUATIONS
from jarvok.core.library.kit import GEAR_NAMES, furnished
from jarvok.core.loading.accommodating import Attachment
from jarvok.core.loading.methods import METHODS
from jarvok.core.loading.shorthand_help import EXAMPLES, EXTRAS
from jarvok.core.quantities.mass import lb_from_kg
from jarvok.core.rules import ROOMS, RULES

router = Router(tags=["centre"])


class RuleOut(Schema):
    key: str
    name: str
    value: float
    default: float
    unit: str
    least: float
    most: float
    source_mark: str
    source: str
    text: str
    changed: bool


class RuleGroupOut(Schema):
    name: str
    rules: list[RuleOut]


class EquationOut(Schema):
    key: str
    name: str
    source: str
    chosen: bool
    max_of_100_for_5_kg: float


class PlateOut(Schema):
    mass: float
    pairs: int


class PullOut(Schema):
    name: str
    kind: str
    at: str
    bottom: float
    top: float


class KitOut(Schema):
    id: int
    name: str
    unit: str
    bar: float
    collar: float
    plates: list[PlateOut]
    has: list[str]
    gear: list[str] | None
    attachments: list[PullOut]


class ValuesOut(Schema):
    """Groups of values that stand on one page."""

    key: str
    name: str
    groups: list[RuleGroupOut]


class SettingsOut(Schema):
    name: str
    rooms: list[ValuesOut]
    equations: list[EquationOut]
    kits: list[KitOut]
    implements: list[str]
    gear_names: dict[str, str]
    attachment_kinds: list[str]
    usual_kit: KitOut
    zone: str
    zone_in_force: str
    zones: list[str]
    unit: str
    day_order: str


class CentreName(Schema):
    name: str


class NewValue(Schema):
    value: float | None


class NewZone(Schema):
    zone: str


class NewHabits(Schema):
    unit: str
    day_order: str


class NewEquation(Schema):
    key: str


class PullIn(Schema):
    name: str
    kind: str
    at: str = ""
    bottom: float = 0
    top: float = 0
    per_metre: float | None = None
    lifted_m: float | None = None


class KitIn(Schema):
    name: str
    unit: str = "kg"
    bar: float
    collar: float = 0
    plates: list[PlateOut]
    has: list[str]
    gear: list[str] | None = None
    attachments: list[PullIn] = []


class ExampleOut(Schema):
    typed: str
    written: str
    says: str


class MethodOut(Schema):
    key: str
    name: str
    how: str
    good_for: str
    limits: str


class HelpOut(Schema):
    examples: list[ExampleOut]
    extras: list[ExampleOut]
    methods: list[MethodOut]


def _kit_out(record: KitRecord) -> KitOut:
    def shown(mass_kg: float) -> float:
        return round(lb_from_kg(mass_kg), 2) if record.unit == "lb" else mass_kg

    return KitOut(
        id=record.pk or 0,
        name=record.name,
        unit=record.unit,
        bar=shown(record.bar_kg),
        collar=shown(record.collar_kg),
        plates=[PlateOut(mass=shown(mass_kg), pairs=count) for mass_kg, count in record.pairs],
        has=record.has,
        gear=record.gear,
        attachments=[
            PullOut(name=r["name"], kind=r["kind"], at=r["at"], bottom=shown(r["bottom_kg"]), top=shown(r["top_kg"]))
            for r in record.attachments
        ],
    )


@router.get("/settings", response={200: SettingsOut, **ERRORS})
def read_settings(request: HttpRequest) -> SettingsOut:
    rules = rules_in_force()
    centre = Centre.objects.filter(pk=1).first() or Centre()
    groups: dict[str, list[RuleOut]] = {}
    for r in RULES:
        groups.setdefault(r.group, []).append(
            RuleOut(
                key=r.key,
                name=r.name,
                value=rules[r.key],
                default=r.default,
                unit=r.unit,
                least=r.least,
                most=r.most,
                source_mark=r.source.mark,
                source=r.source.text,
                text=r.text,
                changed=rules[r.key] != r.default,
            )
        )
    usual = KitRecord(
        name="",
        unit=centre.unit,
        bar_kg=furnished(centre.unit).bar_kg,
        pairs=[list(pair) for pair in furnished(centre.unit).pairs],
        has=list(services.IMPLEMENTS),
    )
    return SettingsOut(
        name=centre.name,
        rooms=[
            ValuesOut(key=r.key, name=r.name, groups=[RuleGroupOut(name=g, rules=groups[g]) for g in r.groups]) for r in ROOMS
        ],
        equations=[
            EquationOut(
                key=e.key,
                name=e.name,
                source=e.source.text,
                chosen=e.key == rules.equation.key,
                max_of_100_for_5_kg=round(e.one_rm_kg(100, 5), 1),
            )
            for e in EQUATIONS
        ],
        kits=[_kit_out(k) for k in KitRecord.objects.all()],
        implements=list(services.IMPLEMENTS),
        gear_names=GEAR_NAMES,
        attachment_kinds=list(Attachment),
        usual_kit=_kit_out(usual),
        zone=centre.zone,
        unit=centre.unit,
        day_order=centre.day_order,
        zone_in_force=str(clock.zone()),
        zones=sorted(z for z in available_timezones() if "/" in z and not z.startswith(("Etc/", "SystemV/"))),
    )


@router.put("/settings/rules/{key}", response={200: SettingsOut, **ERRORS})
def set_rule(request: HttpRequest, key: str, payload: NewValue) -> SettingsOut:
    rule.run(who_of(request), key, payload.value)
    return read_settings(request)


@router.put("/settings/equation", response={200: SettingsOut, **ERRORS})
def set_equation(request: HttpRequest, payload: NewEquation) -> SettingsOut:
    equation.run(who_of(request), payload.key)
    return read_settings(request)


@router.put("/settings/zone", response={200: SettingsOut, **ERRORS})
def set_zone(request: HttpRequest, payload: NewZone) -> SettingsOut:
    zone.run(who_of(request), payload.zone)
    return read_settings(request)


@router.put("/settings/habits", response={200: SettingsOut, **ERRORS})
def set_habits(request: HttpRequest, payload: NewHabits) -> SettingsOut:
    """The unit on the plates of rooms that name none, and the order of a date, for who has chosen none."""
    habits.run(who_of(request), payload.unit, payload.day_order)
    return read_settings(request)


@router.put("/settings/name", response={200: SettingsOut, **ERRORS})
def call_centre(request: HttpRequest, payload: CentreName) -> SettingsOut:
    rename_centre.run(who_of(request), payload.name)
    return read_settings(request)


@router.post("/settings/reset", response={200: SettingsOut, **ERRORS})
def reset(request: HttpRequest) -> SettingsOut:
    reset_rules.run(who_of(request))
    return read_settings(request)


@router.post("/settings/kits", response={200: SettingsOut, **ERRORS})
def add_kit(request: HttpRequest, payload: KitIn) -> SettingsOut:
    _save(request, None, payload)
    return read_settings(request)


@router.put("/settings/kits/{int:kit_id}", response={200: SettingsOut, **ERRORS})
def change_kit(request: HttpRequest, kit_id: int, payload: KitIn) -> SettingsOut:
    _save(request, get_object_or_404(KitRecord, pk=kit_id), payload)
    return read_settings(request)


def _save(request: HttpRequest, record: KitRecord | None, payload: KitIn) -> None:
    plates = [(p.mass, p.pairs) for p in payload.plates]
    pulls = [services.TypedPull(**p.dict()) for p in payload.attachments]
    save_kit.run(
        who_of(request), record, payload.name, payload.unit, payload.bar, plates, payload.collar, payload.has, pulls, payload.gear
    )


@router.get("/shorthand", response={200: HelpOut, **ERRORS})
def shorthand_help(request: HttpRequest) -> HelpOut:
    """The written forms of a line with an example each, read by the parser itself, and the eight methods."""
    return HelpOut(
        examples=[ExampleOut(typed=e.typed, written=e.written, says=e.says) for e in EXAMPLES],
        extras=[ExampleOut(typed=e.typed, written=e.written, says=e.says) for e in EXTRAS],
        methods=[MethodOut(key=m.key, name=m.name, how=m.how, good_for=m.good_for, limits=m.limits) for m in METHODS],
    )
