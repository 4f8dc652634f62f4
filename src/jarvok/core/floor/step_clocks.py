"""Which clock a step brings along: its block's, or that of a line held or run by time. The coach starts it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.floor.clocks import FORMS, ClockKind, figures_of
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.sequence import Step, StepKind
from jarvok.core.session.station import Station

SPARE_ROUNDS = 6  # [J] until you miss: rounds on the clock past the wanted number


@dataclass(frozen=True)
class StepClock:
    """A clock with its figures, as `clock_plan` takes them."""

    kind: ClockKind
    figures: Mapping[str, float]

    @property
    def name(self) -> str:
        """What it is called."""
        return FORMS[self.kind].name

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> StepClock:
        """Return a clock as it was kept."""
        return cls(ClockKind(raw["kind"]), dict(raw["figures"]))

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {"kind": self.kind.value, "figures": dict(self.figures)}


def clock_of(step: Step, stations: Sequence[Station]) -> StepClock | None:
    """Return the clock that is started with a step, or None where none is or its figures are outside what a clock takes."""
    found = _wanted(step, stations) if step.kind is StepKind.WORK else None
    if found is None:
        return None
    try:
        figures_of(found.kind, found.figures)
    except CoachError:
        return None
    return found


def _wanted(step: Step, stations: Sequence[Station]) -> StepClock | None:
    piece = step.pieces[0]
    station = stations[piece.line]
    style, line, group = station.style, station.prescription, station.groups[piece.number - 1]
    if style.grouping is Grouping.METRONOME and style.bpm and group.reps:
        seconds = group.reps * group.sides * style.beats * 60 / style.bpm
        return StepClock(ClockKind.METRONOME, {"bpm": style.bpm, "beats": style.beats, "seconds": round(seconds)})
    if step.round > 1:
        return None
    if style.grouping in (Grouping.AMRAP, Grouping.WARM_UP) and style.minutes:
        if style.grouping is Grouping.AMRAP:
            return StepClock(ClockKind.AMRAP, {"seconds": 60 * style.minutes})
        return StepClock(ClockKind.INTERVALS, {"work_s": 60 * style.minutes, "rest_s": 0, "rounds": 1})
    if step.every_s is not None:
        if style.grouping is Grouping.UNTIL_MISS or line.until_miss:
            return StepClock(ClockKind.UNTIL_MISS, {"every_s": step.every_s, "rounds": step.rounds + SPARE_ROUNDS})
        return StepClock(ClockKind.EVERY, {"every_s": step.every_s, "rounds": step.rounds})
    if style.is_shared or group.seconds is None or group.in_all:
        return None
    work_s = float(group.seconds * group.sides)
    if station.exercise.kind in ("conditioning", "run"):
        return StepClock(ClockKind.INTERVALS, {"work_s": work_s, "rest_s": station.rest_s, "rounds": step.rounds})
    return StepClock(ClockKind.HOLD, {"hold_s": work_s, "rest_s": station.rest_s, "rounds": step.rounds})
