"""The kit of a room is kept."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app.acts import Who, acting
from jarvok.app.centre.typed_kit import BAR_LIMITS_KG, IMPLEMENTS, MOST_PAIRS, PLATE_LIMITS_KG, TypedPull, kg, pull, within
from jarvok.app.facts.centre.models import KitRecord
from jarvok.core.errors import CoachError
from jarvok.core.library.kit import GEAR_NAMES


def run(
    who: Who,
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
    with acting(who, "save_kit", f"kit {name}"):
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
                pairs.append((within(kg(mass, unit), PLATE_LIMITS_KG, "plates", "a plate"), count))
        unknown = set(has) - set(IMPLEMENTS)
        if unknown:
            raise CoachError(f"“{min(unknown)}” is not known.", where="has", accepted=", ".join(IMPLEMENTS))
        strange = set(gear or ()) - set(GEAR_NAMES)
        if strange:
            raise CoachError(f"“{min(strange)}” is not known.", where="gear", accepted=", ".join(GEAR_NAMES.values()))
        record = record or KitRecord()
        record.gear = None if gear is None else sorted(set(gear))
        record.name, record.unit = name, unit
        record.bar_kg = within(kg(bar, unit), BAR_LIMITS_KG, "bar", "a bar")
        record.collar_kg = within(kg(collar, unit), (0.0, 5.0), "collar", "a collar")
        record.pairs = [list(pair) for pair in sorted(pairs, reverse=True)]
        record.has = sorted(set(has))
        record.attachments = [pull(p, unit) for p in pulls]
        record.save()
        return record
