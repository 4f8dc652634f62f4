"""Masses in kilograms and pounds, and how a load is written."""

from __future__ import annotations

from jarvok.core.errors import CoachError

KG_PER_LB = 0.45359237  # exact by definition, published (international pound, 1959)
UNITS = {"kg": "kilograms", "lb": "pounds"}
HEAVIEST_PLAUSIBLE_KG = 600.0  # [J] no barbell lift of any sport has come near it


def unit_named(text: str) -> str:
    """Return `kg` or `lb`; raise `CoachError` for anything else."""
    if text not in UNITS:
        raise CoachError(f"“{text}” is no unit of mass here.", where="unit", accepted="kg or lb.")
    return text


def kg_from_lb(mass_lb: float) -> float:
    """Return kilograms for pounds."""
    return mass_lb * KG_PER_LB


def lb_from_kg(mass_kg: float) -> float:
    """Return pounds for kilograms."""
    return mass_kg / KG_PER_LB


def in_kg(mass: float, unit: str) -> float:
    """Return kilograms for a mass in `kg` or `lb`."""
    return kg_from_lb(mass) if unit == "lb" else mass


def in_unit(mass_kg: float, unit: str) -> float:
    """Return a mass in `kg` or `lb` for kilograms."""
    return lb_from_kg(mass_kg) if unit == "lb" else mass_kg


def format_kg(mass_kg: float) -> str:
    """Return a mass as it is written on the board: up to two decimals, no trailing zeros, no unit.

    >>> format_kg(102.50), format_kg(60.0), format_kg(1.25)
    ('102.5', '60', '1.25')
    """
    return f"{mass_kg:.2f}".rstrip("0").rstrip(".")


def said_mass(mass_kg: float, unit: str, *, whole: bool = False) -> str:
    """Return a mass with its unit as it is said in a room of `kg` or `lb`; `whole` for what is known only roughly.

    >>> said_mass(102.5, "kg"), said_mass(102.05828325, "lb"), said_mass(81.3, "kg", whole=True)
    ('102.5 kg', '225 lb', '81 kg')
    """
    return f"{mass_kg / in_kg(1.0, unit):.0f} {unit}" if whole else f"{format_mass(mass_kg, unit)} {unit}"


def to_a_tenth(mass_kg: float, unit: str) -> str:
    """Return what is worked out, not loaded, in `kg` or `lb` to a tenth, without the unit.

    >>> to_a_tenth(93.04, "kg"), to_a_tenth(93.04, "lb")
    ('93.0', '205.1')
    """
    return f"{in_unit(mass_kg, unit):.1f}"


def format_mass(mass_kg: float, unit: str) -> str:
    """Return a mass as it stands on the plates of a kit, in `kg` or `lb`, without the unit.

    >>> format_mass(20.41165665, "lb"), format_mass(20.0, "kg")
    ('45', '20')
    """
    if unit == "lb":
        return f"{lb_from_kg(mass_kg):.1f}".removesuffix(".0")
    return format_kg(mass_kg)


def check_load_kg(load_kg: float, where: str = "load") -> float:
    """Return `load_kg` when it can be a load at all; raise `CoachError` when it cannot."""
    if not load_kg == load_kg or not 0 <= load_kg <= HEAVIEST_PLAUSIBLE_KG:
        raise CoachError(
            f"{load_kg:g} kg cannot be a load.",
            where=where,
            accepted=f"Loads from 0 to {HEAVIEST_PLAUSIBLE_KG:g} kg are accepted.",
        )
    return load_kg
