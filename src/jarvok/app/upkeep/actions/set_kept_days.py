"""How long what serves for a while only is kept."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.centre.models import Centre
from jarvok.app.upkeep.pruning import LEAST_DAYS, MOST_DAYS
from jarvok.core.errors import CoachError


def run(who: Who, days: int) -> None:
    """Keep it for a number of days from now on; the housekeeper throws away what is older. Raises `CoachError`."""
    if not LEAST_DAYS <= days <= MOST_DAYS:
        raise CoachError(f"{days} days cannot be kept.", where="days", accepted=f"{LEAST_DAYS} to {MOST_DAYS} days are accepted.")
    with acting(who, "set_kept_days", f"what serves for a while only is kept for {days} days"):
        Centre.objects.update_or_create(pk=1, defaults={"kept_days": days})
