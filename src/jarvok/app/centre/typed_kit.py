"""What a coach does with the centre's values and kits: one function each, in one transaction."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.loading.accommodating import Attachment, chain_kg
from jarvok.core.quantities.mass import kg_from_lb

BAR_LIMITS_KG = (2.0, 40.0)
PLATE_LIMITS_KG = (0.1, 50.0)
MOST_PAIRS = 20
PULL_LIMITS_KG = (0.0, 200.0)
MOST_LIFTED_M = 2.5
IMPLEMENTS = ("barbell", "dumbbell", "kettlebell", "cable", "belt")


def kg(value: float, unit: str) -> float:
    return round(kg_from_lb(value), 4) if unit == "lb" else value


def within(value_kg: float, limits: tuple[float, float], where: str, what: str) -> float:
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


def pull(typed: TypedPull, unit: str) -> dict[str, object]:
    name = typed.name.strip()
    if not 1 <= len(name) <= 40 or len(typed.at) > 40:
        raise CoachError("Bands and chains need a name.", where="attachments", accepted="1 to 40 characters are accepted.")
    if typed.kind not in set(Attachment):
        raise CoachError("There is no such kind.", where="attachments", accepted=", ".join(Attachment))
    bottom_kg, top_kg = kg(typed.bottom, unit), kg(typed.top, unit)
    if typed.kind == Attachment.CHAINS and typed.per_metre is not None and typed.lifted_m is not None:
        if not 0 < typed.lifted_m <= MOST_LIFTED_M:
            raise CoachError(
                f"{typed.lifted_m:g} m cannot be lifted off.", where="attachments", accepted=f"Up to {MOST_LIFTED_M:g} m."
            )
        ends = chain_kg(kg(typed.per_metre, unit), typed.lifted_m)
        bottom_kg, top_kg = bottom_kg + ends.bottom_kg, bottom_kg + ends.top_kg
    for value_kg in (bottom_kg, top_kg):
        within(value_kg, PULL_LIMITS_KG, "attachments", "a pull")
    low, high = (top_kg, bottom_kg) if typed.kind == Attachment.REVERSE else (bottom_kg, top_kg)
    if low > high:
        raise CoachError(
            f"{name} cannot pull less where it is stretched more.",
            where="attachments",
            accepted="Bands and chains pull more at the top; reverse bands help more at the bottom.",
        )
    return {"name": name, "kind": typed.kind, "at": typed.at.strip(), "bottom_kg": bottom_kg, "top_kg": round(top_kg, 3)}
