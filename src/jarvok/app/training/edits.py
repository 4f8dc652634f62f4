"""One change of a session as a page sends it, and what it does to the document."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from functools import reduce
from typing import assert_never

from jarvok.app.training.own_library import taken_out_ids
from jarvok.app.training.written import line_from
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.loading.goals import goal_of, line_for
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session import block_changes as block
from jarvok.core.session import line_changes as line
from jarvok.core.session.blocks import GROUPINGS, BlockStyle, Grouping
from jarvok.core.session.document import Document
from jarvok.core.session.roles import MAIN_KINDS
from jarvok.core.session.typed_block import typed_blocks
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
    ROUND = "round"
    LEVELS = "levels"
    TYPE = "type"
    STARTS = "starts"
    RENAME_BLOCK = "rename_block"
    MOVE_BLOCK = "move_block"
    COPY_BLOCK = "copy_block"
    DROP_BLOCK = "drop_block"


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
    rounds: int | None = None  # of a block: so many sets of each of its lines
    number: int = 0  # which round is written anew
    note: str = ""  # what that round is done with
    easier: str = ""
    harder: str = ""
    conditions: Mapping[str, str] = field(default_factory=dict)


def _style(edit: Edit) -> BlockStyle:
    try:
        grouping = Grouping(edit.grouping or Grouping.STRAIGHT)
    except ValueError:
        known = ", ".join(g.name.lower() for g in GROUPINGS.values())
        raise CoachError("There is no such grouping.", where="grouping", accepted=known) from None
    return BlockStyle(grouping, edit.rest_inside_s, edit.rest_between_s, edit.minutes, edit.bpm, edit.beats or 2, edit.every_s)


def change_of(edit: Edit, slot: str) -> tuple[Callable[[Document], Document], str]:
    """Return what an edit does to a document, and its words; `slot` is where its line stands now."""
    match edit.op:
        case Op.ADD:
            lift = exercise(edit.exercise_id)
            row = goal_of(edit.text)
            text = line_for(row, lift) if row else edit.text if edit.text.strip() else usual_text(lift)
            text = write(parse(text))
            added = line_from(lift.id, text, is_main=edit.is_main or lift.kind in MAIN_KINDS)
            return lambda d: line.add_line(d, added, edit.block or "main"), f"{lift.name} added"
        case Op.DROP:
            return lambda d: line.drop_line(d, edit.line), f"{slot} taken out"
        case Op.REPLACE:
            name = exercise(edit.exercise_id).name
            return lambda d: line.replace_line(d, edit.line, edit.exercise_id), f"{slot} is now {name.lower()}"
        case Op.WRITE:
            return lambda d: line.write_text(d, edit.line, edit.text), f"{slot} written as {edit.text}"
        case Op.NOTE:
            return lambda d: line.note_line(d, edit.line, edit.text), f"a word beside {slot}"
        case Op.CONDITIONS:
            return lambda d: line.condition_line(d, edit.line, edit.conditions), f"grip, rack or equipment of {slot}"
        case Op.MOVE:
            return lambda d: line.move_line(d, edit.line, edit.to), f"{slot} moved {edit.to}"
        case Op.REGROUP:
            style = _style(edit)
            said = GROUPINGS[style.grouping].name.lower()
            return lambda d: block.regroup(d, edit.block, style, edit.rounds), f"{edit.block}: {said}"
        case Op.RENAME:
            return lambda d: block.rename(d, edit.text), f"called {edit.text}"
        case Op.ROUND:
            anew = f"round {edit.number} of {slot}"
            return lambda d: line.write_round(d, edit.line, edit.number, edit.text, edit.note), anew
        case Op.LEVELS:
            return lambda d: line.level_line(d, edit.line, edit.easier, edit.harder), f"an easier and a harder form of {slot}"
        case Op.STARTS:
            said = f"begins at {edit.text}" if edit.text.strip() else "begins at no set time"
            return lambda d: block.begins_at(d, edit.text), said
        case Op.TYPE:
            gone = taken_out_ids()
            typed = typed_blocks(edit.text, (x for x in exercises().values() if x.id not in gone))
            said = ", ".join(b.name for b in typed)
            return lambda d: reduce(block.put_block, typed, d), f"{said} written"
        case Op.RENAME_BLOCK:
            return lambda d: block.rename_block(d, edit.block, edit.text), f"{edit.block} is called {edit.text}"
        case Op.MOVE_BLOCK:
            return lambda d: block.move_block(d, edit.block, edit.to), f"{edit.block} moved {edit.to}"
        case Op.COPY_BLOCK:
            return lambda d: block.copy_block(d, edit.block), f"{edit.block} once more"
        case Op.DROP_BLOCK:
            return lambda d: block.drop_block(d, edit.block), f"{edit.block} taken out"
        case _:
            assert_never(edit.op)
