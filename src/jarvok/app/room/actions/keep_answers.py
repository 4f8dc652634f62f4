"""An athlete says on arriving how they are."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Answers, Attendance, Gathering
from jarvok.app.floor.actions.answer_pain import asked_again
from jarvok.app.room.telling import attendance_in, tell_room
from jarvok.core.floor.readiness import Arrival, checked


def of(who: Who, gathering: Gathering, athlete_id: int, data: Mapping[str, Any]) -> None:
    """The same from the coach's page, for anybody of the squad."""
    athlete = Athlete.objects.filter(pk=athlete_id).first()
    with acting(who, "keep_answers", "arrival answered", athlete=athlete):
        run(who, attendance_in(gathering, athlete_id), data, by_athlete=False)


def run(who: Who, attendance: Attendance, data: Mapping[str, Any], *, by_athlete: bool) -> None:
    """Keep what an athlete says on arriving; saying something means being here."""
    with acting(who, "keep_answers", "arrival answered", athlete=attendance.athlete):
        said = checked(Arrival.from_raw(data))
        asked_again(who, attendance.athlete_id, attendance.gathering.day)
        Answers.objects.create(attendance=attendance, data=said.to_raw(), by_athlete=by_athlete, at=clock.now())
        if not attendance.is_here:
            attendance.is_here, attendance.changed_at = True, clock.now()
            attendance.save(update_fields=["is_here", "changed_at"])
        tell_room(attendance.gathering)
