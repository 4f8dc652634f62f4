"""A line changed in one of its sets, or given another number of them.

The number of sets a line may have is technical [T].
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from jarvok.core.errors import CoachError
from jarvok.core.loading.adjust import MOST_SETS
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.shorthand import parse, write


def with_set(line: Prescription, number: int, text: str) -> Prescription:
    """Return the line with one set (from 1) written anew: `5 @ 60 kg`, `20 s`, `3 @ 80 %`.

    Raises `CoachError` where there is no such set, where the text is no single set, and where the loads of the line follow
    from one another, so that none can be changed alone.
    """
    each = _each(line)
    if not 1 <= number <= len(each):
        raise CoachError(f"The line has no set {number}.", where="round", accepted=f"1 to {len(each)}.")
    group = line.groups[0]
    if group.load is not None and group.load.depends_on_place and group.sets > 1:
        raise CoachError(
            "The loads of this line follow from one another.", where="text", accepted="Write the line itself, load by load."
        )
    found = parse(f"1 × {text}")
    if found.total_sets != 1 or replace(found, groups=()) != Prescription(()):
        raise CoachError(f"“{text}” is not one set.", where="text", accepted="Repetitions and load, such as 5 @ 60 kg.")
    each[number - 1] = found.groups[0]
    return replace(line, groups=_merged(each))


def set_text(line: Prescription, number: int) -> str:
    """Return one set (from 1) as it is written by itself: `5 @ 60 kg`. Empty where there is no such set."""
    each = _each(line)
    return write(Prescription((each[number - 1],))).removeprefix("1 × ") if 1 <= number <= len(each) else ""


def with_sets(line: Prescription, sets: int) -> Prescription:
    """Return the line with so many sets: the last goes on where there were fewer. Raises `CoachError` outside 1 to 30."""
    if not 1 <= sets <= MOST_SETS:
        raise CoachError(f"{sets} rounds cannot be.", where="rounds", accepted=f"1 to {MOST_SETS}.")
    if sets == line.total_sets:
        return line
    first = line.groups[0]
    if len(line.groups) == 1 and (first.load is None or first.load.depends_on_place or not first.load.varies):
        return replace(line, groups=(replace(first, sets=sets, sets_high=None),))
    each = _each(line)
    each += [each[-1]] * (sets - len(each))
    return replace(line, groups=_merged(each[:sets]))


def _each(line: Prescription) -> list[SetGroup]:
    """A group for each set, with the load of its place."""
    return [
        replace(g, sets=1, sets_high=None, load=g.load.of_set(n, g.sets) if g.load is not None else None)
        for g in line.groups
        for n in range(g.sets)
    ]


def _merged(each: Sequence[SetGroup]) -> tuple[SetGroup, ...]:
    """Sets alike in a row as one group."""
    found: list[SetGroup] = []
    for one in each:
        if found and replace(found[-1], sets=1) == one:
            found[-1] = replace(found[-1], sets=found[-1].sets + 1)
        else:
            found.append(one)
    return tuple(found)
