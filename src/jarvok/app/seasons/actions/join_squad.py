"""An athlete is written down, or goes to another squad, and has from that day what the squad prepares for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from django.db.models import QuerySet

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_athlete, change_details, import_athletes
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Via
from jarvok.app.facts.seasons.models import Competition, SeasonStyle
from jarvok.app.seasons.actions import add_competition_for, withdraw_competition
from jarvok.app.seasons.typed_season import standing
from jarvok.core.interchange.athletes import Row
from jarvok.core.quantities.sentence import counted


def run(who: Who, name: str, squad_name: str, sport: str, known: Mapping[str, Any]) -> tuple[Athlete, list[Competition]]:
    """Add an athlete with the competitions ahead of the squad, and the season model it shares."""
    with acting(who, "join_squad", f"{name.strip()} added to {squad_name.strip()}"):
        athlete = add_athlete.run(who, name, squad_name, sport, known)
        return athlete, enter(who, athlete)


def take_in(who: Who, rows: Sequence[Row], squad: str) -> import_athletes.Taken:
    """Take a table of athletes in; who is new has what lies ahead of the squad."""
    with acting(replace(who, via=Via.IMPORT), "import_athletes", f"{counted(len(rows), 'athlete')} taken in"):
        taken = import_athletes.run(who, rows, squad)
        for athlete in taken.new:
            enter(who, athlete)
        return taken


def enter(who: Who, athlete: Athlete) -> list[Competition]:
    """Let a newcomer take part in what lies ahead of the squad, with the season model it shares; return what it is."""
    _share_style(athlete)
    return add_competition_for.enter(who, athlete, list(_ahead_of(athlete)))


def change(who: Who, athlete: Athlete, sent: Mapping[str, Any]) -> None:
    """Change who an athlete is. In another squad or group its competitions ahead are the athlete's, and those left are not."""
    if not {"squad_id", "group"} & {*sent}:
        change_details.run(who, athlete, sent)
        return
    before = (athlete.squad_id, athlete.group)
    with acting(who, "change_details", "changed", athlete=athlete) as act:
        change_details.run(who, athlete, sent)
        athlete.refresh_from_db()
        words = [f"changed: {', '.join(k.removesuffix('_id').replace('_', ' ') for k in sent)}"]
        if (athlete.squad_id, athlete.group) != before:
            ahead = list(_ahead_of(athlete))
            for entry in standing().filter(athlete=athlete, competition__athlete__isnull=True):
                if entry.day > clock.today() and entry.competition not in ahead:
                    withdraw_competition.run(who, entry)
                    words.append(f"{entry.name} left to the others")
            words += [f"{c.name} ahead" for c in add_competition_for.enter(who, athlete, ahead)]
        act.words = "; ".join(words)


def _ahead_of(athlete: Athlete) -> QuerySet[Competition]:
    """What lies ahead of everybody in the athlete's squad and group."""
    rows = Competition.objects.filter(squad_id=athlete.squad_id, group__in={"", athlete.group}, withdrawn_at__isnull=True)
    return rows.filter(day__gt=clock.today())


def _share_style(athlete: Athlete) -> None:
    """The season model of the squad, where all have the same."""
    others = list(Athlete.here.filter(squad=athlete.squad).exclude(pk=athlete.pk))
    styles = list(SeasonStyle.objects.filter(athlete__in=others))
    alike = {(s.arrangement, s.loading_weeks) for s in styles}
    if others and len(styles) == len(others) and len(alike) == 1:
        arrangement, loading = alike.pop()
        SeasonStyle.objects.create(athlete=athlete, arrangement=arrangement, loading_weeks=loading)
