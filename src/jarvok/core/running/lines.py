"""Lines for sprints and jumps: with others ahead in the line, waiting is the rest. Common practice."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from jarvok.core.errors import CoachError

MOST_ATHLETES = 200


@dataclass(frozen=True)
class Lines:
    """How a squad lines up: lines, the deepest line, and the rest in s that results in the deepest and the shallowest."""

    lines: int
    depth: int
    rest_s: float
    least_rest_s: float
    words: str


def rest_in_line_s(depth: int, work_s: float, gap_s: float) -> float:
    """Return the rest in s with `depth` athletes in a line, each working `work_s` with `gap_s` between starts."""
    return max(0, depth - 1) * (work_s + gap_s)


def depth_for(work_s: float, gap_s: float, ratio: float) -> int:
    """Return how deep a line has to be for a rest of `ratio` times the work."""
    return 1 + ceil(ratio * work_s / (work_s + gap_s) - 1e-9)


def lines_for(athletes: int, work_s: float, gap_s: float, ratio: float) -> Lines:
    """Return how many lines a squad makes for a rest of at least `ratio` times the work.

    `athletes` 1-200, `work_s` above 0 and up to 600, `gap_s` 0-120, `ratio` 0-60. Where the squad is too small for the
    wanted rest it makes one line, and the words say what is missing. Raises `CoachError` outside these.
    """
    for name, value, low, high in (
        ("athletes", athletes, 1, MOST_ATHLETES),
        ("work_s", work_s, 0.5, 600),
        ("gap_s", gap_s, 0, 120),
        ("ratio", ratio, 0, 60),
    ):
        if not low <= value <= high:
            raise CoachError(f"{value:g} cannot be here.", where=name, accepted=f"{low:g} to {high:g} are accepted.")
    wanted = depth_for(work_s, gap_s, ratio)
    lines = max(1, athletes // wanted)
    depth, least = ceil(athletes / lines), athletes // lines
    rest, least_rest = rest_in_line_s(depth, work_s, gap_s), rest_in_line_s(least, work_s, gap_s)
    if least_rest + 1e-9 < ratio * work_s:
        missing = ratio * work_s - least_rest
        words = f"One line of {depth} rests {least_rest:.0f} s; {missing:.0f} s more are needed: wait before the next turn."
        return Lines(lines, depth, rest, least_rest, words)
    many = f"{lines} lines" if lines > 1 else "One line"
    deep = f"{least} to {depth}" if least != depth else f"{depth}"
    span = f"{least_rest:.0f}–{rest:.0f}" if least != depth else f"{rest:.0f}"
    return Lines(lines, depth, rest, least_rest, f"{many} of {deep}: {span} s of rest, {least_rest / work_s:.1f} times the work.")
