"""A session or week as it would be with a fix done, so that no fix is offered that another check refuses."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable
from dataclasses import replace
from datetime import date
from typing import TypeVar

from jarvok.core.checks.flag import Fix, Flag
from jarvok.core.checks.plan_views import LineView, SessionView, WeekView
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse
from jarvok.core.session.fitting import fitted
from jarvok.core.session.roles import MAIN_KINDS, PREPARE_NAME, prepares

ALWAYS = frozenset({"care", "max-safety"})  # the usual cautions refuse nothing
_View = TypeVar("_View", SessionView, WeekView)


def mended(view: SessionView, fix: Fix) -> SessionView | None:
    """Return the session with a fix of its own done; None where the fix changes something else."""
    name, text = str(fix.values.get("line") or ""), str(fix.values.get("text") or "")
    if fix.kind == "add":
        return replace(view, lines=_added(view.lines, fix))
    at = next((x for x in view.lines if name and name in (x.line_id, x.slot)), None)
    if at is None:
        return None
    others = tuple(x for x in view.lines if x is not at)
    match fix.kind:
        case "drop":
            lines = others
        case "write":
            anew = replace(at, prescription=parse(text), sets=(), added_sets=0)
            lines = tuple(anew if x is at else x for x in view.lines)
        case "replace":
            lift = exercise(str(fix.values["exercise_id"]))
            anew = replace(at, exercise=lift, prescription=fitted(at.prescription, lift, at.exercise), sets=())
            lines = tuple(anew if x is at else x for x in view.lines)
        case "first":
            prepare = tuple(x for x in others if x.prepares)
            lines = (*prepare, at, *(x for x in others if not x.prepares))
        case "last":
            lines = (*others, at)
        case _:
            return None
    return replace(view, lines=lines)


def _added(lines: tuple[LineView, ...], fix: Fix) -> tuple[LineView, ...]:
    lift = exercise(str(fix.values["exercise_id"]))
    block = str(fix.values.get("block") or PREPARE_NAME)
    line = LineView("+", block, lift, parse(str(fix.values["text"])), lift.kind in MAIN_KINDS)
    if not prepares(block):
        return (*lines, line)
    first = tuple(x for x in lines if x.prepares)
    return (*first, line, *(x for x in lines if not x.prepares))


def mended_week(view: WeekView, fix: Fix) -> WeekView | None:
    """Return the week with a fix of one of its sessions done; None where the fix changes something else."""
    day, key = str(fix.values.get("day") or ""), str(fix.values.get("key") or "")
    at = next((s for s in view.sessions if (str(s.day), s.key) == (day, key)), None)
    if at is None:
        return None
    anew = replace(at, day=date.fromisoformat(str(fix.values["to"]))) if fix.kind == "move" else mended(at, fix)
    if anew is None:
        return None
    return replace(view, sessions=tuple(sorted((anew if s is at else s for s in view.sessions), key=lambda s: (s.day, s.key))))


def offered(
    view: _View, flags: Iterable[Flag], done: Callable[[_View, Fix], _View | None], look: Callable[[_View], Iterable[Flag]]
) -> tuple[Flag, ...]:
    """Return the flags without the fixes that would bring another check to speak."""
    found = tuple(flags)
    before: Counter[str] | None = None  # worked out only where there is a fix to weigh
    kept: list[Flag] = []
    for flag in found:
        after = done(view, flag.fix) if flag.fix is not None else None
        if after is not None:
            before = before if before is not None else Counter(f.check_id for f in look(view))
            more = Counter(f.check_id for f in look(after)) - before
            if set(more) - ALWAYS - {flag.check_id}:
                flag = replace(flag, fix=None)
        kept.append(flag)
    return tuple(kept)
