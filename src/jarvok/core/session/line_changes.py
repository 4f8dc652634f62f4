"""What a coach does to the lines of a session: add, drop, replace, write, move, say what a round is done with."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import date

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.set_by_set import with_set
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.marks.conditions import checked
from jarvok.core.quantities.sentence import first_upper
from jarvok.core.session.blocks import GROUPINGS, STRAIGHT, BlockStyle
from jarvok.core.session.document import (
    LONGEST_NAME,
    LONGEST_REASON,
    MOST_LINES,
    Document,
    WrittenBlock,
    WrittenLine,
    session_of,
    title_of,
)
from jarvok.core.session.fitting import fitted
from jarvok.core.session.forms import AS_IT_IS
from jarvok.core.session.roles import prepares


def _find(document: Document, line: str) -> tuple[int, int]:
    """Block index and line index of a line, named by its id or by the slot it stands in."""
    places = [(b, i) for b, block in enumerate(document.blocks) for i in range(len(block.lines))]
    standing = zip(session_of(document, "A", date.min).lines, places, strict=True)
    place = next((at for x, at in standing if line in (x.line_id, x.slot)), None)
    if place is None:
        raise CoachError(f"There is no line {line} in this session.", where="slot", accepted="A slot of the sheet, such as A1.")
    return place


def after_preparing(document: Document) -> int:
    """Return the place behind the blocks that prepare, from 0."""
    return next((n for n, x in enumerate(document.blocks) if not prepares(x.name)), len(document.blocks))


def with_block(document: Document, at: int, block: WrittenBlock) -> Document:
    """Return the document with another block in a block's place."""
    return replace(document, blocks=(*document.blocks[:at], block, *document.blocks[at + 1 :]))


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
        new = WrittenBlock(first_upper(name) if prepares(name) else name, (line,), style or STRAIGHT)
        at = after_preparing(document) if prepares(name) else len(document.blocks)
        return replace(document, blocks=(*document.blocks[:at], new, *document.blocks[at:]))
    return _with_lines(document, at, (*document.blocks[at].lines, line))


def drop_line(document: Document, slot: str) -> Document:
    """Take a line out; an empty block goes with it. A grouping that no longer holds becomes straight sets."""
    b, i = _find(document, slot)
    lines = [x for n, x in enumerate(document.blocks[b].lines) if n != i]
    if lines and len(lines) < GROUPINGS[document.blocks[b].style.grouping].least:
        document = with_block(document, b, replace(document.blocks[b], style=STRAIGHT))
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
    lines[i] = replace(lines[i], exercise_id=lift.id, text=text, reason=why, conditions=(), forms=AS_IT_IS)
    return _with_lines(document, b, lines)


def _changed(document: Document, slot: str, change: Callable[[WrittenLine], WrittenLine]) -> Document:
    b, i = _find(document, slot)
    lines = list(document.blocks[b].lines)
    lines[i] = change(lines[i])
    return _with_lines(document, b, lines)


def write_text(document: Document, slot: str, text: str) -> Document:
    """Write a line's prescription anew."""
    return _changed(document, slot, lambda x: replace(x, text=write(parse(text))))


def write_round(document: Document, slot: str, number: int, text: str, words: str) -> Document:
    """Write one round of a line anew: its set where `text` says one, and what it is done with; empty words take those away."""

    def change(line: WrittenLine) -> WrittenLine:
        forms = line.forms.with_round(number, words)
        return replace(line, forms=forms, text=write(with_set(parse(line.text), number, text)) if text.strip() else line.text)

    return _changed(document, slot, change)


def level_line(document: Document, slot: str, easier: str, harder: str) -> Document:
    """Say an easier and a harder form of a line; empty ones take them away."""
    return _changed(document, slot, lambda x: replace(x, forms=x.forms.with_levels(easier, harder)))


def note_line(document: Document, slot: str, note: str) -> Document:
    """Put a word beside a line: surface, footwear, where it should be felt; an empty one takes it away."""
    note = note.strip()
    if len(note) > LONGEST_NAME:
        raise CoachError("The word beside the line is too long.", where="text", accepted=f"Up to {LONGEST_NAME} characters.")
    return _changed(document, slot, lambda x: replace(x, note=note))


def condition_line(document: Document, slot: str, given: Mapping[str, str]) -> Document:
    """Say under what conditions a line is done: rack, grip, equipment; nothing given is as usual."""
    return _changed(document, slot, lambda x: replace(x, conditions=checked(exercise(x.exercise_id), given)))


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
    at = after_preparing(rest)
    return replace(rest, blocks=(*rest.blocks[:at], own, *rest.blocks[at:]))
