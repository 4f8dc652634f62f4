"""Checks of the order in a session: what is fast or big is done fresh, and something prepares it."""

from __future__ import annotations

from collections.abc import Iterator

from jarvok.core.checks.flag import Fix, Flag, Severity
from jarvok.core.checks.plan_views import LineView, SessionView
from jarvok.core.session.blocks import Grouping
from jarvok.core.working import COMMON_PRACTICE

TIRED_SETS = 6  # [J] heavy or hard sets before a fast line that make it late
FAST_DOSE = 6  # [J] repetitions of fast work below which order does not matter
SEVERAL_SETS = 3  # [J] so many sets make a line count as work


def fast_after_fatigue(view: SessionView) -> Iterator[Flag]:
    """Fast or skilled work after hard sets. The jumps of a contrast or primer pair are where they belong."""
    tired = 0
    for line in view.lines:
        if line.style.grouping in (Grouping.CONTRAST, Grouping.PAPE):
            continue
        if line.is_fast and line.exercise.kind != "ballistic" and tired >= TIRED_SETS and line.reps + line.metres >= FAST_DOSE:
            fix = Fix(f"Put {line.slot} first", "first", {"line": line.name})
            why = f"{line.exercise.name} comes after {tired} main sets. Speed and coordination are trained fresh."
            yield Flag("fast-late", Severity.THINK, "Fast work comes late.", why, COMMON_PRACTICE, view.at(line), fix=fix)
        if line.is_heavy and line.exercise.region != "upper":
            tired += line.total_sets
        elif line.exercise.kind == "conditioning" and line.exercise.cost != "low":
            tired += 2 * line.total_sets


def conditioning_first(view: SessionView) -> Iterator[Flag]:
    """Hard conditioning before strength."""
    strength = [i for i, x in enumerate(view.lines) if x.is_heavy]
    for i, line in enumerate(view.lines):
        hard = line.exercise.kind == "conditioning" and line.exercise.cost != "low" and not line.prepares
        if hard and strength and i < strength[-1]:
            fix = Fix(f"Put {line.slot} last", "last", {"line": line.name})
            why = "Hard conditioning before strength is an error unless it is the goal of the day."
            yield Flag(
                "conditioning-first", Severity.THINK, "Conditioning comes first.", why, COMMON_PRACTICE, view.at(line), fix=fix
            )


def small_before_big(view: SessionView) -> Iterator[Flag]:
    """Small muscles or trunk tired before the main lifts."""
    small: LineView | None = None
    for line in view.lines:
        if line.prepares or line.style.grouping is Grouping.WARM_UP:
            continue
        if line.is_heavy and line.exercise.region != "upper" and small is not None and small.block != line.block:
            fix = Fix(f"Put {small.slot} last", "last", {"line": small.name})
            why = f"{small.exercise.name} tires what holds {line.exercise.name.lower()} up. The biggest lifts are done fresh."
            yield Flag(
                "small-first",
                Severity.NOTE,
                "Small work stands before the big lift.",
                why,
                COMMON_PRACTICE,
                view.at(small),
                fix=fix,
            )
            return
        if line.exercise.region == "trunk" and line.total_sets >= SEVERAL_SETS:
            small = line


def no_warm_up(view: SessionView) -> Iterator[Flag]:
    """Sprints or maximal jumps without anything to prepare them."""
    prepared = any(x.prepares or x.style.grouping is Grouping.WARM_UP or x.exercise.kind == "drill" for x in view.lines)
    fast = next((x for x in view.lines if x.is_fast and x.exercise.kind in ("run", "jump")), None)
    if fast is not None and not prepared:
        why = f"{fast.exercise.name} stands without drills or landings before it."
        yield Flag("no-warm-up", Severity.THINK, "No warm-up before the fast work.", why, COMMON_PRACTICE, view.at(fast))
