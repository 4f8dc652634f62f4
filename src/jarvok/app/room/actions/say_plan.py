"""The coach decides the plan of an athlete's day."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import DayWord, Gathering
from jarvok.app.floor.actions import change_plan
from jarvok.app.room.gathered import read_room
from jarvok.app.room.telling import present_in, tell_room
from jarvok.core.errors import CoachError
from jarvok.core.floor.day_plan import Less
from jarvok.core.floor.readiness import Plan


def run(who: Who, gathering: Gathering, athlete_id: int, plan: str, less: str, reason: str) -> None:
    """Keep the coach's word on an athlete's day. A session that runs without logged work changes with it."""
    with acting(who, "say_plan", f"plan {plan}", squad=gathering.squad):
        if plan not in set(Plan) or less not in set(Less):
            raise CoachError("That is no plan.", where="plan", accepted="A, B (fewer or by_feel) or C.")
        room = read_room(gathering)
        present = present_in(room, athlete_id)
        DayWord.objects.create(
            attendance=present.attendance,
            plan=plan,
            less=less,
            suggested=present.suggestion.plan,
            reason=reason.strip()[:200],
            at=clock.now(),
        )
        if present.session is not None and present.session.finished_at is None:
            change_plan.run(who, present.session, present_in(read_room(gathering), athlete_id).plan)
        tell_room(gathering)
