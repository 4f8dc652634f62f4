"""The forms of a line, one example each: shown on the page about shorthand and held by a test against the parser."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.shorthand import parse, write


@dataclass(frozen=True)
class Example:
    """A line as a coach would type it, and what it says."""

    typed: str
    says: str

    @property
    def written(self) -> str:
        """The line as it is written back."""
        return write(parse(self.typed))


EXAMPLES: tuple[Example, ...] = (
    Example("4x3 @ 82%", "four sets of three at 82 % of the max"),
    Example("4x3 @ 75/80/85/85 %", "a share for each set"),
    Example("3x5 @ 80-85 %", "first set at the low end, last at the high end"),
    Example("3x3 @ 80 % of today", "of the max that today's warm-up velocities say"),
    Example("3x8, two in reserve", "the load that leaves two"),
    Example("3x5 @ RPE 8", "the load that feels like 8"),
    Example("3x5, 2 in reserve, beat last week", "reserve is the ceiling, last week the floor; the reserve wins"),
    Example("3x5 @ 75 %, 2 in reserve", "start from the percentage, correct by reserve on the floor"),
    Example("3x3 @ 80 %, 0.55-0.65 m/s", "start from the percentage, correct by velocity"),
    Example("5x2 @ 0.75-0.85 m/s", "the load that moves at this mean velocity; add “peak” for peak velocity"),
    Example("5x2 @ strength-speed", "the load that moves in this zone"),
    Example("3x8-10RM", "heaviest for eight to ten, last set to failure"),
    Example("3x5 @ heavy", "90–95 % of the best 3 × 5; very light, light, moderately light, moderate … also work"),
    Example("3x5 @ 92.5 % of best", "a share of the best for exactly this scheme"),
    Example("3x5 @ last + 2.5 kg", "last time's load plus a step, once all of it was done"),
    Example("3x5 @ last + step", "the same with the published increment"),
    Example("3x8, 2-for-2", "up when the last set beat the goal by two in two sessions"),
    Example("APRE-6", "two warm sets, then set 3 decides set 4; also APRE-10 and APRE-3"),
    Example("8x2 @ 50 % + 25 % bands", "bar load and what the bands add at the top; kg and chains work too"),
    Example("1x1 @ 105 % - 20 kg reverse bands", "bands from above help at the bottom"),
    Example("8x1 @ 80 % + 2.5 kg", "a first load that grows each set"),
    Example("3x5 @ 60 kg", "a load as written; lb works too"),
)
EXTRAS: tuple[Example, ...] = (
    Example("1x6+ @ 80 %", "as many as possible, at least six"),
    Example("3x6/side @ 20 kg", "each side"),
    Example("3x8-10 @ RPE 7.5", "a range of repetitions"),
    Example("3x1+1+1 @ 75 %", "a complex: one of each without putting the bar down"),
    Example("3x45s", "a hold; also 2x30m and 3x2min"),
    Example("3x5 @ 80 % then 1x5+ @ 75 %", "one group after another"),
    Example("4x3 @ 75 %, 3-0-X-0, rest 2:30", "tempo: lowering, pause, lifting, pause; and the rest"),
    Example("5x3 @ 0.70 m/s, stop at 10 % loss", "the stop line of each set"),
    Example("10x2 @ 70 %, every 0:45", "a set each 45 seconds"),
    Example("every 90 s until you miss: 8x1 @ 80 % rising", "the load grows so that round eight is the limit"),
)
