"""One thing is true of an athlete, or no more: build, style, a goal, a past sport. What others tick beside it stays."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.chooser.known import check_traits


def run(who: Who, athlete: Athlete, trait: str, *, is_true: bool) -> None:
    """Tick a trait or take the tick back. Raises `CoachError` for one that is not known, or contrary to another."""
    with acting(who, "tick_trait", f"{trait.replace('_', ' ')} {'ticked' if is_true else 'no more'}", athlete=athlete):
        now = Athlete.objects.select_for_update().get(pk=athlete.pk)
        others = [t for t in now.traits if t != trait]
        now.traits = [*others, trait] if is_true else others
        check_traits(now.traits if is_true else [trait])
        now.save(update_fields=["traits"])
