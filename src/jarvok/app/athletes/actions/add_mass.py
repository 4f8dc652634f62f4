"""A body mass is written down; written anew for a day, the last one counts."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, BodyMass
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import in_kg, in_unit

LIMITS_KG = (20.0, 250.0)


def run(who: Who, athlete: Athlete, day: date, mass: float, unit: str = "kg") -> BodyMass:
    """Keep a body mass, typed in `kg` or `lb`, of a day that is not ahead."""
    if day > clock.today():
        raise CoachError(
            f"{said_day(day, year=True, is_long=True)} is still to come.", where="day", accepted="Today or an earlier day."
        )
    mass_kg, (low, high) = in_kg(mass, unit), LIMITS_KG
    if not low <= mass_kg <= high:
        accepted = f"{in_unit(low, unit):.0f} to {in_unit(high, unit):.0f} {unit} are accepted."
        raise CoachError(f"A body mass of {mass:g} {unit} cannot be.", where="mass", accepted=accepted)
    with acting(who, "add_mass", f"body mass {mass:g} {unit}", athlete=athlete):
        return BodyMass.objects.update_or_create(athlete=athlete, day=day, defaults={"mass_kg": mass_kg})[0]
