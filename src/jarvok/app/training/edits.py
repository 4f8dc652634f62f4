"""One change of a session as a page sends it, and what it does to the document."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import assert_never

from jarvok.app.training.written import line_from
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session import document as doc
from jarvok.core.session.blocks import GROUPINGS, BlockStyle, Grouping
from jarvok.core.session.roles import MAIN_KINDS
from jarvok.core.session.usual_text import usual_text


class Op(StrEnum):
    """What is done to a session."""

    ADD = "add"
    DROP = "drop"
    REPLACE = "replace"
    WRITE = "write"
    NOTE = "note"
    CONDITIONS = "conditions"
    MOVE = "move"
    REGROUP = "regroup"
    RENAME = "rename"


@dataclass(frozen=True, kw_only=True)
class Edit:
    """One change of a session. `op` says which; the other fields are what it needs."""

    op: Op
    line: str = ""  # its id, or the slot it stands in
    exercise_id: str = ""
    text: str = ""
    block: str = ""
    to: str = ""
    is_main: bool = False
    grouping: str = ""
    rest_inside_s: int | None = None
    rest_between_s: int | None = None
    minutes: int | None = None
    bpm: int | None = None
    beats: int | None = None
    every_s: int | None = None
    conditions: Mapping[str, str] = field(default_factory=dict)


def _style(edit: Edit) -> BlockStyle:
    try:
        grouping = Grouping(edit.grouping or Grouping.STRAIGHT)
    except ValueError:
        known = ", ".join(g.name.lower() for g in GROUPINGS.values())
        raise CoachError("There is no such grouping.", where="grouping", accepted=known) from None
    return BlockStyle(grouping, edit.rest_inside_s, edit.rest_between_s, edit.minutes, edit.bpm, edit.beats or 2, edit.every_s)


def change_of(edit: Edit, slot: str) -> tuple[Callable[[doc.Document], doc.Document], str]:
    """Return what an edit does to a document, and its words; `slot` is where its line stands now."""
    match edit.op:
        case Op.ADD:
            lift = exercise(edit.exercise_id)
            text = write(parse(edit.text)) if edit.text.strip() else usual_text(lift)
            added = line_from(lift.id, text, is_main=edit.is_main or lift.kind in MAIN_KINDS)
            return lambda d: doc.add_line(d, added, edit.block or "main"), f"{lift.name} added"
        case Op.DROP:
            return lambda d: doc.drop_line(d, edit.line), f"{slot} taken out"
        case Op.REPLACE:
            name = exercise(edit.exercise_id).name
            return lambda d: doc.replace_line(d, edit.line, edit.exercise_id), f"{slot} is now {name.lower()}"
        case Op.WRITE:
            return lambda d: doc.write_text(d, edit.line, edit.text), f"{slot} written as {edit.text}"
        case Op.NOTE:
            return lambda d: doc.note_line(d, edit.line, edit.text), f"a word beside {slot}"
        case Op.CONDITIONS:
            return lambda d: doc.condition_line(d, edit.line, edit.conditions), f"grip, rack or equipment of {slot}"
        case Op.MOVE:
            return lambda d: doc.move_line(d, edit.line, edit.to), f"{slot} moved {edit.to}"
        case Op.REGROUP:
            style = _style(edit)
            return lambda d: doc.regroup(d, edit.block, style), f"{edit.block}: {GROUPINGS[style.grouping].name.lower()}"
        case Op.RENAME:
            return lambda d: doc.rename(d, edit.text), f"called {edit.text}"
        case _:
            assert_never(edit.op)
