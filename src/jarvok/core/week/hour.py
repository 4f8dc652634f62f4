"""A generated session inside the time there is: small work that does not fit is cut from the bottom, and named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from jarvok.core.library.exercises import exercise
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.session.blocks import GROUPINGS, STRAIGHT
from jarvok.core.session.duration import raises, rest_s, warm_up_minutes
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.session.sequence import line_minutes
from jarvok.core.session.station import Station

MINUTES_THERE = 60  # [J] an hour of room time, where the record says nothing
RAMP_SETS = 4  # [C] before a barbell lift, where no load is known yet
RAMPED_KINDS = ("strength", "classic")


def minutes_of(lines: Sequence[PlannedLine], rules: Rules = DEFAULT_RULES) -> float:
    """Return about how many minutes a session takes, before its loads are known: its steps, the warm-up and the ramps."""
    stations = [_station(line, rules) for line in lines]
    ramped: set[str] = set()
    for line in lines:
        lift = exercise(line.exercise_id)
        if line.is_main and lift.implement == "barbell" and lift.kind in RAMPED_KINDS:
            ramped.add(lift.same_lift)
    has_own = raises([(s, line.role) for s, line in zip(stations, lines, strict=True)])
    return warm_up_minutes(RAMP_SETS * len(ramped), rules, has_own=has_own) + sum(line_minutes(stations, rules))


def _station(line: PlannedLine, rules: Rules) -> Station:
    lift = exercise(line.exercise_id)
    return Station(
        slot=line.slot,
        block=line.block,
        style=line.style,
        prescription=line.prescription,
        exercise=lift,
        rest_s=rest_s(line.prescription, lift, rules),
    )


def within(session: PlannedSession, minutes: int | None, rules: Rules = DEFAULT_RULES) -> PlannedSession:
    """Return the session cut to the minutes there are: small lines from the bottom, those for what is known of the athlete last.

    Fast and main work is never cut: it is what the season's dose is made of.
    """
    if minutes is None:
        return session
    lines, cut = list(session.lines), []
    while minutes_of(lines, rules) > minutes:
        small = [x for x in lines if x.role is BlockRole.SMALL]
        goes = next((x for x in reversed(small) if not x.wish), small[-1] if small else None)
        if goes is None:
            break
        lines.remove(goes)
        cut.append(exercise(goes.exercise_id).name)
    if not cut:
        return session
    words = f"{', '.join(reversed(cut))} (does not fit into {minutes} min)"
    return replace(session, lines=_regrouped(lines), left_out=(*session.left_out, words))


def _regrouped(lines: Sequence[PlannedLine]) -> tuple[PlannedLine, ...]:
    """A block that holds too few lines for its grouping now is done straight."""
    together: dict[str, int] = {}
    for line in lines:
        together[line.block] = together.get(line.block, 0) + 1
    return tuple(x if together[x.block] >= GROUPINGS[x.style.grouping].least else replace(x, style=STRAIGHT) for x in lines)
