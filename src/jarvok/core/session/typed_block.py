"""Blocks typed as they stand on the board: a heading that says how the lines run, then a line for each exercise.

    contrast, 4 rounds, 3:00 between
    trap-bar jump 1 @ 40/50/60/60 %
    low hurdle hop 1/side
    kettlebell swing 5 @ 24 kg
    assisted jump 4

An empty line begins another block. docs/formats/session.md describes it.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator
from functools import partial
from typing import TypeVar

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.library.search import by_name, meant, plain, singular
from jarvok.core.loading.goals import goal_of, line_for
from jarvok.core.loading.set_by_set import with_sets
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.block_changes import regroup
from jarvok.core.session.blocks import GROUPINGS, Grouping
from jarvok.core.session.document import LONGEST_NAME as LONGEST_NOTE
from jarvok.core.session.document import MOST_BLOCKS, MOST_LINES, Document, WrittenBlock, WrittenLine
from jarvok.core.session.forms import AS_IT_IS, SIDES, Forms
from jarvok.core.session.roles import MAIN_KINDS, prepares
from jarvok.core.session.typed_heading import Heading, read_heading
from jarvok.core.session.usual_text import usual_text

LONGEST_TEXT, LONGEST_NAME_WORDS = 6000, 9  # [T]
BEGINS_AMOUNT = re.compile(
    r"^(?:\d|@|\(\d|(?:to|up|heaviest|every|amrap|max|ladder|bw|apre|e\d*mom|for|strength|power|size|endurance)\b)",
    re.IGNORECASE,
)
SLOT = re.compile(r"^(?:[A-Z]\d{1,2}[.)]?\s+|\d{1,2}[.)]\s+|[-•*]\s*)")
BESIDE = re.compile(r"\s*\(([^()]*[A-Za-z]{2}[^()]*)\)\s*$")


def typed_blocks(text: str, lifts: Iterable[Exercise]) -> tuple[WrittenBlock, ...]:
    """Return the blocks of a typed text; `lifts` are the exercises that may be meant.

    Raises `CoachError` that names the line it stumbled over and what would be accepted.
    """
    if len(text) > LONGEST_TEXT:
        raise CoachError("The text is too long.", where="text", accepted=f"Up to {LONGEST_TEXT} characters.")
    rows = list(lifts)
    names = by_name(rows)
    found = [_block(lines, rows, names) for lines in _paragraphs(text)]
    if not found:
        raise CoachError("Nothing is written.", where="text", accepted="A heading and a line for each exercise.")
    if len(found) > MOST_BLOCKS or sum(len(b.lines) for b in found) > MOST_LINES:
        raise CoachError(
            "That is more than a session.", where="text", accepted=f"Up to {MOST_BLOCKS} blocks, {MOST_LINES} lines."
        )
    return tuple(found)


_Numbered = tuple[int, str]
_Read = TypeVar("_Read")


def _paragraphs(text: str) -> Iterator[list[_Numbered]]:
    here: list[_Numbered] = []
    for number, line in enumerate(text.splitlines(), start=1):
        if line.strip():
            here.append((number, line.strip()))
        elif here:
            yield here
            here = []
    if here:
        yield here


def _block(lines: list[_Numbered], lifts: list[Exercise], names: dict[str, Exercise]) -> WrittenBlock:
    number, first = lines[0]
    heading = _at(number, lambda: read_heading(first, names_exercise=_split(first, names) is not None))
    rows = lines[1:] if heading is not None else lines
    heading = heading or Heading()
    if not rows:
        raise CoachError(f"Line {number}: no exercise follows “{first}”.", where="text", accepted="A line for each exercise.")
    written = tuple(_at(n, partial(_line, typed, heading, lifts, names)) for n, typed in rows)
    style = heading.style(len(written))
    called = GROUPINGS[style.grouping].name.lower() if style.grouping is not Grouping.STRAIGHT else "main"
    block = WrittenBlock(heading.name or called, written)
    whole = _at(number, lambda: regroup(Document("typed", (block,)), block.name, style))
    return whole.blocks[0]


def _at(number: int, read: Callable[[], _Read]) -> _Read:
    """What is read of a line; a trouble is told with the line's number."""
    try:
        return read()
    except CoachError as error:
        raise CoachError(f"Line {number}: {error.message}", where="text", accepted=error.accepted) from None


def _line(typed: str, heading: Heading, lifts: list[Exercise], names: dict[str, Exercise]) -> WrittenLine:
    typed = SLOT.sub("", typed)
    forms, note, typed = _beside(typed)
    lift, text = _split(typed, names) or _amount_first(typed, names) or _by_amount(typed, lifts)
    is_main = lift.kind in MAIN_KINDS and not prepares(heading.name)
    written = _amount(text, lift, heading.rounds)
    return WrittenLine(lift.id, written, "written by you", is_main, note=note, forms=forms)


def _beside(typed: str) -> tuple[Forms, str, str]:
    """What stands behind the prescription: easier and harder forms, and in brackets a word or what each round is done with."""
    typed, *rest = [p.strip() for p in typed.split(";")]
    levels = dict.fromkeys(SIDES, "")
    back = [typed]
    for part in rest:
        side, colon, words = part.partition(":")
        if colon and side.strip().lower() in levels:
            levels[side.strip().lower()] = words
        else:
            back.append(part)
    typed = "; ".join(back)
    forms, note = AS_IT_IS.with_levels(levels["easier"], levels["harder"]), ""
    m = BESIDE.search(typed)
    if m:
        typed = typed[: m.start()]
        if "/" in m.group(1):
            for number, words in enumerate(m.group(1).split("/"), start=1):
                forms = forms.with_round(number, words)
        else:
            note = m.group(1).strip()
            if len(note) > LONGEST_NOTE:
                raise CoachError("The word in brackets is too long.", where="text", accepted=f"Up to {LONGEST_NOTE} characters.")
    return forms, note, typed


def _split(typed: str, names: dict[str, Exercise]) -> tuple[Exercise, str] | None:
    """The exercise whose name begins a line, the longest that does, and what follows it."""
    words = typed.split()
    for count in range(min(len(words), LONGEST_NAME_WORDS), 0, -1):
        found = names.get(singular(plain(" ".join(words[:count]))))
        if found is not None:
            return found, " ".join(words[count:])
    return None


def _amount_first(typed: str, names: dict[str, Exercise]) -> tuple[Exercise, str] | None:
    """The exercise whose name ends a line that begins with its amount: 3 × 10 push-ups."""
    words = typed.split()
    if not words or not BEGINS_AMOUNT.match(words[0]):
        return None
    for at in range(1, len(words)):
        found = names.get(singular(plain(" ".join(words[at:]))))
        if found is not None:
            return found, " ".join(words[:at])
    return None


def _by_amount(typed: str, lifts: list[Exercise]) -> tuple[Exercise, str]:
    """The exercise that the words before the first amount mean."""
    words = typed.split()
    at = next((n for n, w in enumerate(words) if BEGINS_AMOUNT.match(w)), len(words))
    return meant(" ".join(words[:at]).rstrip(":,") or typed, lifts), " ".join(words[at:])


def _amount(text: str, lift: Exercise, rounds: int | None) -> str:
    """The prescription of a line as it is written; a bare amount is a set, and is done in every round."""
    text = text.strip(" ,:")
    goal = goal_of(text)
    if goal is not None:
        text = line_for(goal, lift)
    elif not text:
        text = usual_text(lift)
    elif re.fullmatch(r"\d+(?:\s*(?:reps?|each|ea))?", text):
        text = f"1 × {text.split('rep')[0].strip()}"
    try:
        line = parse(text)
    except CoachError as first:
        try:
            line = parse(f"1 × {text}")
        except CoachError:
            raise first from None
    if rounds is not None and line.total_sets == 1:
        line = with_sets(line, rounds)
    return write(line)
