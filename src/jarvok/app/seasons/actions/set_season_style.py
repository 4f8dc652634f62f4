"""A season is arranged another way."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.seasons.typed_season import TypedStyle, changed, style_of
from jarvok.core.errors import CoachError
from jarvok.core.quantities.sentence import counted
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.taper import check_taper


def run(who: Who, athletes: list[Athlete], typed: TypedStyle) -> None:
    """Arrange the season of one athlete, a group or a squad."""
    with acting(
        who,
        "set_season_style",
        "season arranged",
        athlete=athletes[0] if len(athletes) == 1 else None,
        squad=athletes[0].squad if len(athletes) > 1 else None,
        also=athletes,
    ):
        chosen = arrangement(typed.arrangement)
        if typed.loading_weeks is not None and not 0 <= typed.loading_weeks <= 4:
            raise CoachError(
                "That rhythm cannot be.", where="loading_weeks", accepted="0 (as it comes), 2, 3 or 4 loading weeks."
            )
        taper = check_taper(typed.taper).to_raw() if typed.taper is not None else None
        for athlete in athletes:
            style = style_of(athlete)
            words = [f"season model {chosen.name.lower()}"] if style.arrangement != chosen.key else []
            if style.loading_weeks != typed.loading_weeks:
                words.append(f"{typed.loading_weeks}:1" if typed.loading_weeks else "the usual rhythm of deload weeks")
            if style.taper != taper:
                words.append(f"taper of {counted(typed.taper.days, 'day')}" if typed.taper else "the usual taper")
            with changed(athlete, words or ["arranged"]):
                style.arrangement, style.loading_weeks, style.taper = chosen.key, typed.loading_weeks, taper
                style.save()
