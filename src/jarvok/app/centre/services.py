"""What a coach does with the centre's values and kits: one function each, in one transaction."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from jarvok.app.centre.models import KitRecord, RuleChange
from jarvok.app.centre.queries import EQUATION
from jarvok.core.errors import CoachError
from jarvok.core.library.kit import GEAR_NAMES
from jarvok.core.loading.accommodating import Attachment, chain_kg
from jarvok.core.quantities.mass import kg_from_lb
from jarvok.core.rules import RULE_BY_KEY, check_equation, check_rule

BAR_LIMITS_KG = (2.0, 40.0)
PLATE_LIMITS_KG = (0.1, 50.0)
MOST_PAIRS = 20
PULL_LIMITS_KG = (0.0, 200.0)
MOST_LIFTED_M = 2.5
IMPLEMENTS = ("barbell", "dumbbell", "kettlebell", "cable", "belt")


@transaction.atomic
def set_rule(key: str, value: float | None) -> None:
    """Change a value, or go back to its default with None."""
    if value is not None:
        check_rule(key, value)
    elif key not in RULE_BY_KEY:
        raise CoachError("There is no such setting.", where=key)
    RuleChange.objects.create(key=key, value=value)


@transaction.atomic
def set_equation(key: str) -> None:
    RuleChange.objects.create(key=EQUATION, text=check_equation(key).key)


@transaction.atomic
def reset_all() -> None:
    """Back to every default; the history of changes stays."""
    for key in RuleChange.objects.values_list("key", flat=True).distinct():
        RuleChange.objects.create(key=key)


def _kg(value: float, unit: str) -> float:
    return round(kg_from_lb(value), 4) if unit == "lb" else value


def _within(value_kg: float, limits: tuple[float, float], where: str, what: str) -> float:
    if not limits[0] <= value_kg <= limits[1]:
        raise CoachError(
            f"{value_kg:g} kg cannot be {what}.", where=where, accepted=f"{limits[0]:g} to {limits[1]:g} kg are accepted."
        )
    return value_kg


@dataclass(frozen=True)
class TypedPull:
    """Bands or chains as typed: what they pull at bottom and top, or a pair of chains by mass per metre and metres lifted."""

    name: str
    kind: str
    at: str
    bottom: float
    top: float
    per_metre: float | None = None
    lifted_m: float | None = None


def _pull(typed: TypedPull, unit: str) -> dict[str, object]:
    name = typed.name.strip()
    if not 1 <= len(name) <= 40 or len(typed.at) > 40:
        raise CoachError("Bands and chains need a name.", where="attachments", accepted="1 to 40 characters are accepted.")
    if typed.kind not in set(Attachment):
        raise CoachError("There is no such kind.", where="attachments", accepted=", ".join(Attachment))
    bottom_kg, top_kg = _kg(typed.bottom, unit), _kg(typed.top, unit)
    if typed.kind == Attachment.CHAINS and typed.per_metre is not None and typed.lifted_m is not None:
        if not 0 < typed.lifted_m <= MOST_LIFTED_M:
            raise CoachError(
                f"{typed.lifted_m:g} m cannot be lifted off.", where="attachments", accepted=f"Up to {MOST_LIFTED_M:g} m."
            )
        ends = chain_kg(_kg(typed.per_metre, unit), typed.lifted_m)
        bottom_kg, top_kg = bottom_kg + ends.bottom_kg, bottom_kg + ends.top_kg
    for value_kg in (bottom_kg, top_kg):
        _within(value_kg, PULL_LIMITS_KG, "attachments", "a pull")
    low, high = (top_kg, bottom_kg) if typed.kind == Attachment.REVERSE else (bottom_kg, top_kg)
    if low > high:
        raise CoachError(
            f"{name} cannot pull less where it is stretched more.",
            where="attachments",
            accepted="Bands and chains pull more at the top; reverse bands help more at the bottom.",
        )
    return {"name": name, "kind": typed.kind, "at": typed.at.strip(), "bottom_kg": bottom_kg, "top_kg": round(top_kg, 3)}


@transaction.atomic
def save_kit(
    record: KitRecord | None,
    name: str,
    unit: str,
    bar: float,
    plates: list[tuple[float, int]],
    collar: float,
    has: list[str],
    pulls: Sequence[TypedPull] = (),
    gear: list[str] | None = None,
) -> KitRecord:
    """Store a room's kit; masses come in the unit printed on its plates."""
    name = name.strip()
    if not 1 <= len(name) <= 60:
        raise CoachError("A kit needs a name.", where="name", accepted="1 to 60 characters are accepted.")
    others = KitRecord.objects.filter(name=name)
    if (others.exclude(pk=record.pk) if record else others).exists():
        raise CoachError(f"There is a kit called {name} already.", where="name", accepted="Another name.")
    if unit not in ("kg", "lb"):
        raise CoachError("Plates are in kg or lb.", where="unit")
    pairs: list[tuple[float, int]] = []
    for mass, count in plates:
        if not 0 <= count <= MOST_PAIRS:
            raise CoachError(f"{count} pairs cannot be.", where="plates", accepted=f"0 to {MOST_PAIRS} pairs are accepted.")
        if count:
            pairs.append((_within(_kg(mass, unit), PLATE_LIMITS_KG, "plates", "a plate"), count))
    unknown = set(has) - set(IMPLEMENTS)
    if unknown:
        raise CoachError(f"“{min(unknown)}” is not known.", where="has", accepted=", ".join(IMPLEMENTS))
    strange = set(gear or ()) - set(GEAR_NAMES)
    if strange:
        raise CoachError(f"“{min(strange)}” is not known.", where="gear", accepted=", ".join(GEAR_NAMES.values()))
    record = record or KitRecord()
    record.gear = None if gear is None else sorted(set(gear))
    record.name, record.unit = name, unit
    record.bar_kg = _within(_kg(bar, unit), BAR_LIMITS_KG, "bar", "a bar")
    record.collar_kg = _within(_kg(collar, unit), (0.0, 5.0), "collar", "a collar")
    record.pairs = [list(pair) for pair in sorted(pairs, reverse=True)]
    record.has = sorted(set(has))
    record.attachments = [_pull(p, unit) for p in pulls]
    record.save()
    return record
