"""The open stream formats beside the bar: jump mat, timing gates, heart rate. One JSON object a line.

Written down in docs/formats/sensor-streams.md. A message that cannot be used is left out and counted.

Limits of what a device may say are technical [T].
"""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.marks.performance import jump_height_cm
from jarvok.core.sensors.gate_places import MOST_GATES

MAT, GATES, HEART, RESULTS = "jarvok-mat/1", "jarvok-gates/1", "jarvok-heart/1", "jarvok-results/1"
SHORTEST_FLIGHT_S, LONGEST_FLIGHT_S = 0.1, 1.05
SHORTEST_CONTACT_S, LONGEST_CONTACT_S = 0.06, 0.8  # [J] longer stays on the mat are a new start, not a contact
SLOWEST_MPS, FASTEST_MPS = 0.05, 6.0
LONGEST_RUN_S = 120.0
LONGEST_FIRST_S = 0.5  # [J] who comes from a box is up again within it; who stands there first is longer
LATE_S = 2.0  # [J] a result that comes this soon after the tap is of the set that was tapped: nobody changes places faster
BOUNCE_S = 0.02  # [J] a mat that flickers within this has not been left


def is_of_the_set_before(seen: int, reps: int, gates: Collection[int], gate: int | None = None) -> bool:
    """Whether a result that comes just after a set was tapped as done fills a place that is missing in it.

    `seen` of its `reps` were measured; for a run, `gates` were passed and the result is of `gate`.
    """
    return bool(gates) and gate not in gates if gate is not None else seen < reps


@dataclass(frozen=True)
class MatJump:
    """One jump: flight in s, height in cm, contact before it in s (None where it began from standing), RSI in m/s."""

    flight_s: float
    height_cm: float
    contact_s: float | None

    @property
    def rsi(self) -> float | None:
        """Height in m over contact in s, or None without a contact."""
        return self.height_cm / 100 / self.contact_s if self.contact_s else None


@dataclass
class JumpMat:
    """Turns a mat's presses and releases into jumps. Messages repeated or out of time are left out."""

    jumps: list[MatJump] = field(default_factory=list)
    refused: int = 0
    last_n: int = -1
    _down: bool | None = None
    _changed_s: float = 0.0
    _contact_s: float | None = None

    def push(self, messages: Iterable[tuple[int, float, bool]]) -> list[MatJump]:
        """Take messages `(n, time_s, is_down)`; return the jumps finished by them."""
        found: list[MatJump] = []
        for n, at_s, down in messages:
            if n <= self.last_n:
                continue  # sent twice
            self.last_n = n
            if self._down is not None and (down == self._down or at_s - self._changed_s < BOUNCE_S):
                self.refused += 1
                continue
            span = at_s - self._changed_s
            if self._down is not None and not down:
                longest = LONGEST_CONTACT_S if self.jumps else LONGEST_FIRST_S
                self._contact_s = span if SHORTEST_CONTACT_S <= span <= longest else None
            elif self._down is False and down:
                if SHORTEST_FLIGHT_S <= span <= LONGEST_FLIGHT_S:
                    found.append(MatJump(round(span, 4), round(jump_height_cm(span), 1), self._contact_s))
                    self.jumps.append(found[-1])
                else:
                    self.refused += 1
            self._down, self._changed_s = down, at_s
        return found


@dataclass
class Gates:
    """Turns beam breaks into splits: the time in s from gate 0 to each gate."""

    runs: list[dict[int, float]] = field(default_factory=list)
    refused: int = 0
    last_n: int = -1
    _start_s: float | None = None

    def push(self, messages: Iterable[tuple[int, float, int]]) -> list[tuple[int, float]]:
        """Take messages `(n, time_s, gate)`; return the splits `(gate, seconds)` that they give."""
        found: list[tuple[int, float]] = []
        for n, at_s, gate in messages:
            if n <= self.last_n:
                continue
            self.last_n = n
            if gate == 0:
                self._start_s = at_s
                self.runs.append({})
                continue
            span = at_s - self._start_s if self._start_s is not None else -1.0
            run = self.runs[-1] if self.runs else None
            if run is None or gate in run or not 0 < span <= LONGEST_RUN_S or any(g < gate and s >= span for g, s in run.items()):
                self.refused += 1
                continue
            run[gate] = round(span, 3)
            found.append((gate, run[gate]))
        return found


@dataclass
class HeartRate:
    """The newest rates of a heart-rate sensor, in beats a minute."""

    rates: list[tuple[float, int]] = field(default_factory=list)
    refused: int = 0
    last_n: int = -1

    def push(self, messages: Iterable[tuple[int, float, int]]) -> list[tuple[float, int]]:
        """Take messages `(n, time_s, bpm)`; return those that are new."""
        found: list[tuple[float, int]] = []
        for n, at_s, bpm in messages:
            if n <= self.last_n:
                continue
            self.last_n = n
            found.append((at_s, bpm))
            self.rates.append((at_s, bpm))
        del self.rates[:-600]
        return found

    def is_back(self, threshold_bpm: int) -> bool:
        """Whether the newest rate is under the threshold that ends a rest."""
        return bool(self.rates) and self.rates[-1][1] < threshold_bpm


@dataclass
class Results:
    """Velocities from a device that works them out by itself: one a repetition, mean or peak."""

    refused: int = 0
    last_n: int = -1

    def push(self, messages: Iterable[tuple[int, float, tuple[float, bool]]]) -> list[tuple[float, bool]]:
        """Take messages `(n, time_s, (velocity in m/s, is_peak))`; return those that are new."""
        found: list[tuple[float, bool]] = []
        for n, _, result in messages:
            if n > self.last_n:
                self.last_n = n
                found.append(result)
        return found


@dataclass(frozen=True)
class Messages:
    """Messages `(n, time_s, value)` read from lines, and a sentence for each line left out."""

    rows: tuple[tuple[int, float, Any], ...]
    problems: tuple[str, ...]


def _down(raw: Mapping[str, Any]) -> bool:
    if not isinstance(raw["down"], bool):
        raise ValueError("down must be true or false")
    return raw["down"]


def _whole(raw: Mapping[str, Any], name: str, low: int, high: int) -> int:
    value = raw[name]
    if isinstance(value, bool) or not isinstance(value, int) or not low <= value <= high:
        raise ValueError(f"{name} must be a whole number from {low} to {high}")
    return value


def _gate(raw: Mapping[str, Any]) -> int:
    return _whole(raw, "gate", 0, MOST_GATES)


def _bpm(raw: Mapping[str, Any]) -> int:
    return _whole(raw, "bpm", 25, 240)


def _result(raw: Mapping[str, Any]) -> tuple[float, bool]:
    """A velocity in m/s, and whether it is the peak of the repetition."""
    value, is_peak = raw["mps"], raw.get("peak", False)
    if isinstance(value, bool) or not isinstance(value, int | float) or not SLOWEST_MPS <= value <= FASTEST_MPS:
        raise ValueError(f"mps must be from {SLOWEST_MPS:g} to {FASTEST_MPS:g}")
    if not isinstance(is_peak, bool):
        raise ValueError("peak must be true or false")
    return float(value), is_peak


VALUES: dict[str, Callable[[Mapping[str, Any]], Any]] = {MAT: _down, GATES: _gate, HEART: _bpm, RESULTS: _result}
EXAMPLES = {
    MAT: '{"n": 0, "t": 1.204, "down": false}',
    GATES: '{"n": 0, "t": 3.118, "gate": 0}',
    HEART: '{"n": 0, "t": 1.0, "bpm": 142}',
    RESULTS: '{"n": 0, "t": 4.2, "mps": 0.62, "peak": false}',
}


def read_messages(form: str, body: str) -> Messages:
    """Read the lines of one of the formats. Raises `CoachError` when no line can be used."""
    rows: list[tuple[int, float, Any]] = []
    problems: list[str] = []
    for number, line in enumerate(body.splitlines(), start=1):
        if not line.strip():
            continue
        try:
            raw = json.loads(line)
            if not isinstance(raw, dict):
                raise ValueError("a line is one object")
            n, t = _whole(raw, "n", 0, 10**9), raw["t"]
            if isinstance(t, bool) or not isinstance(t, int | float) or not math.isfinite(t) or not 0 <= t < 1e7:
                raise ValueError("t must be seconds from 0")
            rows.append((n, float(t), VALUES[form](raw)))
        except (ValueError, KeyError, TypeError, RecursionError) as error:
            reason = f"“{error.args[0]}” is missing" if isinstance(error, KeyError) else str(error)
            problems.append(f"line {number}: {'not JSON' if isinstance(error, json.JSONDecodeError) else reason}")
    if not rows:
        said = "No message could be read. " + "; ".join(problems[:3])
        raise CoachError(said.strip(), where="body", accepted=f"Each line is an object like {EXAMPLES[form]}")
    return Messages(tuple(rows), tuple(problems))
