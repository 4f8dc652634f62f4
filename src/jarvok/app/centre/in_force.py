"""The values in force and the kit of a room, as the core takes them."""

from __future__ import annotations

from jarvok.app.centre.habits import habits
from jarvok.app.facts.centre.models import KitRecord, RuleChange
from jarvok.app.facts.put_together import Objects
from jarvok.core.equations import BY_KEY, DEFAULT_EQUATION
from jarvok.core.exercises import Exercise
from jarvok.core.library.kit import Kit, furnished, implement_for
from jarvok.core.loading.accommodating import Attachment, MeasuredPull
from jarvok.core.quantities.plates import FixedSteps, unit_of
from jarvok.core.rules import RULE_BY_KEY, Rules

EQUATION = "max.equation"
_CHANGES = Objects(lambda _: RuleChange.objects.all())


def rules_in_force() -> Rules:
    changed: dict[str, float] = {}
    equation = DEFAULT_EQUATION
    for change in _CHANGES.all():
        if change.key == EQUATION:
            equation = BY_KEY.get(change.text, DEFAULT_EQUATION)
        elif change.value is None:
            changed.pop(change.key, None)
        elif change.key in RULE_BY_KEY:
            changed[change.key] = change.value
    return Rules(changed, equation)


def _steps(raw: list[float], usual: FixedSteps) -> FixedSteps:
    return FixedSteps(raw[0], raw[1], raw[2], usual.unit) if len(raw) == 3 else usual


def pulls_of(record: KitRecord | None) -> tuple[MeasuredPull, ...]:
    """Bands and chains as measured in the room."""
    rows = record.attachments if record is not None else []
    return tuple(MeasuredPull(r["name"], Attachment(r["kind"]), r["at"], r["bottom_kg"], r["top_kg"]) for r in rows)


def kit_of(record: KitRecord | None) -> Kit:
    """The room's kit; without one a furnished room, in the centre's unit."""
    if record is None:
        return furnished(habits().unit)
    usual = furnished(record.unit)
    return Kit(
        name=record.name,
        unit=record.unit,
        bar_kg=record.bar_kg,
        pairs=tuple((mass_kg, count) for mass_kg, count in record.pairs) or usual.pairs,
        collar_kg=record.collar_kg,
        dumbbells=_steps(record.dumbbells, usual.dumbbells),
        stack=_steps(record.stack, usual.stack),
        has=frozenset(record.has) or usual.has,
        gear=usual.gear if record.gear is None else frozenset(record.gear),
    )


def unit_for(lift: Exercise, record: KitRecord | None) -> str:
    """The unit that stands on what a lift is loaded with in a room: kg or lb."""
    return unit_of(implement_for(lift, kit_of(record)))
