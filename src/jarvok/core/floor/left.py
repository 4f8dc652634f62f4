"""What is left of a session or at a rack: sets, minutes, and what may be left out when the hour is short."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from math import ceil

from jarvok.core.errors import CoachError
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.loading.shorthand import parse
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.session.roles import BlockRole


@dataclass(frozen=True)
class LineLeft:
    """A line with something left: what it is called, its role, whether it was begun, seconds it still takes."""

    name: str
    role: str
    is_begun: bool
    seconds: float


@dataclass(frozen=True)
class Left:
    """Work sets left and the minutes they take, and what may be left out for the hour to hold, by name."""

    sets: int
    minutes: int
    may_cut: tuple[str, ...] = ()


def seconds_of(steps: Sequence[ToldStep], rules: Rules = DEFAULT_RULES) -> float:
    """Return the seconds that some steps take: each set as long as one at a rack, the rest after it, or the time of its clock."""
    total = 0.0
    for step in steps:
        work = rules["floor.set_s"] * len(step.sets)
        if step.sets[0].warms_up:
            total += 60 * rules["session.ramp_set_min"]
        elif step.every_s is not None:
            total += max(work, step.every_s)
        elif step.clock is not None and step.rounds == 1:
            total += sum(float(v) for k, v in step.clock.figures.items() if k in ("seconds", "work_s", "hold_s")) or work
        else:
            total += work + step.rest_s
    return total


def left_of(lines: Sequence[LineLeft], sets: int, minutes_there: float | None) -> Left:
    """Return what is left; lines that may go are named from the last, small work that was not begun, until the rest fits.

    `minutes_there` are those left of the hour, None where nobody says.
    """
    seconds = sum(x.seconds for x in lines)
    cut: list[str] = []
    over_s = seconds - 60 * minutes_there if minutes_there is not None else 0.0
    for line in reversed(lines):
        if over_s <= 0:
            break
        if line.role == BlockRole.SMALL and not line.is_begun:
            cut.append(line.name)
            over_s -= line.seconds
    return Left(sets, ceil(seconds / 60), tuple(reversed(cut)))


def may_still_add(text: str, done: int) -> int | None:
    """Return up to how many sets a line may go on where it is written with a range (3–5 × 5) and `done` are done, else None."""
    try:
        groups = parse(text).groups
    except CoachError:
        return None
    if len(groups) != 1 or groups[0].sets_high is None:
        return None
    return groups[0].sets_high if groups[0].sets <= done < groups[0].sets_high else None


def at_rack_minutes(each_s: Sequence[float], sets: int, rules: Rules = DEFAULT_RULES) -> int:
    """Return the minutes that a rack still takes: one lifter after another, but never less than its longest session."""
    turns_s = sets * (rules["floor.set_s"] + rules["floor.plates_s"])
    return ceil(max([turns_s, *each_s], default=0.0) / 60)


def asks_to_stop(roles: Sequence[str], done: Collection[int], ended: Collection[int], begun: Collection[int]) -> bool:
    """Return whether to ask once if the session ends here: main and fast work is over, and small work was not begun.

    Lines by their place from 0: `done` have no set left, `ended` were stopped, `begun` have a set.
    """
    over = {*done, *ended}
    big = [i for i, role in enumerate(roles) if role in (BlockRole.MAIN, BlockRole.FAST)]
    rest = [i for i, role in enumerate(roles) if role == BlockRole.SMALL and i not in over]
    if not big or not rest or any(i not in over for i in big) or not any(i in begun for i in big):
        return False
    return not any(i in begun for i in rest)


def heart_words(bpm: int, rules: Rules = DEFAULT_RULES) -> str:
    """Return whether a heart rate has come down enough for the next run, in words."""
    limit = rules["floor.heart_back_bpm"]
    return f"{bpm} bpm: go" if bpm < limit else f"{bpm} bpm: wait for {limit:g}"
