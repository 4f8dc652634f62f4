"""Who lifts at which rack, in which order, what changes on the bar, who helps, and the rest that results."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from math import ceil

from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import format_mass
from jarvok.core.rules import DEFAULT_RULES, Rules

ALONE = "Lifting alone: set the safeties, the coach spots"
KG_A_CM = 1.0  # [J] a centimetre of difference in height weighs as much as a kilogram of load
FAR_APART_CM = 15.0  # [J] pins have to be moved between such lifters
MOST_RACKS, MOST_LIFTERS = 16, 60  # [T]

# rest between own sets by goal in s; Haff & Triplett 2016, quoted from memory, but for dynamic effort: common practice
REST_S: dict[str, tuple[int, int]] = {
    "power": (120, 300),
    "strength": (120, 300),
    "size": (30, 90),
    "endurance": (0, 30),
    "dynamic effort": (45, 60),
}


FAST_SET_S, FAST_PLATES_S = 9.0, 8.0  # [J] dynamic effort: short sets, plates changed as soon as the bar is racked


class PlaceFor(StrEnum):
    """What a place in the room is for."""

    BAR = "bar"
    JUMPS = "jumps"
    RUNS = "runs"

    @property
    def words(self) -> str:
        """What it is called, before its number."""
        return {PlaceFor.BAR: "Rack", PlaceFor.JUMPS: "Jumps", PlaceFor.RUNS: "Runs"}[self]


@dataclass(frozen=True)
class Lifter:
    """One athlete at a rack: load in kg of the set that comes, plates a side in kg, height in cm where recorded.

    `unit` is that of the plates; `is_spotted` whether somebody stands behind the lift: squats and lying presses, no pulls.
    """

    athlete_id: int
    name: str
    load_kg: float
    per_side_kg: tuple[float, ...] = ()
    height_cm: float | None = None
    unit: str = "kg"
    is_spotted: bool = True


@dataclass(frozen=True)
class Turn:
    """One athlete's turn: what goes on and comes off a side before it in kg, and who loads and who spots (nobody: alone)."""

    lifter: Lifter
    on_kg: tuple[float, ...]
    off_kg: tuple[float, ...]
    loads: str
    spots: str
    pins: str = ""

    @property
    def change(self) -> str:
        """What to change on the bar, in words."""
        unit = self.lifter.unit
        parts = [f"on {' + '.join(format_mass(p, unit) for p in self.on_kg)}"] if self.on_kg else []
        parts += [f"off {' + '.join(format_mass(p, unit) for p in self.off_kg)}"] if self.off_kg else []
        return (", ".join(parts) + " a side") if parts else "no plate change"

    @property
    def help(self) -> str:
        """Who helps, in words."""
        if not self.loads:
            return ALONE if self.lifter.is_spotted else ""
        if not self.lifter.is_spotted:
            return f"{self.loads} changes plates"
        if self.loads == self.spots:
            return f"{self.loads} changes plates and spots"
        return f"{self.loads} changes plates · {self.spots} spots"


@dataclass(frozen=True)
class Rack:
    """One rack: the turns in order, the rest between own sets that results in s, and a word about it."""

    number: int
    turns: tuple[Turn, ...]
    rest_s: float
    word: str
    is_right: bool


def place(lifters: Sequence[Lifter], racks: int) -> tuple[tuple[Lifter, ...], ...]:
    """Return the lifters of each rack, lightest first: groups as even as can be, alike in load and height.

    Racks beyond the number of lifters stay empty. Raises `CoachError` outside 1-16 racks or 60 lifters.
    """
    if not 1 <= racks <= MOST_RACKS:
        raise CoachError(f"{racks} racks cannot be shown.", where="racks", accepted=f"1 to {MOST_RACKS} are accepted.")
    if len(lifters) > MOST_LIFTERS:
        raise CoachError(f"{len(lifters)} are too many at once.", where="athletes", accepted="Up to 60 are accepted.")
    order = sorted(lifters, key=lambda x: (x.load_kg, x.height_cm or 0, x.name))
    used = min(racks, len(order))
    if used == 0:
        return ((),) * racks
    low, extra = divmod(len(order), used)

    @cache
    def best(start: int, left: int, larger: int) -> tuple[float, tuple[int, ...]]:
        if left == 0:
            return 0.0, ()
        found: tuple[float, tuple[int, ...]] | None = None
        for size in {low, low + 1 if larger else low}:
            rest_cost, rest_sizes = best(start + size, left - 1, larger - (size > low))
            if larger - (size > low) > left - 1:
                continue
            cost = _unlike(order[start : start + size]) + rest_cost
            if found is None or cost < found[0]:
                found = cost, (size, *rest_sizes)
        return found if found is not None else (float("inf"), ())

    sizes = best(0, used, extra)[1]
    at, groups = 0, []
    for size in sizes:
        groups.append(tuple(order[at : at + size]))
        at += size
    return (*groups, *(((),) * (racks - used)))


def _unlike(group: Sequence[Lifter]) -> float:
    if not group:
        return 0.0
    heights = [x.height_cm for x in group if x.height_cm]
    tall = max(heights) - min(heights) if heights else 0.0
    return group[-1].load_kg - group[0].load_kg + KG_A_CM * tall


def turns_of(group: Sequence[Lifter]) -> tuple[Turn, ...]:
    """Return the turns of a rack, the bar going up, and down once when it begins again.

    The next athlete loads, the last one spots; with two the other does both; alone there are safeties.
    """
    order = sorted(group, key=lambda x: x.load_kg)
    return _turns(order, order[-1].per_side_kg if order else ())


def turns_from(queue: Sequence[Lifter], on_bar_kg: Sequence[float]) -> tuple[Turn, ...]:
    """Return the turns of a rack as they come, counted from what is on a side of the bar now, whoever put it there."""
    return _turns(queue, on_bar_kg)


def _turns(order: Sequence[Lifter], on_bar_kg: Sequence[float]) -> tuple[Turn, ...]:
    found: list[Turn] = []
    is_alone = len(order) == 1
    for i, lifter in enumerate(order):
        before, after = order[i - 1], order[(i + 1) % len(order)]
        on = Counter(lifter.per_side_kg)
        off = Counter(before.per_side_kg if i else on_bar_kg)
        pins = ""
        if lifter.height_cm and before.height_cm and abs(lifter.height_cm - before.height_cm) >= FAR_APART_CM:
            pins = "pins up" if lifter.height_cm > before.height_cm else "pins down"
        loads, spots = ("", "") if is_alone else (after.name, before.name)
        found.append(Turn(lifter, _plates(on - off), _plates(off - on), loads, spots, pins))
    return tuple(found)


def _plates(counted: Counter[float]) -> tuple[float, ...]:
    return tuple(sorted(counted.elements(), reverse=True))


def pace_s(goal: str, rules: Rules = DEFAULT_RULES) -> tuple[float, float]:
    """Return the seconds of a set and of a change of plates at a rack."""
    return (FAST_SET_S, FAST_PLATES_S) if goal == "dynamic effort" else (rules["floor.set_s"], rules["floor.plates_s"])


def rest_at_rack_s(lifters: int, goal: str = "strength", rules: Rules = DEFAULT_RULES) -> float:
    """Return the rest between own sets in s when so many share a bar: the turns of the others and the changes."""
    work, plates = pace_s(goal, rules)
    return max(0, lifters - 1) * (work + plates) + plates


def rack(number: int, queue: Sequence[Lifter], goal: str, rules: Rules = DEFAULT_RULES, on_bar_kg: Sequence[float] = ()) -> Rack:
    """Return a rack with its turns as they come and a word about the rest for the goal (a key of `REST_S`).

    `on_bar_kg` are the plates on a side of the bar now.
    """
    if goal not in REST_S:
        raise CoachError(f"“{goal}” is no goal of a rack.", where="goal", accepted=", ".join(REST_S) + ".")
    low, high = REST_S[goal]
    count, (work, plates) = len(queue), pace_s(goal, rules)
    turns = turns_from(queue, on_bar_kg)
    rest = rest_at_rack_s(count, goal, rules)
    wanted = f"{low}–{high} s for {goal}"
    if count == 0:
        return Rack(number, (), 0.0, "nobody here", True)
    if count == 1:
        return Rack(number, turns, 0.0, f"on their own: rest {wanted}", True)
    if rest < low:
        need = 1 + ceil((low - plates) / (work + plates))
        word = f"{count} lifters rest {rest:.0f} s, too short for {goal}: wait until {low} s, or put {need} on this rack"
        return Rack(number, turns, rest, word, False)
    if rest > high:
        fits = max(1, 1 + int((high - plates) // (work + plates)))
        word = f"{count} lifters rest {rest:.0f} s, too long for {goal}: {fits} on this rack would do"
        return Rack(number, turns, rest, word, False)
    return Rack(number, turns, rest, f"{count} lifters rest {rest:.0f} s: right ({wanted})", True)
