"""Weeks as their plan stood: read for the days that are over, whatever plans weeks now."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import asdict, replace
from datetime import date
from typing import Any

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import ToldWeek
from jarvok.core.library.exercises import exercises
from jarvok.core.season.model import PhaseKey, SeasonWeek, TaperWindow, monday_of
from jarvok.core.session.planned import PlannedSession

VERSION = 1
_KNOWN = "told_by_monday"  # what was read of an athlete, by Monday


def read_told(people: Sequence[Athlete], mondays: Iterable[date]) -> None:
    """Read some weeks of many athletes at once, so that asking for each costs nothing."""
    gone = {m for m in mondays if m <= monday_of(clock.today())}
    known = [p.__dict__.setdefault(_KNOWN, {}) for p in people]
    wanted = {m for m in gone if any(m not in read for read in known)}
    if not wanted:
        return
    rows = {(t.athlete_id, t.monday): t for t in ToldWeek.objects.filter(athlete__in=people, monday__in=wanted)}
    for person, read in zip(people, known, strict=True):
        read.update({m: rows.get((person.pk, m)) for m in wanted})


def forget_told(athlete: Athlete) -> None:
    """Read anew from now on: something was frozen."""
    athlete.__dict__.pop(_KNOWN, None)


def told_of(athlete: Athlete, monday: date) -> ToldWeek | None:
    """The week of a Monday as it stood, or None where no day of it was kept. Weeks ahead are never read."""
    if monday > monday_of(clock.today()):
        return None
    known: dict[date, ToldWeek | None] = athlete.__dict__.get(_KNOWN, {})
    if monday not in known:
        read_told([athlete], [monday])
        known = athlete.__dict__[_KNOWN]
    return known[monday]


def sessions_of(told: ToldWeek) -> tuple[PlannedSession, ...]:
    """The sessions of the days that were kept; lines of an exercise that is in no library any more are left to the history."""
    known = exercises()
    raw = [{**s, "lines": [x for x in s["lines"] if x["exercise"] in known]} for s in told.document["sessions"]]
    return tuple(PlannedSession.from_raw(s) for s in raw)


def place_of(told: ToldWeek, now: SeasonWeek) -> SeasonWeek:
    """The week's place in the season as it stood; its number is that of the season as it is drawn now."""
    raw: dict[str, Any] = {k: v for k, v in told.dose.items() if k in SeasonWeek.__dataclass_fields__ and k != "index"}
    raw["phase"] = PhaseKey(raw["phase"])
    raw |= {k: date.fromisoformat(raw[k]) for k in ("start", "competition_day")}
    raw |= {k: tuple(date.fromisoformat(d) for d in raw.get(k, ())) for k in ("match_days", "closed")}
    raw["taper"] = TaperWindow.from_raw(raw["taper"]) if raw.get("taper") else None
    return replace(now, **raw)


def raw_of(sessions: Iterable[PlannedSession]) -> dict[str, Any]:
    """Sessions as they are kept."""
    return {"version": VERSION, "sessions": [s.to_raw() for s in sessions]}


def raw_place(week: SeasonWeek) -> dict[str, Any]:
    """A week's place in the season as it is kept."""
    raw = asdict(week) | {"version": VERSION, "phase": week.phase.value}
    raw |= {k: raw[k].isoformat() for k in ("start", "competition_day")}
    raw["taper"] = week.taper.to_raw() if week.taper is not None else None
    return raw | {k: [d.isoformat() for d in getattr(week, k)] for k in ("match_days", "closed")}
