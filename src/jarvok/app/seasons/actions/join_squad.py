"""An athlete is written down, and has from the first day what everybody in the squad prepares for."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_athlete
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Competition, SeasonStyle
from jarvok.app.seasons.actions import add_competition
from jarvok.app.seasons.typed_season import typed_over


def run(who: Who, name: str, squad_name: str, sport: str, known: Mapping[str, Any]) -> tuple[Athlete, list[Competition]]:
    """Add an athlete with the competitions ahead that all others of the squad have, and the season model they share."""
    with acting(who, "join_squad", f"{name.strip()} added to {squad_name.strip()}"):
        athlete = add_athlete.run(who, name, squad_name, sport, known)
        others = list(Athlete.objects.filter(squad=athlete.squad).exclude(pk=athlete.pk))
        _share_style(athlete, others)
        given = [add_competition.run(who, athlete, typed_over(c, {}, None)) for c in _shared_by_all(others)]
        return athlete, given


def _shared_by_all(others: list[Athlete]) -> list[Competition]:
    """Competitions ahead that each of them has, by name and day: one of each."""
    found: dict[tuple[str, Any], list[Competition]] = {}
    rows = Competition.objects.filter(athlete__in=others, withdrawn_at__isnull=True, block__isnull=True, day__gt=clock.today())
    for c in rows.order_by("day"):
        found.setdefault((c.name, c.day), []).append(c)
    return [same[0] for same in found.values() if len({c.athlete_id for c in same}) == len(others)]


def _share_style(athlete: Athlete, others: list[Athlete]) -> None:
    """The season model of the squad, where all have the same."""
    styles = list(SeasonStyle.objects.filter(athlete__in=others))
    alike = {(s.arrangement, s.loading_weeks) for s in styles}
    if others and len(styles) == len(others) and len(alike) == 1:
        arrangement, loading = alike.pop()
        SeasonStyle.objects.create(athlete=athlete, arrangement=arrangement, loading_weeks=loading)
