"""A person chooses their own unit and order of dates, or takes the centre's again."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import Person
from jarvok.core.quantities.days import day_order_named
from jarvok.core.quantities.mass import UNITS, unit_named


def run(who: Who, person: Person, unit: str, day_order: str) -> None:
    """Keep what a person types and reads in; nothing for the centre's own."""
    person.unit = unit_named(unit) if unit else ""
    person.day_order = day_order_named(day_order) if day_order else ""
    words = f"{UNITS[unit] if unit else 'unit of the centre'}, {day_order or 'as the centre'} in dates"
    with acting(who, "set_own_habits", words):
        person.save(update_fields=["unit", "day_order"])
