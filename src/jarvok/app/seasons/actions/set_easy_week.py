"""A week is made easier or full."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.seasons.typed_season import changed, style_of
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import monday_of


def run(who: Who, athlete: Athlete, monday: date, easy: bool | None, to: date | None = None) -> None:
    """Make a week easier or full, or go back to the rhythm with None; `to` moves an easier week to another."""
    with acting(who, "set_easy_week", f"week of {said_day(monday)}", athlete=athlete):
        if any(day != monday_of(day) for day in (monday, to) if day is not None):
            raise CoachError("A week is named by its Monday.", where="monday", accepted="A Monday of the season.")
        style = style_of(athlete)
        word = "as the rhythm has it" if easy is None else "easier" if easy else "full"
        words = (
            f"week of {said_day(monday)} {word}" if to is None else f"deload week moved from {said_day(monday)} to {said_day(to)}"
        )
        with changed(athlete, [words]):
            weeks = {k: v for k, v in style.easy_weeks.items() if k != monday.isoformat()}
            if to is not None:
                weeks |= {monday.isoformat(): False, to.isoformat(): True}
            elif easy is not None:
                weeks[monday.isoformat()] = easy
            style.easy_weeks = weeks
            style.save()
