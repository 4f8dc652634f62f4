"""What a coach does with a season: one function each, in one transaction."""

from __future__ import annotations

from datetime import date

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.seasons.models import Change, Competition
from jarvok.core.errors import CoachError
from jarvok.core.season.model import PHASE_NAMES, PhaseKey
from jarvok.core.season.planner import plan_season


def _name(name: str) -> str:
    name = name.strip()
    if not 1 <= len(name) <= 80:
        raise CoachError("A competition needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    return name


@transaction.atomic
def add_competition(athlete: Athlete, name: str, day: date) -> Competition:
    today = clock.today()
    plan_season(today, day)
    clash = Competition.objects.filter(athlete=athlete, withdrawn_at__isnull=True, day__gte=today).first()
    if clash is not None:
        raise CoachError(
            f"{athlete.name} already prepares for {clash.name} on {clash.day:%-d %B}.",
            where="day",
            accepted="Move that competition, or take it out first.",
        )
    return Competition.objects.create(athlete=athlete, name=_name(name), day=day, planned_from=today)


def _facts(competition: Competition) -> dict[str, object]:
    return {
        "name": competition.name,
        "day": competition.day.isoformat(),
        "pinned_weeks": competition.pinned_weeks,
    }


def _change(competition: Competition, words: str, before: dict[str, object]) -> None:
    competition.save()
    Change.objects.create(competition=competition, words=words, before=before, after=_facts(competition))


@transaction.atomic
def move_competition(competition: Competition, name: str | None, day: date | None) -> Competition:
    before = _facts(competition)
    words: list[str] = []
    if day is not None and day != competition.day:
        if day <= clock.today():
            raise CoachError(
                f"{day:%-d %B %Y} is not ahead of today.", where="day", accepted="A day from tomorrow on is accepted."
            )
        words.append(f"moved from {competition.day:%-d %b} to {day:%-d %b}")
        competition.day = day
    if name is not None and _name(name) != competition.name:
        competition.name = _name(name)
        words.append(f"renamed to {competition.name}")
    if not words:
        return competition
    pins = {PhaseKey(k): v for k, v in competition.pinned_weeks.items()}
    plan_season(competition.planned_from, competition.day, pins)
    _change(competition, f"{competition.name} {' and '.join(words)}"[:200], before)
    return competition


@transaction.atomic
def set_phases(competition: Competition, pinned_weeks: dict[PhaseKey, int]) -> Competition:
    """Keep the lengths the coach has set; an empty mapping goes back to the proposal."""
    plan_season(competition.planned_from, competition.day, pinned_weeks)
    before = _facts(competition)
    competition.pinned_weeks = {key.value: weeks for key, weeks in pinned_weeks.items()}
    words = ", ".join(f"{PHASE_NAMES[k]} {w} weeks" for k, w in pinned_weeks.items()) or "phase lengths as proposed"
    _change(competition, words[:200], before)
    return competition


@transaction.atomic
def undo(competition: Competition) -> Competition:
    last = competition.changes.filter(undone_at__isnull=True).first()
    if last is None:
        raise Conflict("There is nothing to undo.")
    competition.name = last.before["name"]
    competition.day = date.fromisoformat(last.before["day"])
    competition.pinned_weeks = last.before["pinned_weeks"]
    competition.save()
    last.undone_at = clock.now()
    last.save()
    return competition


@transaction.atomic
def withdraw(competition: Competition) -> None:
    competition.withdrawn_at = clock.now()
    competition.save()
