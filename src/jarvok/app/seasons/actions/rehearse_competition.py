"""What adding or moving a competition would do to the season: the change itself, made and taken back at once."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from django.db import transaction

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.athletes.kept_known import nothing_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.writing import writing
from jarvok.app.seasons.actions import add_competition, change_competition
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.typed_season import TypedCompetition, standing, typed_over
from jarvok.core.season.model import SeasonPlan


def run(who: Who, athlete: Athlete, typed: TypedCompetition, moves: int | None) -> SeasonPlan | None:
    """Return the season as it would be with the competition added, or that of the id `moves` put in its place."""
    with writing(), nothing_kept():
        stands = standing().filter(athlete=athlete, pk=moves or 0).first()
        if stands is None:
            add_competition.run(who, athlete, typed)
        else:
            sent: dict[str, date | str | None] = {"name": typed.name, "day": typed.day, "rank": typed.rank}
            over = typed_over(stands, sent, None)
            change_competition.run(who, stands, replace(over, last_day=typed.last_day))
        plan = SeasonBook([athlete], clock.today()).checked_plan(athlete.pk)
        transaction.set_rollback(True)
    return plan
