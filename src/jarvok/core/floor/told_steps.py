"""The steps of a session as they were told when it began: kept with it, read for ever as they were written."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.step_clocks import StepClock, clock_of
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.sequence import Step, StepKind
from jarvok.core.session.station import Station

VERSION = 1
ONE_BAR = frozenset({Grouping.COMPLEX, Grouping.MECHANICAL})


@dataclass(frozen=True, kw_only=True)
class ToldStep:
    """One step as told: its sets in order and the small sets of each, its round, rest after it in s, clock it brings along.

    `every_s` says that a clock begins it, `inside_s` is the rest between small sets. Lines count from 0 in session order.
    """

    id: str
    block: str
    grouping: Grouping
    round: int
    rounds: int
    sets: tuple[StepSet, ...]
    minis: tuple[tuple[int, ...], ...]
    rest_s: int
    every_s: int | None = None
    inside_s: int = 0
    clock: StepClock | None = None

    @property
    def is_one_tap(self) -> bool:
        """Whether all its sets are logged together."""
        return len(self.sets) > 1

    @property
    def is_one_bar(self) -> bool:
        """Whether all its sets are done with one load."""
        return self.grouping in ONE_BAR

    @classmethod
    def of(cls, step: Step, stations: Sequence[Station]) -> ToldStep:
        """Return a step as it is told."""
        warms_up = step.kind is StepKind.RAMP
        return cls(
            id=step.id,
            block=step.block,
            grouping=stations[step.pieces[0].line].style.grouping,
            round=step.round,
            rounds=step.rounds,
            sets=tuple(StepSet(p.line, warms_up, p.number) for p in step.pieces),
            minis=tuple(p.minis for p in step.pieces),
            rest_s=step.rest_s,
            every_s=step.every_s,
            inside_s=step.inside_s,
            clock=clock_of(step, stations),
        )

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> ToldStep:
        """Return a step as it was kept."""
        return cls(
            id=raw["id"],
            block=raw["block"],
            grouping=Grouping(raw["grouping"]),
            round=raw["round"],
            rounds=raw["rounds"],
            sets=tuple(StepSet(line, warms_up, number) for line, warms_up, number in raw["sets"]),
            minis=tuple(tuple(m) for m in raw["minis"]),
            rest_s=raw["rest_s"],
            every_s=raw["every_s"],
            inside_s=raw["inside_s"],
            clock=StepClock.from_raw(raw["clock"]) if raw["clock"] else None,
        )

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {
            "id": self.id,
            "block": self.block,
            "grouping": self.grouping.value,
            "round": self.round,
            "rounds": self.rounds,
            "sets": [list(s) for s in self.sets],
            "minis": [list(m) for m in self.minis],
            "rest_s": self.rest_s,
            "every_s": self.every_s,
            "inside_s": self.inside_s,
            "clock": self.clock.to_raw() if self.clock else None,
        }


@dataclass(frozen=True)
class WalkedLine:
    """A line of a session that was told before there were steps: block, slot, rest in s, warm-up and work sets."""

    block: str
    slot: str
    rest_s: int
    ramp_sets: int
    work_sets: int


def told_from(raw: Mapping[str, Any]) -> tuple[ToldStep, ...]:
    """Return the steps that were kept with a session; none where it was told before there were any."""
    return tuple(ToldStep.from_raw(step) for step in raw.get("steps", ()))


def told_to(steps: Sequence[Step], stations: Sequence[Station]) -> dict[str, Any]:
    """Return what is kept with a session of its steps, and how each block runs in words."""
    return {
        "version": VERSION,
        "blocks": {s.block: s.style.words for s in stations},
        "steps": [ToldStep.of(s, stations).to_raw() for s in steps],
    }


def with_added(steps: Sequence[ToldStep], added: Sequence[tuple[str, tuple[StepSet, ...]]]) -> tuple[ToldStep, ...]:
    """Return the steps with more sets than were told: each behind the step it repeats, with that one's rest, without its clock.

    `added` names the step that is repeated and the sets of the new one; what repeats a step that is not there is left out.
    """
    found: list[ToldStep] = []
    for step in steps:
        found.append(step)
        more = [sets for of, sets in added if of == step.id]
        for n, sets in enumerate(more, start=1):
            total = step.rounds + len(more)
            minis = step.minis[: len(sets)]
            more_id, round_ = f"{step.id}+{n}", step.rounds + n
            found.append(replace(step, id=more_id, sets=sets, round=round_, rounds=total, minis=minis, clock=None, every_s=None))
    return tuple(found)


def block_words(raw: Mapping[str, Any]) -> dict[str, str]:
    """Return how each block runs, in words, by its name."""
    return dict(raw.get("blocks", {}))


def walked(lines: Sequence[WalkedLine]) -> tuple[ToldStep, ...]:
    """Return the steps of a session told before there were any: line after line, set after set."""
    found: list[ToldStep] = []
    for at, line in enumerate(lines):
        for warms_up, total in ((True, line.ramp_sets), (False, line.work_sets)):
            for number in range(1, total + 1):
                found.append(
                    ToldStep(
                        id=f"{line.slot}.{'w' if warms_up else ''}{number}",
                        block=line.block,
                        grouping=Grouping.STRAIGHT,
                        round=number,
                        rounds=total,
                        sets=(StepSet(at, warms_up, number),),
                        minis=((),),
                        rest_s=0 if warms_up or number == total else line.rest_s,
                    )
                )
    return tuple(found)
