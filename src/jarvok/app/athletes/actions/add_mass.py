"""A body mass is written down; written anew for a day, the last one counts."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, BodyMass
from jarvok.core.errors import CoachError

LIMITS_KG = (20.0, 250.0)


def run(who: Who, athlete: Athlete, day: date, mass_kg: float) -> BodyMass:
    """Keep a body mass of a day that is not ahead."""
    if day > clock.today():
        raise CoachError(f"{day:%-d %B %Y} is still to come.", where="day", accepted="Today or an earlier day.")
    low, high = LIMITS_KG
    if not low <= mass_kg <= high:
        raise CoachError(
            f"A body mass of {mass_kg:g} kg cannot be.", where="mass_kg", accepted=f"{low:g} to {high:g} kg are accepted."
        )
    with acting(who, "add_mass", f"body mass {mass_kg:g} kg", athlete=athlete):
        return BodyMass.objects.update_or_create(athlete=athlete, day=day, defaults={"mass_kg": mass_kg})[0]
