"""What a coach does to the blocks of a session: group, give rounds, rename, move, copy, take out, put one in; its theme."""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.errors import CoachError
from jarvok.core.loading.set_by_set import with_sets
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.quantities.sentence import first_upper
from jarvok.core.session.blocks import BlockStyle, Grouping, check_style
from jarvok.core.session.document import (
    LONGEST_NAME,
    MOST_BLOCKS,
    MOST_LINES,
    Document,
    WrittenBlock,
    clock_time,
    short_text,
    title_of,
)
from jarvok.core.session.line_changes import after_preparing, with_block
from jarvok.core.session.roles import prepares


def find_block(document: Document, name: str) -> int:
    """Return the place of a block from 0, by its name with or without its letter; raises `CoachError` where none is."""
    name = title_of(name.strip())
    at = next((i for i, b in enumerate(document.blocks) if b.name.lower() == name.lower()), None)
    if at is None:
        raise CoachError(f"There is no block “{name}”.", where="block", accepted=", ".join(b.name for b in document.blocks))
    return at


def regroup(document: Document, block: str, style: BlockStyle, rounds: int | None = None) -> Document:
    """Group a block's lines another way, each with so many sets; raises `CoachError` when it cannot hold them."""
    at = find_block(document, block)
    found = document.blocks[at]
    check_style(style, len(found.lines))
    lines = found.lines
    if style.every_s is not None and style.grouping in (Grouping.EVERY, Grouping.UNTIL_MISS):
        lines = tuple(replace(x, text=_clocked(x.text, style)) for x in lines)
    if rounds is not None:
        lines = tuple(replace(x, text=write(with_sets(parse(x.text), rounds))) for x in lines)
    return with_block(document, at, replace(found, style=style, lines=lines))


def _clocked(text: str, style: BlockStyle) -> str:
    line = parse(text)
    return write(replace(line, every_s=style.every_s, rest_s=None, until_miss=style.grouping is Grouping.UNTIL_MISS))


def rename_block(document: Document, block: str, name: str) -> Document:
    """Give a block another name; raises `CoachError` when another has it already."""
    at = find_block(document, block)
    name = short_text({"name": title_of(name.strip())}, "name", "text")
    if any(b.name.lower() == name.lower() for n, b in enumerate(document.blocks) if n != at):
        raise CoachError(f"There is a block “{name}” already.", where="text", accepted="Another name.")
    if prepares(name):
        name = first_upper(name)
    return with_block(document, at, replace(document.blocks[at], name=name))


def move_block(document: Document, block: str, to: str) -> Document:
    """Move a block `up` or `down` by one; at an end it stays."""
    if to not in ("up", "down"):
        raise CoachError("A block moves up or down.", where="to", accepted="up or down")
    at = find_block(document, block)
    blocks = list(document.blocks)
    other = max(0, min(len(blocks) - 1, at + (-1 if to == "up" else 1)))
    blocks.insert(other, blocks.pop(at))
    return replace(document, blocks=tuple(blocks))


def drop_block(document: Document, block: str) -> Document:
    """Take a block out with all its lines."""
    at = find_block(document, block)
    return replace(document, blocks=(*document.blocks[:at], *document.blocks[at + 1 :]))


def copy_block(document: Document, block: str) -> Document:
    """Put a block in once more, right after itself."""
    at = find_block(document, block)
    return put_block(document, document.blocks[at], at + 1)


def put_block(document: Document, block: WrittenBlock, at: int | None = None) -> Document:
    """Put a block in, at the end unless a place is given; its lines are known anew, its name is made another where taken."""
    if len(document.blocks) >= MOST_BLOCKS or document.line_count + len(block.lines) > MOST_LINES:
        raise CoachError("The session is full.", where="block", accepted=f"Up to {MOST_BLOCKS} blocks, {MOST_LINES} lines.")
    taken = {b.name.lower() for b in document.blocks}
    name, number = block.name, 2
    while name.lower() in taken:
        name = f"{block.name[: LONGEST_NAME - 4]} {number}"
        number += 1
    fresh = replace(block, name=name, lines=tuple(replace(x, line_id="") for x in block.lines))
    if at is None:
        at = after_preparing(document) if prepares(name) else len(document.blocks)
    return replace(document, blocks=(*document.blocks[:at], fresh, *document.blocks[at:]))


def begins_at(document: Document, typed: str) -> Document:
    """Say when the session begins; nothing takes it away."""
    return replace(document, starts=clock_time(typed))


def rename(document: Document, theme: str) -> Document:
    """Give the session another theme."""
    return replace(document, theme=short_text({"theme": theme}, "theme", "theme"))
