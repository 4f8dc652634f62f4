"""How the lines of a block are grouped: straight, in pairs, circuits, complexes, to a clock, to a metronome.

Fewest and most lines of a grouping, and the limits of its figures, are technical [T]: wider than anybody programs.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from jarvok.core.errors import CoachError


class Grouping(StrEnum):
    """The ways of part 7 to put lines together."""

    STRAIGHT = "straight"
    PAIR = "pair"
    CIRCUIT = "circuit"
    COMPLEX = "complex"
    CLUSTER = "cluster"
    LADDER = "ladder"
    DROP = "drop"
    MECHANICAL = "mechanical"
    EVERY = "every"
    UNTIL_MISS = "until_miss"
    AMRAP = "amrap"
    METRONOME = "metronome"
    CONTRAST = "contrast"
    PAPE = "pape"
    WARM_UP = "warm_up"


@dataclass(frozen=True)
class GroupingRule:
    """What a grouping is called, what it means on the floor, how many lines it takes, and the figures it can be given."""

    name: str
    words: str
    least: int
    most: int
    needs: str = ""  # which figure it cannot do without
    figures: tuple[str, ...] = ()


RESTS, INSIDE, CLOCK = ("rest_inside_s", "rest_between_s"), ("rest_inside_s",), ("every_s",)
BETWEEN = ("rest_between_s",)
TIME, BEAT = ("minutes",), ("bpm", "beats")
GROUPINGS: dict[Grouping, GroupingRule] = {
    Grouping.STRAIGHT: GroupingRule("Straight sets", "all sets of a line, then the next line", 1, 12),
    Grouping.PAIR: GroupingRule("Pair", "a set of each in turn; one rests while the other works", 2, 3, figures=RESTS),
    Grouping.CIRCUIT: GroupingRule("Circuit", "once through all, then again", 3, 12, figures=RESTS),
    Grouping.COMPLEX: GroupingRule(
        "Complex", "all lifts without putting the bar down; the weakest sets the load", 2, 6, figures=(*CLOCK, *BETWEEN)
    ),
    Grouping.CLUSTER: GroupingRule("Clusters", "short rests inside each set", 1, 2, "rest_inside_s", figures=INSIDE),
    Grouping.LADDER: GroupingRule("Ladder", "each set a rung with its own repetitions and load", 1, 3),
    Grouping.DROP: GroupingRule("Drop sets", "all sets of a line in one go, load off in between", 1, 2, figures=INSIDE),
    Grouping.MECHANICAL: GroupingRule(
        "Mechanical drop set", "same load, an easier grip or stance each time, without rest", 2, 4, figures=(*INSIDE, *BETWEEN)
    ),
    Grouping.EVERY: GroupingRule("EMOM, every x", "a set starts each time the clock says", 1, 4, "every_s", figures=CLOCK),
    Grouping.UNTIL_MISS: GroupingRule(
        "Until you miss", "a set at each signal, heavier each time, until one is missed", 1, 1, "every_s", figures=CLOCK
    ),
    Grouping.AMRAP: GroupingRule(
        "AMRAP", "as many rounds through all lines as possible in the time", 1, 8, "minutes", figures=TIME
    ),
    Grouping.METRONOME: GroupingRule("Metronome", "one repetition each so many beats", 1, 2, "bpm", figures=BEAT),
    Grouping.CONTRAST: GroupingRule(
        "Contrast",
        "heavy lift, jump, loaded fast, assisted jump; full rest between rounds",
        3,
        4,
        figures=RESTS,
    ),
    Grouping.PAPE: GroupingRule(
        "Heavy set, then a jump",
        "a heavy set, the athlete's own best rest, then the explosive set",
        2,
        2,
        figures=RESTS,
    ),
    Grouping.WARM_UP: GroupingRule(
        "Timed warm-up circuit", "round and round; the lighter implement first", 1, 12, "minutes", figures=TIME
    ),
}
FIGURE_NAMES = {
    "every_s": "every, s",
    "minutes": "minutes",
    "bpm": "beats a minute",
    "beats": "beats a rep",
    "rest_inside_s": "rest inside, s",
    "rest_between_s": "between rounds, s",
}
LIMITS = {
    "rest_inside_s": (0, 900),
    "rest_between_s": (0, 1800),
    "minutes": (1, 60),
    "bpm": (20, 240),
    "beats": (1, 8),
    "every_s": (10, 900),
}


@dataclass(frozen=True)
class BlockStyle:
    """How a block runs: rests in s inside a round and between rounds, minutes of a timed block, the metronome."""

    grouping: Grouping = Grouping.STRAIGHT
    rest_inside_s: int | None = None
    rest_between_s: int | None = None
    minutes: int | None = None
    bpm: int | None = None
    beats: int = 2
    every_s: int | None = None

    @property
    def is_shared(self) -> bool:
        """Whether one of its lines rests while another works, so that no line's rest stands alone."""
        return self.grouping in SHARED

    @property
    def words(self) -> str:
        """The block in a few words, as it stands over its lines."""
        rule = GROUPINGS[self.grouping]
        name = rule.name if rule.name.isupper() else rule.name.lower()
        parts = [] if self.grouping is Grouping.STRAIGHT or (self.every_s and self.grouping is Grouping.EVERY) else [name]
        if self.every_s:
            parts.append(f"every {clock(self.every_s)}")
        if self.minutes:
            parts.append(f"{self.minutes} min")
        if self.bpm:
            parts.append(f"{self.bpm} bpm, {self.beats} beats a rep: {self.bpm / self.beats:g} reps a minute")
        if self.rest_inside_s is not None:
            parts.append(f"{clock(self.rest_inside_s)} inside")
        if self.rest_between_s is not None:
            parts.append(f"{clock(self.rest_between_s)} between rounds")
        return ", ".join(parts)


SHARED = frozenset({Grouping.PAIR, Grouping.CIRCUIT, Grouping.CONTRAST, Grouping.PAPE, Grouping.EVERY, Grouping.MECHANICAL})
STRAIGHT = BlockStyle()
PAIR = BlockStyle(Grouping.PAIR)


def clock(seconds: int) -> str:
    """Return seconds as m:ss."""
    return f"{seconds // 60}:{seconds % 60:02d}"


def check_style(style: BlockStyle, lines: int) -> None:
    """Raise `CoachError` when a block cannot run as it says."""
    rule = GROUPINGS[style.grouping]
    if not rule.least <= lines <= rule.most:
        number = f"{rule.least}" if rule.least == rule.most else f"{rule.least} to {rule.most}"
        raise CoachError(f"{rule.name} cannot hold {lines} lines.", where="grouping", accepted=f"{number} lines.")
    if rule.needs and getattr(style, rule.needs) is None:
        raise CoachError(
            f"{rule.name} needs {NEEDED[rule.needs]}.", where=rule.needs, accepted=f"{NEEDED[rule.needs]}.".capitalize()
        )
    for name, (low, high) in LIMITS.items():
        value = getattr(style, name)
        if value is not None and not low <= value <= high:
            raise CoachError(f"{value} cannot be here.", where=name, accepted=f"{low} to {high} are accepted.")


NEEDED = {
    "rest_inside_s": "a rest inside the set, in seconds",
    "minutes": "its minutes",
    "bpm": "beats a minute",
    "every_s": "its clock, in seconds",
}
