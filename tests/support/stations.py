"""Lines of a session as the sequence takes them, for tests."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse
from jarvok.core.session.blocks import BlockStyle
from jarvok.core.session.duration import rest_s
from jarvok.core.session.sequence import line_minutes
from jarvok.core.session.station import Station


def block(
    style: BlockStyle,
    rows: Sequence[tuple[str, str]],
    letter: str = "A",
    ramps: Sequence[int] = (),
    own_rest_s: int | None = None,
) -> list[Station]:
    """Return a block's lines, given as (line as typed, exercise); `ramps` are warm-up sets of the first lines."""
    found = []
    for n, (text, lift) in enumerate(rows):
        line = parse(text)
        is_own = own_rest_s is not None and n == 0
        found.append(
            Station(
                slot=f"{letter}{n + 1}",
                block=f"{letter} · work",
                style=style,
                prescription=line,
                exercise=exercise(lift),
                rest_s=own_rest_s if is_own and own_rest_s is not None else rest_s(line, exercise(lift)),
                ramp_sets=ramps[n] if n < len(ramps) else 0,
                has_own_rest=is_own,
            )
        )
    return found


def minutes(style: BlockStyle, rows: Sequence[tuple[str, str]]) -> float:
    """Return the minutes of a block."""
    return sum(line_minutes(block(style, rows)))
