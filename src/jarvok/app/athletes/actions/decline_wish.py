"""What a week should hold because of what is known of an athlete is left out for good, or wanted again."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.chooser.known import Need


def run(who: Who, athlete: Athlete, need: Need, is_wanted: bool) -> None:
    """Leave the work of a need out of every week from now on, or take it in again."""
    words = "; ".join(need.words)
    with acting(who, "decline_wish", f"{'wanted again' if is_wanted else 'left out'}: {words}", athlete=athlete):
        others = [d for d in athlete.declined if d != need.id]
        athlete.declined = others if is_wanted else [*others, need.id]
        athlete.save(update_fields=["declined"])
