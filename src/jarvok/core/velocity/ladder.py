"""The heaviest load still moved at a velocity, or with form intact: the next load from the attempts so far.

One repetition a load, a second to confirm a borderline miss. The loads and the order of steps are common practice, the
margins are Jarvok's own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import format_mass, in_kg
from jarvok.core.quantities.plates import Implement, build, unit_of
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Input, Working

START_SHARE = 0.55  # [J] of the expected load: well below
EXPECTED_SHARE = 0.7  # [J] of the max, where neither a record nor a line says what a velocity ladder may reach
BORDERLINE_MPS = 0.03  # [J] the spread of one repetition at equal loads: a miss inside it is tried once more
AIM_INSIDE = 0.6  # [J] share of the way to the predicted crossing taken with few loads
PRIOR_LOADS = 2.0  # [J] how many loads the usual slope counts for while the day has few of its own
LEAST_POINTS = 2
USUAL_TARGET_MPS = 1.0  # [J] asked of a ladder until the coach says another velocity


class State(StrEnum):
    """Where a ladder stands."""

    ON = "on"
    CONFIRM = "confirm"
    ENDED = "ended"


@dataclass(frozen=True)
class Try:
    """One repetition of a ladder: load in kg and its velocity in m/s, or whether form held (for a single)."""

    load_kg: float
    velocity_mps: float | None = None
    form_held: bool = True


@dataclass(frozen=True)
class LadderRule:
    """What is looked for: the velocity in m/s (None: form), the slope usual for the athlete in m/s per kg (below 0).

    `expected_kg` the load thought to be reached (the record, say), `set_most_kg` a load that is never passed.
    """

    target_mps: float | None
    implement: Implement
    slope_mps_per_kg: float | None = None
    expected_kg: float | None = None
    set_most_kg: float | None = None
    record_kg: float | None = None


@dataclass(frozen=True)
class Ladder:
    """What comes next: load in kg and plates a side, or the end; best so far, the day's line and its crossing in kg."""

    state: State
    load_kg: float | None
    per_side_kg: tuple[float, ...]
    best_kg: float | None
    lowest_miss_kg: float | None
    crossing_kg: float | None
    line: tuple[float, float] | None
    sentence: str
    working: Working


def next_load(rule: LadderRule, tries: Sequence[Try], rules: Rules = DEFAULT_RULES) -> Ladder:
    """Return the next load of the ladder, a second try at a borderline miss, or the end with the heaviest pass.

    Ends when pass and miss are one step of the plates apart, when repeated loads get slower, or when the sets are used up.
    Raises `CoachError` where a try has no velocity but the ladder has a target.
    """
    if rule.target_mps is not None and any(t.velocity_mps is None for t in tries):
        raise CoachError("This ladder needs a velocity for each repetition.", where="velocity_mps", accepted="0.05 to 4 m/s.")
    found = _Found(rule, tries)
    if not tries:
        first = build(round(START_SHARE * rule.expected_kg, 2), rule.implement) if rule.expected_kg else build(0, rule.implement)
        return found.go(first.load_kg, "Start well below.", "well below what is expected")
    last = tries[-1]
    if found.is_borderline(last) and _count(tries, last.load_kg) == 1:
        text = f"{last.velocity_mps:.2f} at {found.said(last.load_kg)}, just under: once more."
        return found.again(last.load_kg, text)
    stop = found.fatigue(rules) or found.used_up(rules)
    if stop:
        return found.end(stop)
    if found.misses and found.best is None:
        below = build(found.lowest_miss * 0.85, rule.implement).below_kg or build(0, rule.implement).load_kg
        return (
            found.end("Missed at the lightest load.")
            if below >= found.lowest_miss
            else found.go(below, "Missed: back down.", "no load has passed yet")
        )
    assert found.best is not None
    up = build(found.best, rule.implement).above_kg
    if up is None or (rule.set_most_kg is not None and up > rule.set_most_kg):
        return found.end("The most that was set is reached.")
    if found.misses and up >= found.lowest_miss:
        return found.end("Pass and miss are one step apart.")
    wanted, why = found.wanted(rules)
    load = build(round(wanted, 2), rule.implement).load_kg
    load = max(load, up)
    if found.misses and load >= found.lowest_miss:
        load = build(found.lowest_miss, rule.implement).below_kg or up
    if rule.set_most_kg is not None and load > rule.set_most_kg:
        load = build(rule.set_most_kg, rule.implement, cap_kg=rule.set_most_kg).load_kg
    return found.go(load, found.words(), why)


def _count(tries: Sequence[Try], load_kg: float) -> int:
    return sum(1 for t in tries if t.load_kg == load_kg)


class _Found:
    """What the tries say."""

    def __init__(self, rule: LadderRule, tries: Sequence[Try]) -> None:
        self.rule, self.tries = rule, tries
        self.unit = unit_of(rule.implement)
        at: dict[float, list[Try]] = {}
        for t in tries:
            at.setdefault(t.load_kg, []).append(t)
        self.passed = {load for load, rows in at.items() if any(self._passes(t) for t in rows)}
        heaviest = max(self.passed, default=None)
        self.misses = sorted(load for load in at if load not in self.passed and (heaviest is None or load > heaviest))
        self.best = heaviest
        self.lowest_miss = self.misses[0] if self.misses else float("inf")
        self.line = self._line()
        self.crossing = None
        if self.line is not None and rule.target_mps is not None:
            self.crossing = (rule.target_mps - self.line[0]) / self.line[1]

    def said(self, load_kg: float) -> str:
        """A load in the unit of the room."""
        return f"{format_mass(load_kg, self.unit)} {self.unit}"

    def roughly(self, load_kg: float, decimals: int) -> str:
        """A load that is no sum of plates, in the unit of the room."""
        return f"{load_kg / in_kg(1.0, self.unit):.{decimals}f} {self.unit}"

    def _passes(self, item: Try) -> bool:
        target = self.rule.target_mps
        if target is None:
            return item.form_held
        return item.form_held and item.velocity_mps is not None and item.velocity_mps >= target

    def is_borderline(self, item: Try) -> bool:
        target = self.rule.target_mps
        if target is None or item.velocity_mps is None or not item.form_held or self._passes(item):
            return False
        return target - item.velocity_mps <= BORDERLINE_MPS

    def _line(self) -> tuple[float, float] | None:
        """Intercept in m/s and slope in m/s per kg: least squares through the mean of each load, held to the usual slope."""
        rows = [(t.load_kg, t.velocity_mps) for t in self.tries if t.velocity_mps is not None]
        usual = self.rule.slope_mps_per_kg
        if not rows or (usual is None and len({load for load, _ in rows}) < LEAST_POINTS):
            return None
        loads, speeds = np.array([r[0] for r in rows]), np.array([r[1] for r in rows])
        centred = loads - loads.mean()
        spread, product = float(centred @ centred), float(centred @ speeds)
        if usual is not None:
            weight = PRIOR_LOADS * (0.1 * float(loads.mean())) ** 2
            spread, product = spread + weight, product + weight * usual
        slope = product / spread if spread > 0 else 0.0
        if slope >= -1e-4:
            if usual is None:
                return None
            slope = usual
        return float(speeds.mean() - slope * loads.mean()), slope

    def wanted(self, rules: Rules) -> tuple[float, str]:
        """The load wanted next in kg, and why."""
        assert self.best is not None
        most = self.best * (1 + rules["floor.ladder_step_pct"] / 100)
        if self.misses:
            middle = (self.best + self.lowest_miss) / 2
            if self.crossing is not None and self.best < self.crossing < self.lowest_miss:
                return self.crossing, "between pass and miss, where the day's line crosses"
            return middle, "the middle between best pass and lowest miss"
        if self.crossing is None:
            return most, f"{rules['floor.ladder_step_pct']:g} % up: no line yet"
        share = 1.0 if len({t.load_kg for t in self.tries}) >= LEAST_POINTS + 1 else AIM_INSIDE
        ahead = self.best + share * (self.crossing - self.best)
        return min(
            ahead, most
        ), f"towards the crossing at {self.roughly(self.crossing, 1)}, at most {rules['floor.ladder_step_pct']:g} % up"

    def fatigue(self, rules: Rules) -> str:
        """Repeated loads that got slower, in words, or nothing."""
        limit = rules["floor.ladder_fatigue_pct"] / 100
        slower: list[tuple[float, float]] = []
        for load in {t.load_kg for t in self.tries}:
            speeds = [t.velocity_mps for t in self.tries if t.load_kg == load and t.velocity_mps is not None]
            apart = [i for i, t in enumerate(self.tries) if t.load_kg == load]
            if len(speeds) > 1 and apart[-1] - apart[0] > 1 and speeds[-1] < speeds[0] * (1 - limit):
                slower.append((load, 100 * (1 - speeds[-1] / speeds[0])))
        if slower:
            load, pct = slower[0]
            return f"{pct:.0f} % slower at {self.said(load)} than before: tired."
        speeds = [t.velocity_mps for t in self.tries if t.velocity_mps is not None]
        loads = [t.load_kg for t in self.tries if t.velocity_mps is not None]
        if len(speeds) >= 3 and self.best is not None and loads[-1] < self.best and speeds[-1] < (self.rule.target_mps or 0):
            return f"{self.said(loads[-1])} missed after heavier passed: tired."
        return ""

    def used_up(self, rules: Rules) -> str:
        sets = len({t.load_kg for t in self.tries})
        return "The sets are used up." if sets >= rules["floor.ladder_sets"] else ""

    def words(self) -> str:
        if self.crossing is not None and self.rule.target_mps is not None:
            return f"The line crosses {self.rule.target_mps:.2f} near {self.roughly(self.crossing, 0)}."
        return "Missed." if self.tries and not self._passes(self.tries[-1]) else "Good."

    def _inputs(self) -> tuple[Input, ...]:
        found = [
            Input(
                f"{self.said(t.load_kg)}",
                f"{t.velocity_mps:.2f} m/s" if t.velocity_mps is not None else "good" if t.form_held else "technique broke",
            )
            for t in self.tries
        ]
        if self.rule.target_mps is not None:
            found.append(Input("target", f"{self.rule.target_mps:.2f} m/s"))
        if self.line is not None:
            found.append(
                Input("the day's line", f"{self.line[0]:.2f} {self.line[1] * in_kg(1.0, self.unit):+.4f} m/s a {self.unit}")
            )
        return tuple(found)

    def _made(self, state: State, load_kg: float | None, sentence: str, why: str) -> Ladder:
        sides = build(load_kg, self.rule.implement).per_side_kg if load_kg is not None else ()
        text = f"{self.said(load_kg)}" if load_kg is not None else f"{self.said(self.best)}" if self.best else "nothing"
        miss = self.lowest_miss if self.misses else None
        working = Working(text, why, COMMON_PRACTICE, self._inputs(), "to the nearest load that can be built")
        return Ladder(state, load_kg, sides, self.best, miss, self.crossing, self.line, sentence, working)

    def go(self, load_kg: float, words: str, why: str) -> Ladder:
        return self._made(State.ON, load_kg, f"{words} Try {self.said(load_kg)}.", why)

    def again(self, load_kg: float, words: str) -> Ladder:
        return self._made(State.CONFIRM, load_kg, words, "a borderline miss is tried once more")

    def end(self, why: str) -> Ladder:
        if self.best is None:
            return self._made(State.ENDED, None, f"{why} No load passed.", why)
        what = f"at {self.rule.target_mps:.2f} m/s or faster" if self.rule.target_mps is not None else "with good technique"
        record = self.rule.record_kg
        against = ""
        if record is not None:
            diff = self.best - record
            against = f" {self.said(diff)} over the best so far." if diff > 0 else f" The best stays at {self.said(record)}."
        sentence = f"{why} Heaviest {what}: {self.said(self.best)}.{against}"
        if self.crossing is not None:
            sentence += f" The line says {self.roughly(self.crossing, 1)} at exactly that."
        return self._made(State.ENDED, None, sentence, why)
