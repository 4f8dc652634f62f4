"""The sessions of those who are here begin."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Gathering
from jarvok.app.floor.actions import start_sheet
from jarvok.app.room.gathered import read_room
from jarvok.app.room.telling import tell_room


def run(who: Who, gathering: Gathering, athlete_ids: Sequence[int] | None = None) -> tuple[list[str], list[str]]:
    """Start the sessions of those who are here (or of some). Returns who began, and who did not with the reason."""
    with acting(who, "begin_sessions", "sessions begun", squad=gathering.squad):
        room = read_room(gathering, with_loads=True)
        assert room.book is not None
        began: list[str] = []
        left: list[str] = []
        for p in room.people:
            if athlete_ids is not None and p.athlete.pk not in athlete_ids:
                continue
            if athlete_ids is None and not p.attendance.is_here:
                continue
            if p.session is not None and p.session.finished_at is None:
                continue
            if p.sheet is None or p.week is None:
                left.append(f"{p.athlete.name}: no session planned today")
            elif p.sheet.started is not None:
                left.append(f"{p.athlete.name}: today's session is finished")
            else:
                start_sheet.run(who, p.athlete, p.week, p.sheet, room.book, p.plan)
                began.append(p.athlete.name)
        tell_room(gathering)
        return began, left
