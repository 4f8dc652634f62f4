"""What a template holds: gathered from a plan, and put on days again."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.lookup import find_sheet, near
from jarvok.app.training.sheets import athlete_week
from jarvok.app.training.written import documented
from jarvok.core.errors import CoachError
from jarvok.core.season.model import monday_of
from jarvok.core.session.block_changes import find_block
from jarvok.core.session.document import Document
from jarvok.core.session.template import KINDS, TemplateDocument

MOST_WEEKS = 16


def checked_name(name: str, kind: str) -> str:
    """A name that a template of a kind may have; raises `CoachError` otherwise."""
    name = name.strip()
    if not 1 <= len(name) <= 80:
        raise CoachError("A template needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if kind not in KINDS:
        raise CoachError("There is no such kind.", where="kind", accepted=", ".join(KINDS))
    return name


def gathered(athlete: Athlete, kind: str, day: date, key: str, weeks: int, block: str = "") -> TemplateDocument:
    """A block or a session, the week of a day, or weeks from a day on, as a template holds them."""
    if kind == "block":
        _, sheet = find_sheet(athlete, day, key)
        whole = documented(sheet)
        return TemplateDocument("block", ((0, 0, replace(whole, blocks=(whole.blocks[find_block(whole, block)],))),))
    if kind == "session":
        _, sheet = find_sheet(athlete, day, key)
        return TemplateDocument("session", ((0, day.weekday(), documented(sheet)),))
    weeks = 1 if kind == "week" else weeks
    if not 1 <= weeks <= MOST_WEEKS:
        raise CoachError(f"{weeks} weeks cannot be kept.", where="weeks", accepted=f"1 to {MOST_WEEKS}.")
    monday, found = monday_of(near(day)), []
    for index in range(weeks):
        week = athlete_week(athlete, monday + timedelta(weeks=index), clock.today())
        if week is not None:
            found += [(index, s.planned.day.weekday(), documented(s)) for s in week.sheets]
    if not found:
        raise CoachError("There is no session in it.", where="day", accepted="A week of the season.")
    return TemplateDocument(kind, tuple(found))


def dated(found: TemplateDocument, day: date) -> dict[date, list[Document]]:
    """The sessions on their days: a session on the day itself, weeks from its Monday on."""
    if found.kind == "block":
        raise CoachError("A block goes into a session.", where="kind", accepted="Open the session and put it in there.")
    if found.kind == "session":
        return {day: [found.sessions[0][2]]}
    monday = monday_of(near(day))
    on_days: dict[date, list[Document]] = {}
    for week, weekday, document in found.sessions:
        on_days.setdefault(monday + timedelta(weeks=week, days=weekday), []).append(document)
    return on_days
