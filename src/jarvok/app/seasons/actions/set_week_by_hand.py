"""One week's volume and top are set by hand, or go back to the plan."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.seasons.typed_season import changed, style_of
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import monday_of

LIMITS = (("volume_pct", 0.0, 150.0, "volume"), ("top_pct", 40.0, 100.0, "top"))


def run(who: Who, athlete: Athlete, monday: date, volume_pct: float | None, top_pct: float | None) -> None:
    """Set a week's volume (% of a full base week) and top (% of the max); with neither it goes back to the plan."""
    if monday != monday_of(monday):
        raise CoachError("A week is named by its Monday.", where="monday", accepted="A Monday of the season.")
    values = {"volume_pct": volume_pct, "top_pct": top_pct}
    for name, low, high, word in LIMITS:
        value = values[name]
        if value is not None and not low <= value <= high:
            raise CoachError(f"A {word} of {value:g} % cannot be.", where=name, accepted=f"{low:g} to {high:g} %.")
    said = [f"{word} {values[name]:g} %" for name, _, _, word in LIMITS if values[name] is not None]
    words = f"week of {said_day(monday)}: {', '.join(said) or 'as planned'}"
    with acting(who, "set_week_by_hand", words, athlete=athlete):
        style = style_of(athlete)
        with changed(athlete, [words]):
            kept = {k: v for k, v in style.weeks_by_hand.items() if k != monday.isoformat()}
            if said:
                kept[monday.isoformat()] = values
            style.weeks_by_hand = kept
            style.save()
