"""What a flag of the season proposes is done in one step."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.seasons.actions import add_entry, change_competitions, remove_added, set_easy_week, set_phases, set_season_style
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.typed_season import TypedStyle, style_of
from jarvok.core.errors import CoachError
from jarvok.core.season.calendar import SpanKind

Values = Mapping[str, str | float | bool | None]


def run(who: Who, athlete: Athlete, kind: str, values: Values) -> None:
    """Do a fix as it came with its flag; the plan must build, or everything stays as it was."""
    fix = FIXES.get(kind)
    if fix is None:
        raise CoachError("There is no such fix.", where="kind", accepted=", ".join(FIXES))
    fix(who, athlete, values)


def _day(values: Values, name: str) -> date:
    try:
        return date.fromisoformat(str(values.get(name)))
    except ValueError:
        raise CoachError("That is no day.", where=name, accepted="A day such as 2026-12-05.") from None


def _competition(athlete: Athlete, name: object) -> Entry:
    """The next competition of that name."""
    named = [e for e in SeasonBook([athlete], clock.today()).competitions(athlete.pk) if e.name == str(name or "")]
    if not named:
        raise CoachError("There is no such competition.", where="name", accepted="One of the season.")
    return next((e for e in named if e.day >= clock.today()), named[-1])


def _easy_week(who: Who, athlete: Athlete, values: Values) -> None:
    set_easy_week.run(who, athlete, _day(values, "monday"), True)


def _usual_taper(who: Who, athlete: Athlete, values: Values) -> None:
    style = style_of(athlete)
    set_season_style.run(who, [athlete], TypedStyle(style.arrangement, style.loading_weeks, None))


def _away(who: Who, athlete: Athlete, values: Values) -> None:
    days = _day(values, "start"), _day(values, "end")
    add_entry.run(who, Scope(athlete, None), SpanKind.AWAY, "Away", *days)


def _remove_added(who: Who, athlete: Athlete, values: Values) -> None:
    remove_added.run(who, athlete, _day(values, "monday"))


def _rank(who: Who, athlete: Athlete, values: Values) -> None:
    found = _competition(athlete, values.get("name"))
    change_competitions.run(who, found, "athlete", {"rank": str(values.get("rank") or "")}, None)


def _unpin(who: Who, athlete: Athlete, values: Values) -> None:
    """The phase of that name goes back to its proposed length; others set by hand stay."""
    found = _competition(athlete, values.get("toward"))
    plan = SeasonBook([athlete], clock.today()).plan(athlete.pk)
    pinned = [p for p in plan.phases if p.toward == found.name and p.pinned] if plan is not None else []
    set_phases.run(who, found, {p.id: p.weeks for p in pinned if p.id != values.get("phase")})


FIXES: Mapping[str, Callable[[Who, Athlete, Values], None]] = {
    "easy_week": _easy_week,
    "taper": _usual_taper,
    "away": _away,
    "remove_added": _remove_added,
    "rank": _rank,
    "unpin": _unpin,
}
