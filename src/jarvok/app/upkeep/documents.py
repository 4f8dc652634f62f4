"""One athlete as an open document: everything that is known of them, or their plan. See docs/formats/athlete.md."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.db.models import CASCADE, ManyToOneRel, Model

from jarvok.app import clock
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Act
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.sheets import Sheet, week_in
from jarvok.app.training.told_weeks import read_told
from jarvok.app.training.written import documented
from jarvok.app.upkeep.whole_centre import LEFT_OUT, to_raw, told
from jarvok.core.errors import CoachError
from jarvok.core.season.model import monday_of
from jarvok.core.session.document import to_raw as session_to_raw

VERSION = 1
PERSON, PLAN = "jarvok athlete", "jarvok plan"
MOST_WEEKS = 16  # [T]
KEYS_AT_ONCE = 500  # [T]
HIDDEN = ("simulated",)  # numbers of the demo's simulated lifters


def _everything(athlete: Athlete) -> dict[type[Model], dict[Any, Model]]:
    """Every row that hangs on an athlete: what goes when they are erased, and what was done to them."""
    found: dict[type[Model], dict[Any, Model]] = {Athlete: {athlete.pk: athlete}}
    waiting: list[tuple[type[Model], list[Any]]] = [(Athlete, [athlete.pk])]
    while waiting:
        kind, keys = waiting.pop()
        for relation in kind._meta.get_fields(include_hidden=True):
            if not isinstance(relation, ManyToOneRel) or relation.on_delete is not CASCADE:
                continue
            of: type[Model] = relation.related_model
            mine = found.setdefault(of, {})
            rows = of._default_manager.filter(**{f"{relation.field.name}__in": keys})
            new = {r.pk: r for r in rows.iterator() if r.pk not in mine}
            mine.update(new)
            if new and of is not Act:  # what else an act wrote may be of somebody else
                pks = list(new)
                waiting += [(of, pks[at : at + KEYS_AT_ONCE]) for at in range(0, len(pks), KEYS_AT_ONCE)]
    return found


def write_person(athlete: Athlete) -> str:
    """Return everything that is known of an athlete: the rows that erasing would take, kind by kind."""
    everything = _everything(athlete)
    rows: dict[str, list[dict[str, Any]]] = {}
    for kind in sorted(everything, key=lambda k: k._meta.label_lower):
        mine = everything[kind]
        if mine and kind._meta.label_lower not in LEFT_OUT:
            rows[kind._meta.label_lower] = [{k: v for k, v in to_raw(mine[pk]).items() if k not in HIDDEN} for pk in sorted(mine)]
    document = {"format": PERSON, "version": VERSION, "written": clock.now(), "name": athlete.name, "squad": athlete.squad.name}
    return json.dumps(document | {"rows": rows}, default=told, ensure_ascii=False, indent=1)


def _session(sheet: Sheet) -> dict[str, Any]:
    document = session_to_raw(documented(sheet))
    loads = [
        {"line": line.planned.slot, "set": s.set_index + 1, "load_kg": s.load_kg, "reps": s.reps, "seconds": s.seconds}
        for line in sheet.lines
        for s in line.sets
    ]
    return {"day": sheet.planned.day, "key": sheet.planned.key, "session": document, "loads": loads}


def write_plan(athlete: Athlete, weeks: int) -> str:
    """Return an athlete's season week by week, and the sessions of so many weeks from this one on with their loads.

    Raises `CoachError` without a season, or for too many weeks.
    """
    if not 1 <= weeks <= MOST_WEEKS:
        raise CoachError(f"{weeks} weeks cannot be written.", where="weeks", accepted=f"1 to {MOST_WEEKS} weeks.")
    today = clock.today()
    seasons = SeasonBook([athlete], today)
    plan = seasons.plan(athlete.pk)
    if plan is None:
        raise CoachError(f"{athlete.name} has no season yet.", accepted="Add a competition or plan a block of weeks.")
    book = LiftBook([athlete], today, rules=seasons.rules)
    share_book(book)
    mondays = [monday_of(today) + timedelta(weeks=n) for n in range(weeks)]
    read_told([athlete], mondays)
    found = [w for m in mondays if (w := week_in(athlete, plan, m, book)) is not None]
    document = {
        "format": PLAN,
        "version": VERSION,
        "written": clock.now(),
        "name": athlete.name,
        "competitions": [
            {"name": c.name, "day": c.day, "rank": c.rank} for c in seasons.competitions(athlete.pk) if c.block is None
        ],
        "weeks": [
            {
                "week_of": w.start, "phase": w.phase_name, "deload": w.is_easy, "volume_pct": round(100 * w.volume),
                "top_intensity_pct": w.intensity_pct, "note": w.note,
            }
            for w in plan.weeks
        ],
        "sessions": [_session(s) for w in found for s in w.sheets],
    }  # fmt: skip
    return json.dumps(document, default=told, ensure_ascii=False, indent=1)


def write_session(sheet: Sheet) -> str:
    """Return a session as its own open document, which is read back to the same session."""
    return json.dumps(session_to_raw(documented(sheet)), ensure_ascii=False, indent=1)
