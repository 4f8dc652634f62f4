"""A block of a session is put on another day: moved there, or copied."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.training.written import documented, free_key, held, open_sheet, put, week_for
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.session.block_changes import drop_block, find_block, put_block
from jarvok.core.session.document import Document


def run(who: Who, athlete: Athlete, day: date, key: str, block: str, to: date, *, keep: bool) -> None:
    """Put a block at the end of what `to` holds, in a session of its own where the day is empty; `keep` leaves it here too."""
    if to == day:
        raise CoachError("It is there already.", where="day", accepted="Another day.")
    with held(athlete) as now:
        _, sheet = open_sheet(now, day, key)
        document = documented(sheet)
        found = document.blocks[find_block(document, block)]
        week = week_for(now, to)
        target = next((s for s in week.sheets if s.planned.day == to), None)
        if target is not None and target.started is not None:
            raise Conflict("The session of that day has been started; what was told stays.")
        words = f"{found.name} {'copied' if keep else 'moved'} to {said_day(to, weekday=True)}"
        with acting(who, "carry_block", words, athlete=now):
            if not keep:
                put(now, key, day, drop_block(document, found.name), words)
            if target is not None:
                put(now, target.planned.key, to, put_block(documented(target), found), words)
            else:
                put(now, free_key(week, now), to, put_block(Document("Own session", ()), found), words)
