"""How the centre says things: the unit on its plates, and what stands first in a date."""

from __future__ import annotations

from django.db import transaction

from jarvok.app.acts import Who, acting
from jarvok.app.centre.habits import read_habits_anew
from jarvok.app.facts.centre.models import Centre
from jarvok.core.quantities.days import day_order_named
from jarvok.core.quantities.mass import UNITS, unit_named


def run(who: Who, unit: str, day_order: str) -> None:
    """From now on they hold for every room and person that has none of its own."""
    said = {"unit": unit_named(unit), "day_order": day_order_named(day_order)}
    with acting(who, "set_habits", f"{UNITS[unit]}, {day_order} in dates"):
        Centre.objects.update_or_create(pk=1, defaults=said)
        transaction.on_commit(read_habits_anew)
