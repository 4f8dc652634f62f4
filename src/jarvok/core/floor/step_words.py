"""How a step is said: on the sheet, on paper and on the floor in the same words."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.quantities.mass import format_mass, said_mass
from jarvok.core.session.blocks import Grouping, clock

ROUNDS = frozenset({Grouping.PAIR, Grouping.CIRCUIT, Grouping.CONTRAST, Grouping.PAPE})
SetAt = Callable[[StepSet], ToldSet | None]


def place_words(step: ToldStep) -> str:
    """Return which warm-up set, set or round it is, of how many."""
    if step.sets[0].warms_up:
        return f"warm-up {step.round} of {step.rounds}"
    if step.grouping in (Grouping.AMRAP, Grouping.WARM_UP):
        return "by time"
    if step.grouping is Grouping.DROP:
        return "all in one go"
    return f"{_called(step)} {step.round} of {step.rounds}"


def _called(step: ToldStep) -> str:
    return "round" if step.is_one_tap or step.grouping in ROUNDS else "set"


def amount_of(item: ToldSet) -> str:
    """Return a set's amount: repetitions, seconds or metres."""
    if item.seconds is not None:
        return f"{item.seconds} s"
    if item.metres is not None:
        return f"{item.metres} m"
    return f"{item.reps or 1}{'+' if item.or_more else ''}"


def amount_words(step: ToldStep, set_at: SetAt) -> str:
    """Return what is done of each in a step of several sets, empty for one set."""
    found = [set_at(s) for s in step.sets] if step.is_one_tap else []
    return " + ".join(amount_of(f) for f in found if f is not None)


def inside_words(step: ToldStep, set_at: SetAt) -> str:
    """Return what it is done with, small sets of a cluster, loads a set goes on with at once; empty for a plain set."""
    parts: list[str] = [f for f in _forms(step, set_at) if f]
    if step.minis[0]:
        parts.append(mini_words(step.minis[0], step.inside_s))
    first = set_at(step.sets[0])
    if first is not None and first.drops_kg:
        parts.append(drop_words(first.drops_kg, first.unit))
    return " · ".join(parts)


def _forms(step: ToldStep, set_at: SetAt) -> list[str]:
    """What the sets of a step are done with, said once where it is the same for all."""
    found = [item.form if (item := set_at(s)) is not None else "" for s in step.sets]
    return list(dict.fromkeys(found))


def mini_words(minis: Sequence[int], inside_s: int) -> str:
    """Return small sets as they are counted, with the rest between them."""
    return " + ".join(str(n) for n in minis) + (f", {inside_s} s between" if inside_s else "")


def drop_words(drops_kg: Sequence[float], unit: str) -> str:
    """Return the loads that a set goes on with, as the plates say them."""
    return f"then at once {', '.join(format_mass(kg, unit) for kg in drops_kg)} {unit}"


def then_words(step: ToldStep) -> str:
    """Return what follows: a rest or the clock; nothing where one goes on at once."""
    if step.sets[0].warms_up:
        return ""
    if step.every_s is not None:
        return f"a {_called(step)} every {clock(step.every_s)}"
    return f"then rest {clock(step.rest_s)}" if step.rest_s else ""


def set_words(item: ToldSet, minis: Sequence[int] = (), inside_s: int = 0) -> str:
    """Return one set in full: `80 kg × 3`, `5`, `30 s`, with its small sets and drops."""
    amount = mini_words(minis, inside_s) if minis else amount_of(item)
    words = f"{said_mass(item.load_kg, item.unit)} × {amount}" if item.load_kg is not None else amount
    if item.per_side:
        words += " each side"
    if item.form:
        words += f", {item.form}"
    return f"{words}, {drop_words(item.drops_kg, item.unit)}" if item.drops_kg else words


@dataclass(frozen=True)
class Cell:
    """What stands in a row of one line: its words, and which work set of which line it is, where it is one alone."""

    words: str
    line: int | None = None
    number: int | None = None


@dataclass(frozen=True)
class Row:
    """A row of an unfolded block: what stands in each cell, the rest in s after each inside the row, and after the row.

    `every_s` where a clock begins each row.
    """

    name: str
    cells: tuple[Cell, ...]
    rests_s: tuple[int, ...]
    rest_s: int
    every_s: int | None = None
    warms_up: bool = False


@dataclass(frozen=True)
class Unfolded:
    """A block step by step. `columns` are the slots of its lines where a row is a round, empty where a row is a line."""

    columns: tuple[str, ...]
    rows: tuple[Row, ...]

    def rest_s(self, column: int) -> int | None:
        """Return the rest in s after what stands in a column where it is the same in every round, else None."""
        found = {r.rests_s[column] for r in self.rows if not r.warms_up and r.cells[column].words}
        return found.pop() if len(found) == 1 else None


def unfolded(steps: Sequence[ToldStep], slots: Sequence[tuple[int, str]], set_at: SetAt) -> Unfolded:
    """Return a block's steps as rows: a row a round where lines go in turn or together, else a row a line with its sets.

    `slots` are the places of its lines in the session with what they are called; a column without a part in a row is empty.
    """
    work = [s for s in steps if not s.sets[0].warms_up]
    names = dict(slots)
    ramps = [
        _line_row(f"{names[at]} warm-up", [s for s in steps if s.sets[0].warms_up and s.sets[0].line == at], set_at)
        for at in names
        if any(s.sets[0].warms_up and s.sets[0].line == at for s in steps)
    ]
    if len(names) > 1 and any(s.grouping in ROUNDS or len({x.line for x in s.sets}) > 1 for s in work):
        rounds = sorted({s.round for s in work})
        rows = [_round_row([s for s in work if s.round == r], list(names), set_at) for r in rounds]
        return Unfolded(tuple(names.values()), (*ramps, *rows))
    lines: list[Row] = []
    for at, slot in slots:
        lines += [r for r in ramps if r.name.startswith(f"{slot} ")]
        held = [s for s in work if s.sets[0].line == at]
        if held:
            lines.append(_line_row(slot, held, set_at))
    return Unfolded((), tuple(lines))


def _line_row(name: str, held: Sequence[ToldStep], set_at: SetAt) -> Row:
    cells = [c for step in held for c in _cells(step, set_at)]
    first = held[0]
    return Row(name, tuple(cells), (0,) * len(cells), first.rest_s, first.every_s, first.sets[0].warms_up)


def _round_row(held: Sequence[ToldStep], columns: Sequence[int], set_at: SetAt) -> Row:
    cells: list[list[Cell]] = [[] for _ in columns]
    rests = [0] * len(columns)
    for step in held:
        for cell in _cells(step, set_at):
            cells[columns.index(cell.line or 0)].append(cell)
        rests[columns.index(step.sets[-1].line)] = step.rest_s
    last = held[-1]
    rests[columns.index(last.sets[-1].line)] = 0
    return Row(place_words(last), tuple(map(_joined, cells)), tuple(rests), last.rest_s, last.every_s)


def _joined(cells: Sequence[Cell]) -> Cell:
    if len(cells) == 1:
        return cells[0]
    return Cell(", ".join(c.words for c in cells))


def _cells(step: ToldStep, set_at: SetAt) -> list[Cell]:
    found: list[Cell] = []
    for place, minis in zip(step.sets, step.minis, strict=True):
        item = set_at(place)
        words = set_words(item, minis, step.inside_s) if item is not None else ""
        found.append(Cell(words, place.line, None if place.warms_up else place.number))
    return found


def rest_words(steps: Sequence[ToldStep], line: int) -> str:
    """Return the rest after a line's sets: of the clock, of its round or its own; empty where it goes on at once."""
    held = next((s for s in steps if not s.sets[0].warms_up and any(x.line == line for x in s.sets)), None)
    if held is None:
        return ""
    if held.every_s is not None:
        return f"every {clock(held.every_s)}"
    is_last = held.sets[-1].line == line
    return clock(held.rest_s) if held.rest_s and is_last else ""


def loads_words(sets: Sequence[ToldSet]) -> str:
    """Return the loads of a line's sets in a few characters: once where alike, with repetitions where those differ."""
    loaded = [s for s in sets if s.load_kg is not None]
    if not loaded:
        return "by feel" if any(s.load_kg is None and s.reps for s in sets) else ""
    unit = loaded[0].unit
    by_amount = len({amount_of(s) for s in loaded}) > 1
    each = [format_mass(s.load_kg or 0.0, unit) + (f" × {amount_of(s)}" if by_amount else "") for s in loaded]
    words = each[0] if len(set(each)) == 1 else (", " if by_amount else " ").join(each)
    if unit != "kg":  # the headings say kg
        words += f" {unit}"
    dropped = next((s.drops_kg for s in loaded if s.drops_kg), ())
    return f"{words}, {drop_words(dropped, unit)}" if dropped else words
