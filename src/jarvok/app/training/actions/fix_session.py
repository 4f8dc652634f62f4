"""What a flag proposes is done in one step."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from jarvok.app.acts import Who
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.actions import edit_session, move_session, restore_session, take_out_session
from jarvok.app.training.edits import Edit, Op
from jarvok.app.training.lookup import day_in
from jarvok.core.errors import CoachError
from jarvok.core.season.model import monday_of

KINDS = ("move", "write", "drop", "replace", "first", "last", "add", "take_out", "restore")


def run(
    who: Who, athlete: Athlete, day: date, key: str, kind: str, values: Mapping[str, str | float | bool | None]
) -> tuple[date, str]:
    """Do a fix; return the day the session is on now, and what was done. A fix may name another session of the week."""

    def text(name: str) -> str:
        return str(values.get(name) or "")

    day = day_in(values["day"], "day") if values.get("day") else day
    key = text("key") or key
    if kind == "move":
        to = day_in(values.get("to"), "to")
        move_session.run(who, athlete, day, key, to)
        return to, f"moved to {to.isoformat()}"
    if kind == "take_out":
        take_out_session.run(who, athlete, day, key)
        return day, "taken out"
    if kind == "restore":
        restore_session.run(who, athlete, monday_of(day), key)
        return day, "as planned"
    line, lift, written, block = text("line"), text("exercise_id"), text("text"), text("block")
    match kind:
        case "write":
            edit = Edit(op=Op.WRITE, line=line, text=written)
        case "drop":
            edit = Edit(op=Op.DROP, line=line)
        case "replace":
            edit = Edit(op=Op.REPLACE, line=line, exercise_id=lift)
        case "first" | "last":
            edit = Edit(op=Op.MOVE, line=line, to=kind)
        case "add":
            edit = Edit(op=Op.ADD, exercise_id=lift, text=written, block=block)
        case _:
            raise CoachError("There is no such fix.", where="kind", accepted=", ".join(KINDS))
    return day, edit_session.run(who, athlete, day, key, edit)
