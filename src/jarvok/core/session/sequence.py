"""A session as one sequence of steps: what is done after what, with its rests, by which sheet, print, floor, clocks and
minutes all go.

A step is what one tap logs: a set, a whole round of a complex, a set with its parts. Common practice where nothing else stands.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from itertools import groupby

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.station import Station, inside_set_s, rest_between_s, rest_inside_s, set_s


class StepKind(StrEnum):
    """Whether a step warms up or is work."""

    RAMP = "ramp"
    WORK = "work"


@dataclass(frozen=True)
class Piece:
    """What one line gives to a step: its place in the session from 0, which of its sets from 1, small sets of a cluster."""

    line: int
    number: int
    minis: tuple[int, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Step:
    """One step: its block, its round from 1, its pieces in order, seconds of work and of rest after it (0: go on).

    `id` is what it is known by in its session; `every_s` says that a clock begins it, so many s after the one before; `inside_s`
    is the rest between the small sets of a cluster, 0 where it has none.
    """

    id: str
    kind: StepKind
    block: str
    round: int
    rounds: int
    pieces: tuple[Piece, ...]
    work_s: float
    rest_s: int
    every_s: int | None = None
    inside_s: int = 0

    @property
    def seconds(self) -> float:
        """Work and the rest after it."""
        return self.work_s + self.rest_s


def steps_of(stations: Sequence[Station], rules: Rules = DEFAULT_RULES) -> tuple[Step, ...]:
    """Return the steps of a session in the order in which they are done. A line without sets gives none."""
    found: list[Step] = []
    numbered = list(enumerate(stations))
    for _, rows in groupby(numbered, key=lambda x: x[1].block):
        lines = tuple((at, s) for at, s in rows if s.groups)
        if lines:
            found += _steps_of_block(lines, rules)
    return tuple(found)


def line_minutes(stations: Sequence[Station], rules: Rules = DEFAULT_RULES) -> tuple[float, ...]:
    """Return the minutes of each line, warm-up sets left out; what lines do together they share."""
    seconds = [0.0] * len(stations)
    for step in steps_of(stations, rules):
        if step.kind is StepKind.WORK:
            for piece in step.pieces:
                seconds[piece.line] += step.seconds / len(step.pieces)
    return tuple(s / 60 for s in seconds)


IN_TURN = frozenset({Grouping.PAIR, Grouping.CIRCUIT, Grouping.CONTRAST, Grouping.PAPE})
AT_ONCE = frozenset({Grouping.COMPLEX, Grouping.MECHANICAL, Grouping.EVERY})
IN_ONE = frozenset({Grouping.AMRAP, Grouping.WARM_UP})
_Line = tuple[int, Station]


@lru_cache(maxsize=8_192)
def _steps_of_block(lines: tuple[_Line, ...], rules: Rules) -> tuple[Step, ...]:
    """The same blocks come again for a squad, and each time a sheet is looked at."""
    return tuple(_Block(lines, rules).steps())


class _Block:
    """The lines of one block on their way to steps."""

    def __init__(self, lines: Sequence[_Line], rules: Rules) -> None:
        self.lines = lines
        self.rules = rules
        self.style = lines[0][1].style
        self.rounds = max(len(s.groups) for _, s in lines)

    def steps(self) -> list[Step]:
        grouping = self.style.grouping
        if grouping in IN_ONE:
            return [*self._ramps(self.lines), self._by_time()]
        if grouping in AT_ONCE and len(self.lines) > 1:
            return [*self._ramps(self.lines), *self._together()]
        if grouping in IN_TURN:
            return [*self._ramps(self.lines), *self._in_turn()]
        each = self._dropped if grouping is Grouping.DROP else self._straight
        return [x for line in self.lines for x in (*self._ramps([line]), *each(*line))]

    def _ramps(self, lines: Sequence[_Line]) -> Iterator[Step]:
        """Warm-up sets come before the block, line after line; what is lifted as one bar warms up once."""
        if self.style.grouping is Grouping.COMPLEX:
            lines = [next((x for x in lines if x[1].ramp_sets), lines[0])]
        work_s = 60 * self.rules["session.ramp_set_min"]
        for at, s in lines:
            for number in range(1, s.ramp_sets + 1):
                yield Step(
                    id=f"{s.slot}.w{number}", kind=StepKind.RAMP, block=s.block, round=number, rounds=s.ramp_sets,
                    pieces=(Piece(at, number),), work_s=work_s, rest_s=0,
                )  # fmt: skip

    def _straight(self, at: int, station: Station) -> Iterator[Step]:
        every_s = station.prescription.every_s or (self.style.every_s if len(self.lines) == 1 else None)
        total = len(station.groups)
        for number in range(1, total + 1):
            rest_s = station.rest_s if number < total else 0
            yield self._step(number, total, [_piece(at, station, number)], set_s(station, number, self.rules), rest_s, every_s)

    def _in_turn(self) -> Iterator[Step]:
        for round_ in range(1, self.rounds + 1):
            here = [(at, s) for at, s in self.lines if len(s.groups) >= round_]
            for at, s in here[:-1]:
                work_s = set_s(s, round_, self.rules)
                rest_s, every_s = rest_inside_s(s, self.rules), s.prescription.every_s
                yield self._step(round_, self.rounds, [_piece(at, s, round_)], work_s, rest_s, every_s)
            at, s = here[-1]
            rest_s = rest_between_s([x for _, x in here], self.rules) if round_ < self.rounds else 0
            work_s = set_s(s, round_, self.rules)
            yield self._step(round_, self.rounds, [_piece(at, s, round_)], work_s, rest_s, s.prescription.every_s)

    def _together(self) -> Iterator[Step]:
        """All lines of a round as one step: one bar and one transition, unless a clock calls several stations."""
        every_s = self.style.every_s or next((s.prescription.every_s for _, s in self.lines if s.prescription.every_s), None)
        is_one_bar = self.style.grouping is not Grouping.EVERY
        for round_ in range(1, self.rounds + 1):
            here = [(at, s) for at, s in self.lines if len(s.groups) >= round_]
            pieces = [_piece(at, s, round_) for at, s in here]
            work_s = sum(set_s(s, round_, self.rules, is_first=n == 0 or not is_one_bar) for n, (_, s) in enumerate(here))
            work_s += (self.style.rest_inside_s or 0) * (len(here) - 1)
            written = self.style.rest_between_s
            rest_s = max(s.rest_s for _, s in here) if written is None else written
            yield self._step(round_, self.rounds, pieces, work_s, rest_s if round_ < self.rounds else 0, every_s)

    def _by_time(self) -> Step:
        """As many rounds as the minutes give are one step."""
        pieces = [_piece(at, s, n) for at, s in self.lines for n in range(1, len(s.groups) + 1)]
        stations = dict(self.lines)
        work_s = 60.0 * (self.style.minutes or 0) or sum(set_s(stations[p.line], p.number, self.rules) for p in pieces)
        return self._step(1, 1, pieces, work_s, 0)

    def _dropped(self, at: int, station: Station) -> Iterator[Step]:
        """All sets of a line without rest, load off in between."""
        numbers = range(1, len(station.groups) + 1)
        work_s = sum(set_s(station, n, self.rules, is_first=n == 1) for n in numbers)
        work_s += (len(numbers) - 1) * (self.style.rest_inside_s or self.rules["session.strip_s"])
        yield self._step(1, 1, [_piece(at, station, n) for n in numbers], work_s, 0)

    def _step(
        self, round_: int, rounds: int, pieces: Sequence[Piece], work_s: float, rest_s: int, every_s: int | None = None
    ) -> Step:
        """A work step; a clock turns what is left of its interval into the rest."""
        slots = "".join(dict.fromkeys(s.slot for at, s in self.lines if any(p.line == at for p in pieces)))
        if every_s is not None:
            work_s = min(work_s, float(every_s))
            rest_s = round(every_s - work_s)
        clustered = next((s for at, s in self.lines for p in pieces if p.minis and p.line == at), None)
        return Step(
            id=f"{slots}.{round_}", kind=StepKind.WORK, block=self.lines[0][1].block, round=round_, rounds=rounds,
            pieces=tuple(pieces), work_s=work_s, rest_s=rest_s, every_s=every_s,
            inside_s=inside_set_s(clustered, self.rules) if clustered is not None else 0,
        )  # fmt: skip


def _piece(at: int, station: Station, number: int) -> Piece:
    return Piece(at, number, station.minis(number))
