"""A session as an open document: written by the coach, kept as a template, exported.

docs/formats/session.md describes it.

Limits of a document are technical [T].
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.marks.conditions import from_raw as from_conditions
from jarvok.core.marks.mark import Conditions
from jarvok.core.session.blocks import GROUPINGS, STRAIGHT, BlockStyle, Grouping, check_style
from jarvok.core.session.forms import AS_IT_IS, Forms
from jarvok.core.session.line_ids import LONGEST_LINE_ID, line_id
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import prepares, role_of

FORMAT, VERSION = "jarvok-session", 1
MOST_BLOCKS, MOST_LINES, LONGEST_NAME, LONGEST_REASON = 12, 40, 60, 160
LOADS = ("low", "middle", "high")
LAST_HOUR, LAST_MINUTE = 23, 59


@dataclass(frozen=True)
class WrittenLine:
    """A line as the coach wrote it: exercise, shorthand, the reason it is there, a word beside it, what it is known by."""

    exercise_id: str
    text: str
    reason: str = ""
    is_main: bool = False
    note: str = ""
    line_id: str = ""
    conditions: Conditions = ()
    forms: Forms = AS_IT_IS


@dataclass(frozen=True)
class WrittenBlock:
    """A block: its name, how its lines are grouped, its lines."""

    name: str
    lines: tuple[WrittenLine, ...]
    style: BlockStyle = STRAIGHT


@dataclass(frozen=True)
class Document:
    """A whole session: theme, how hard it is meant, blocks in order; `starts` is when it begins, such as 06:30, or nothing."""

    theme: str
    blocks: tuple[WrittenBlock, ...]
    load: str = "middle"
    starts: str = ""

    @property
    def line_count(self) -> int:
        """Lines of all blocks."""
        return sum(len(b.lines) for b in self.blocks)


STYLE_KEYS = ("rest_inside_s", "rest_between_s", "minutes", "bpm", "beats", "every_s")


def document_of(session: PlannedSession, texts: Mapping[str, str] | None = None) -> Document:
    """Return a planned session as a document; `texts` are lines as they stand, by their ids."""
    texts = texts or {}
    blocks: list[WrittenBlock] = []
    for line in session.lines:
        written = WrittenLine(
            line.exercise_id,
            texts.get(line.line_id) or write(line.prescription),
            line.reason[:LONGEST_REASON],
            line.is_main,
            line.note,
            line.line_id,
            line.conditions,
            line.forms,
        )
        name = title_of(line.block)
        if blocks and blocks[-1].name == name:
            blocks[-1] = replace(blocks[-1], lines=(*blocks[-1].lines, written))
        else:
            blocks.append(WrittenBlock(name, (written,), line.style))
    return Document(session.theme, tuple(blocks), session.load, session.starts)


def identified(document: Document) -> Document:
    """Return the document with every line known by an id of its own; those that have one keep it."""
    held = [x.line_id for b in document.blocks for x in b.lines]
    if all(held) and len(set(held)) == len(held):
        return document
    taken: set[str] = set()
    blocks: list[WrittenBlock] = []
    for block in document.blocks:
        lines: list[WrittenLine] = []
        for line in block.lines:
            if not line.line_id or line.line_id in taken:
                lift = exercise(line.exercise_id)
                role = role_of(block.name, lift, is_main=line.is_main)
                line = replace(line, line_id=line_id(role, lift.pattern, taken.union(held)))
            taken.add(line.line_id)
            lines.append(line)
        blocks.append(replace(block, lines=tuple(lines)))
    return replace(document, blocks=tuple(blocks))


def title_of(block: str) -> str:
    """Return a block's name without its letter."""
    head, dot, tail = block.partition(" · ")
    return tail if dot and len(head) == 1 else block


def session_of(document: Document, key: str, day: date, reason: str = "written by you") -> PlannedSession:
    """Return a document as a session of a day: blocks get their letters, lines their slots."""
    lines: list[PlannedLine] = []
    letter = 0
    for block in identified(document).blocks:
        if prepares(block.name):
            mark, name = "P", block.name
        else:
            mark, name = chr(ord("A") + letter), f"{chr(ord('A') + letter)} · {block.name}"
            letter += 1
        before = sum(1 for x in lines if x.slot.startswith(mark))
        for number, line in enumerate(block.lines, start=before + 1):
            lines.append(
                PlannedLine(
                    f"{mark}{number}",
                    name,
                    line.exercise_id,
                    parse(line.text),
                    line.reason or "written by you",
                    line.is_main,
                    style=block.style,
                    note=line.note,
                    role=role_of(block.name, exercise(line.exercise_id), is_main=line.is_main),
                    line_id=line.line_id,
                    conditions=line.conditions,
                    forms=line.forms,
                )
            )
    return PlannedSession(key, day, document.theme, reason, tuple(lines), document.load, is_own=True, starts=document.starts)


def to_raw(document: Document) -> dict[str, Any]:
    """Return a document as plain data for JSON, every line with its id."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "theme": document.theme,
        "load": document.load,
        **({"starts": document.starts} if document.starts else {}),
        "blocks": [
            {
                "name": b.name,
                "grouping": b.style.grouping.value,
                **{k: v for k in STYLE_KEYS if (v := getattr(b.style, k)) is not None and (k != "beats" or b.style.bpm)},
                "lines": [
                    {
                        "id": x.line_id,
                        "exercise": x.exercise_id,
                        "text": x.text,
                        "reason": x.reason,
                        "main": x.is_main,
                        **({"note": x.note} if x.note else {}),
                        **({"conditions": dict(x.conditions)} if x.conditions else {}),
                        **x.forms.to_raw(),
                    }
                    for x in b.lines
                ],
            }
            for b in identified(document).blocks
        ],
    }


def from_raw(raw: object) -> Document:
    """Return the document of plain data; raises `CoachError` that names the place of what cannot be read."""
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise CoachError("This is not a session.", where="format", accepted=f'A JSON object with "format": "{FORMAT}".')
    if raw.get("version") != VERSION:
        raise CoachError(f"Version {raw.get('version')} is not known here.", where="version", accepted=f"Version {VERSION}.")
    theme, load, blocks = short_text(raw, "theme", "theme"), raw.get("load", "middle"), raw.get("blocks")
    if load not in LOADS:
        raise CoachError(f"“{load}” is no load of a day.", where="load", accepted=", ".join(LOADS))
    if not isinstance(blocks, list) or not 0 <= len(blocks) <= MOST_BLOCKS:
        raise CoachError("A session has a list of blocks.", where="blocks", accepted=f"Up to {MOST_BLOCKS}.")
    starts = clock_time(raw.get("starts", ""))
    document = Document(theme, tuple(_block(b, f"blocks[{i}]") for i, b in enumerate(blocks)), load, starts)
    if document.line_count > MOST_LINES:
        raise CoachError("That many lines are no session.", where="blocks", accepted=f"Up to {MOST_LINES} lines.")
    return document


def clock_time(typed: object) -> str:
    """Return a time of day as 06:30, nothing for nothing; 6:30, 6.30 and 6 are read too. Raises `CoachError` for others."""
    text = str(typed or "").strip()
    m = re.fullmatch(r"(\d{1,2})(?:[:.h](\d{2})?)?", text)
    if not text:
        return ""
    if m is None or int(m.group(1)) > LAST_HOUR or int(m.group(2) or 0) > LAST_MINUTE:
        raise CoachError(f"“{text}” is no time of day.", where="starts", accepted="A time such as 6:30 or 17:00.")
    return f"{int(m.group(1)):02d}:{int(m.group(2) or 0):02d}"


def short_text(raw: Mapping[str, Any], key: str, where: str, longest: int = LONGEST_NAME, *, least: int = 1) -> str:
    """Return a short text of plain data without spaces around it; raises `CoachError` outside its length."""
    value = raw.get(key, "")
    if not isinstance(value, str) or not least <= len(value.strip()) <= longest:
        raise CoachError(f"The {key} is missing or too long.", where=where, accepted=f"{least} to {longest} characters.")
    return value.strip()


def _block(raw: object, where: str) -> WrittenBlock:
    if not isinstance(raw, dict):
        raise CoachError("A block is an object.", where=where, accepted="name, grouping and lines")
    try:
        grouping = Grouping(raw.get("grouping", "straight"))
    except ValueError:
        known = ", ".join(GROUPINGS)
        raise CoachError(f"“{raw.get('grouping')}” is no grouping.", where=f"{where}.grouping", accepted=known) from None
    numbers: dict[str, int] = {}
    for key in STYLE_KEYS:
        value = raw.get(key)
        if value is None:
            continue
        if isinstance(value, bool) or not isinstance(value, int):
            raise CoachError(f"{key} is a whole number.", where=f"{where}.{key}", accepted="A whole number.")
        numbers[key] = value
    rows = raw.get("lines")
    if not isinstance(rows, list) or len(rows) > MOST_LINES:
        raise CoachError("A block has a list of lines.", where=f"{where}.lines", accepted=f"Up to {MOST_LINES}.")
    lines = tuple(_line(x, f"{where}.lines[{i}]") for i, x in enumerate(rows))
    style = BlockStyle(grouping, **numbers)
    if lines:
        check_style(style, len(lines))
    return WrittenBlock(short_text(raw, "name", f"{where}.name"), lines, style)


def _line(raw: object, where: str) -> WrittenLine:
    if not isinstance(raw, dict):
        raise CoachError("A line is an object.", where=where, accepted="exercise and text")
    exercise_id = raw.get("exercise")
    if not isinstance(exercise_id, str) or exercise_id not in exercises():
        raise CoachError(
            f"The library has no exercise “{exercise_id}”.", where=f"{where}.exercise", accepted="An id of the library."
        )
    text = raw.get("text", "")
    if not isinstance(text, str):
        raise CoachError("A line's text is shorthand.", where=f"{where}.text", accepted="4 × 3 @ 82 %")
    reason, note = raw.get("reason", ""), raw.get("note", "")
    known_by = raw.get("id", "")
    if not isinstance(known_by, str) or len(known_by) > LONGEST_LINE_ID:
        raise CoachError("A line's id is a short text.", where=f"{where}.id", accepted=f"Up to {LONGEST_LINE_ID} characters.")
    written = write(parse(text))
    is_main = bool(raw.get("main", False))
    under = raw.get("conditions")
    conditions = from_conditions(under if isinstance(under, Mapping) else None)
    return WrittenLine(
        exercise_id,
        written,
        str(reason)[:LONGEST_REASON],
        is_main,
        str(note)[:LONGEST_NAME],
        known_by,
        conditions,
        Forms.from_raw(raw, where),
    )
