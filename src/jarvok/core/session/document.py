"""A session as an open document, and what a coach does to one: add, drop, replace, move, regroup.

The same document is a written session, a template and what is exported; docs/formats/session.md describes it.

Limits of a document are technical [T].
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.marks.conditions import checked
from jarvok.core.marks.conditions import from_raw as from_conditions
from jarvok.core.marks.mark import Conditions
from jarvok.core.session.blocks import GROUPINGS, STRAIGHT, BlockStyle, Grouping, check_style
from jarvok.core.session.fitting import fitted
from jarvok.core.session.line_ids import LONGEST_LINE_ID, line_id
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import PREPARE_NAME, role_of

FORMAT, VERSION = "jarvok-session", 1
MOST_BLOCKS, MOST_LINES, LONGEST_NAME, LONGEST_REASON = 12, 40, 60, 160
LOADS = ("low", "middle", "high")


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


@dataclass(frozen=True)
class WrittenBlock:
    """A block: its name, how its lines are grouped, its lines."""

    name: str
    lines: tuple[WrittenLine, ...]
    style: BlockStyle = STRAIGHT


@dataclass(frozen=True)
class Document:
    """A whole session: theme, how hard it is meant, blocks in order."""

    theme: str
    blocks: tuple[WrittenBlock, ...]
    load: str = "middle"

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
        )
        name = title_of(line.block)
        if blocks and blocks[-1].name == name:
            blocks[-1] = replace(blocks[-1], lines=(*blocks[-1].lines, written))
        else:
            blocks.append(WrittenBlock(name, (written,), line.style))
    return Document(session.theme, tuple(blocks), session.load)


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
        if block.name == PREPARE_NAME:
            mark, name = "P", PREPARE_NAME
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
                )
            )
    return PlannedSession(key, day, document.theme, reason, tuple(lines), document.load, is_own=True)


def to_raw(document: Document) -> dict[str, Any]:
    """Return a document as plain data for JSON, every line with its id."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "theme": document.theme,
        "load": document.load,
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
    theme, load, blocks = _text(raw, "theme", "theme"), raw.get("load", "middle"), raw.get("blocks")
    if load not in LOADS:
        raise CoachError(f"“{load}” is no load of a day.", where="load", accepted=", ".join(LOADS))
    if not isinstance(blocks, list) or not 0 <= len(blocks) <= MOST_BLOCKS:
        raise CoachError("A session has a list of blocks.", where="blocks", accepted=f"Up to {MOST_BLOCKS}.")
    document = Document(theme, tuple(_block(b, f"blocks[{i}]") for i, b in enumerate(blocks)), load)
    if document.line_count > MOST_LINES:
        raise CoachError("That many lines are no session.", where="blocks", accepted=f"Up to {MOST_LINES} lines.")
    return document


def _text(raw: Mapping[str, Any], key: str, where: str, longest: int = LONGEST_NAME, *, least: int = 1) -> str:
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
    return WrittenBlock(_text(raw, "name", f"{where}.name"), lines, style)


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
        exercise_id, written, str(reason)[:LONGEST_REASON], is_main, str(note)[:LONGEST_NAME], known_by, conditions
    )


# --- what a coach does to a document -----------------------------------------------------------------------------------


def _find(document: Document, line: str) -> tuple[int, int]:
    """Block index and line index of a line, named by its id or by the slot it stands in."""
    places = [(b, i) for b, block in enumerate(document.blocks) for i in range(len(block.lines))]
    standing = zip(session_of(document, "A", date(2000, 1, 1)).lines, places, strict=True)
    place = next((at for x, at in standing if line in (x.line_id, x.slot)), None)
    if place is None:
        raise CoachError(f"There is no line {line} in this session.", where="slot", accepted="A slot of the sheet, such as A1.")
    return place


def _with_lines(document: Document, at: int, lines: Sequence[WrittenLine]) -> Document:
    blocks = list(document.blocks)
    blocks[at] = replace(blocks[at], lines=tuple(lines))
    return replace(document, blocks=tuple(b for b in blocks if b.lines))


def add_line(document: Document, line: WrittenLine, block: str, *, style: BlockStyle | None = None) -> Document:
    """Put a line at the end of a block of that name; a new block comes last, or first when it prepares."""
    if document.line_count >= MOST_LINES:
        raise CoachError("The session is full.", where="exercise_id", accepted=f"Up to {MOST_LINES} lines.")
    exercise(line.exercise_id)
    line = replace(line, text=write(parse(line.text)))
    name = title_of(block.strip()) or "main"
    if len(name) > LONGEST_NAME:
        raise CoachError("The name of the block is too long.", where="block", accepted=f"Up to {LONGEST_NAME} characters.")
    at = next((i for i, b in enumerate(document.blocks) if b.name.lower() == name.lower()), None)
    if at is None:
        new = WrittenBlock(PREPARE_NAME if name.lower() == PREPARE_NAME.lower() else name, (line,), style or STRAIGHT)
        blocks = (new, *document.blocks) if new.name == PREPARE_NAME else (*document.blocks, new)
        return replace(document, blocks=blocks)
    return _with_lines(document, at, (*document.blocks[at].lines, line))


def drop_line(document: Document, slot: str) -> Document:
    """Take a line out; an empty block goes with it. A grouping that no longer holds becomes straight sets."""
    b, i = _find(document, slot)
    lines = [x for n, x in enumerate(document.blocks[b].lines) if n != i]
    if lines and len(lines) < GROUPINGS[document.blocks[b].style.grouping].least:
        document = _with_style(document, b, STRAIGHT)
    return _with_lines(document, b, lines)


def take_line(document: Document, slot: str) -> WrittenLine:
    """Return one line of a document."""
    b, i = _find(document, slot)
    return document.blocks[b].lines[i]


def replace_line(document: Document, slot: str, exercise_id: str, reason: str = "") -> Document:
    """Put another exercise in a line's place; the prescription is fitted to its sides and load."""
    b, i = _find(document, slot)
    lines, lift = list(document.blocks[b].lines), exercise(exercise_id)
    before = exercise(lines[i].exercise_id)
    text = write(fitted(parse(lines[i].text), lift, before))
    why = (reason or f"in place of {before.name.lower()}")[:LONGEST_REASON]
    lines[i] = replace(lines[i], exercise_id=lift.id, text=text, reason=why, conditions=())
    return _with_lines(document, b, lines)


def write_text(document: Document, slot: str, text: str) -> Document:
    """Write a line's prescription anew."""
    b, i = _find(document, slot)
    lines = list(document.blocks[b].lines)
    lines[i] = replace(lines[i], text=write(parse(text)))
    return _with_lines(document, b, lines)


def note_line(document: Document, slot: str, note: str) -> Document:
    """Put a word beside a line: surface, footwear, the implement of each round; an empty one takes it away."""
    note = note.strip()
    if len(note) > LONGEST_NAME:
        raise CoachError("The word beside the line is too long.", where="text", accepted=f"Up to {LONGEST_NAME} characters.")
    b, i = _find(document, slot)
    lines = list(document.blocks[b].lines)
    lines[i] = replace(lines[i], note=note)
    return _with_lines(document, b, lines)


def condition_line(document: Document, slot: str, given: Mapping[str, str]) -> Document:
    """Say under what conditions a line is done: rack, grip, equipment; nothing given is as usual."""
    b, i = _find(document, slot)
    lines = list(document.blocks[b].lines)
    lines[i] = replace(lines[i], conditions=checked(exercise(lines[i].exercise_id), given))
    return _with_lines(document, b, lines)


def move_line(document: Document, slot: str, to: str) -> Document:
    """Move a line: `up` or `down` by one, over the edge of a block into the next; its block `first` or `last`."""
    b, i = _find(document, slot)
    blocks = [list(x.lines) for x in document.blocks]
    line = blocks[b][i]
    match to:
        case "up" if i > 0:
            blocks[b][i - 1], blocks[b][i] = blocks[b][i], blocks[b][i - 1]
        case "down" if i < len(blocks[b]) - 1:
            blocks[b][i + 1], blocks[b][i] = blocks[b][i], blocks[b][i + 1]
        case "up" | "down":
            other = b - 1 if to == "up" else b + 1
            if not 0 <= other < len(blocks):
                return document
            blocks[b].pop(i)
            blocks[other].insert(len(blocks[other]) if to == "up" else 0, line)
        case "first" | "last":
            return _block_to(document, b, i, to)
        case _:
            raise CoachError("A line moves up, down, first or last.", where="to", accepted="up, down, first or last")
    moved = tuple(replace(x, lines=tuple(rows)) for x, rows in zip(document.blocks, blocks, strict=True) if rows)
    return replace(document, blocks=tuple(_holding(x) for x in moved))


def _holding(block: WrittenBlock) -> WrittenBlock:
    rule = GROUPINGS[block.style.grouping]
    return block if rule.least <= len(block.lines) <= rule.most else replace(block, style=STRAIGHT)


def _block_to(document: Document, b: int, i: int, to: str) -> Document:
    """The line in a block of its own: before all that is not preparation, or at the very end."""
    block = document.blocks[b]
    line = block.lines[i]
    rest = _with_lines(document, b, [x for n, x in enumerate(block.lines) if n != i])
    rest = replace(rest, blocks=tuple(_holding(x) for x in rest.blocks))
    names = {x.name for x in rest.blocks}
    name = block.name if block.name not in names else f"{block.name}, {to}"
    own = WrittenBlock(name[:LONGEST_NAME], (line,))
    if to == "last":
        return replace(rest, blocks=(*rest.blocks, own))
    at = next((n for n, x in enumerate(rest.blocks) if x.name != PREPARE_NAME), len(rest.blocks))
    return replace(rest, blocks=(*rest.blocks[:at], own, *rest.blocks[at:]))


def _with_style(document: Document, at: int, style: BlockStyle) -> Document:
    blocks = list(document.blocks)
    blocks[at] = replace(blocks[at], style=style)
    return replace(document, blocks=tuple(blocks))


def regroup(document: Document, block: str, style: BlockStyle) -> Document:
    """Group a block's lines another way; raises `CoachError` when it cannot hold them."""
    name = title_of(block)
    at = next((i for i, b in enumerate(document.blocks) if b.name == name), None)
    if at is None:
        raise CoachError(f"There is no block “{name}”.", where="block", accepted=", ".join(b.name for b in document.blocks))
    check_style(style, len(document.blocks[at].lines))
    if style.every_s is not None and style.grouping in (Grouping.EVERY, Grouping.UNTIL_MISS):
        lines = [replace(x, text=_clocked(x.text, style)) for x in document.blocks[at].lines]
        document = _with_lines(document, at, lines)
    return _with_style(document, at, style)


def _clocked(text: str, style: BlockStyle) -> str:
    line = parse(text)
    return write(replace(line, every_s=style.every_s, rest_s=None, until_miss=style.grouping is Grouping.UNTIL_MISS))


def rename(document: Document, theme: str) -> Document:
    """Give the session another theme."""
    return replace(document, theme=_text({"theme": theme}, "theme", "theme"))
