"""Minutes played in a match are written down."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import CalendarEntry, MinutesPlayed
from jarvok.app.seasons.calendar_rows import LONGEST_MATCH_MIN
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.core.errors import CoachError


def run(who: Who, athlete: Athlete, entry: CalendarEntry, minutes: int | None) -> None:
    """Minutes played in a match are written down."""
    with acting(who, "write_minutes", f"{entry.name}: minutes", athlete=athlete):
        if entry.start > clock.today():
            raise CoachError(
                "This match has not been played yet.", where="minutes", accepted="Minutes of matches that were played."
            )
        if entry not in SeasonBook([athlete], clock.today()).entries(athlete.pk):
            raise CoachError(f"This match is not in the calendar of {athlete.name}.", where="minutes")
        if minutes is None:
            MinutesPlayed.objects.filter(athlete=athlete, entry=entry).delete()
            return
        if not 0 <= minutes <= LONGEST_MATCH_MIN:
            raise CoachError(f"{minutes} minutes cannot be.", where="minutes", accepted=f"0 to {LONGEST_MATCH_MIN} are accepted.")
        values = {"minutes": minutes, "day": entry.start}
        MinutesPlayed.objects.update_or_create(athlete=athlete, entry=entry, defaults=values)
