"""The forms of a line, one example each: shown on the page about shorthand and held by a test against the parser."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.methods import METHOD_BY_KEY, RULES
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


EXAMPLES: tuple[Example, ...] = tuple(
    Example(e.typed, e.says)
    for rule in sorted(RULES, key=lambda r: METHOD_BY_KEY[r.method].place if r.method else len(METHOD_BY_KEY))
    for e in rule.examples
)
EXTRAS: tuple[Example, ...] = (
    Example("1x6+ @ 80 %", "as many as possible, at least six"),
    Example("3x6/side @ 20 kg", "each side"),
    Example("3x8-10 @ RPE 7.5", "a range of repetitions"),
    Example("3x1+1+1 @ 75 %", "a complex: one of each without putting the bar down"),
    Example("3x45s", "a hold; also 2x30m and 3x2min"),
    Example("3x5 @ 80 % then 1x5+ @ 75 %", "one group after another"),
    Example("4x3 @ 75 %, 3-0-X-0, rest 2:30", "tempo: lowering, pause, lifting, pause; and the rest"),
    Example("5x3 @ 0.70 m/s, stop at 10 % loss", "each set stops at that loss"),
    Example("4x5, for height", "jumps as high as one can; also for distance, or submaximal where they are not"),
    Example("10x2 @ 70 %, every 0:45", "a set each 45 seconds"),
    Example("every 90 s until you miss: 8x1 @ 80 % rising", "the load grows so that round eight is the limit"),
)
