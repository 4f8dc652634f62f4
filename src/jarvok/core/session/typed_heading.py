"""The heading over typed lines: what the block is called and how its lines run."""

from __future__ import annotations

import re
from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.session.blocks import GROUPINGS, BlockStyle, Grouping
from jarvok.core.session.roles import PREPARE_NAME

# what else coaches call a grouping; common practice
ALSO = {
    "straight": Grouping.STRAIGHT, "pairs": Grouping.PAIR, "superset": Grouping.PAIR, "supersets": Grouping.PAIR,
    "cluster": Grouping.CLUSTER, "drop set": Grouping.DROP, "mechanical": Grouping.MECHANICAL, "amrap": Grouping.AMRAP,
    "on the clock": Grouping.EVERY, "to the clock": Grouping.EVERY, "primer": Grouping.PAPE, "primer pair": Grouping.PAPE,
    "mechanical change": Grouping.MECHANICAL, "as many rounds as you can": Grouping.AMRAP, "warm-up circuit": Grouping.WARM_UP,
}  # fmt: skip
CALLED = {g.name.lower(): key for key, g in GROUPINGS.items()} | ALSO
IN_A_NAME = sorted(CALLED.keys() - {"straight", "primer", "mechanical"}, key=len, reverse=True)  # words of no other meaning
PREPARES = ("warm-up", "warm up", "prepare", "activation")
TIME = r"(?:(?P<min>\d{1,2}):(?P<sec>\d\d)|(?P<count>\d+)\s*(?P<unit>sec(?:ond)?s?|s|min(?:ute)?s?)\b)"
# figures in the order in which they are looked for, the more particular before the plainer
FIGURES = (
    ("every", rf"\bevery\s+{TIME}(?:\s*(?:[x×]|for)\s*(?P<rounds>\d+)(?:\s*rounds?)?)?"),
    ("minutes_of_rounds", r"\b(?:e(?P<each>\d*)mom|every\s+minute)\b(?:\s*(?:for|[x×])?\s*(?P<long>\d+)\s*(?:min(?:ute)?s?)?)?"),
    ("miss", r"\buntil (?:you|a|one) miss(?:es)?\b"),
    ("inside", rf"(?:\brest\s+)?{TIME}\s+(?:rest\s+)?(?:inside|between\s+(?:stations|exercises|lifts))\b"),
    ("between", rf"(?:\brest\s+)?{TIME}\s+(?:rest\s+)?between\b(?:\s+rounds)?|\brest\s+{TIME.replace('(?P<', '(?P<r_')}"),
    ("rounds", r"\b(?P<rounds>\d+)\s*(?:rounds?|times through)\b(?:\s+of\b)?|(?<![a-z])[x×]\s*(?P<times>\d+)\b"),
    ("minutes", r"\b(?P<long>\d+)\s*min(?:ute)?s?\b"),
    ("bpm", r"\b(?P<bpm>\d+)\s*bpm\b"),
    ("beats", r"\b(?P<beats>\d+)\s*beats?\b(?:\s+a\s+rep)?"),
)
WORK = re.compile(r"\d\s*[x×*]\s*\d")  # sets by repetitions: never a heading
SLOT = re.compile(r"^[A-Z]\d{0,2}[.)]\s*")


@dataclass
class Heading:
    """How a block is called and runs, as far as its heading says."""

    name: str = ""
    grouping: Grouping | None = None
    rounds: int | None = None
    every_s: int | None = None
    minutes: int | None = None
    bpm: int | None = None
    beats: int | None = None
    rest_inside_s: int | None = None
    rest_between_s: int | None = None

    def take(self, part: str) -> str:
        """Keep the figures and the grouping that a part of the heading says; return what is left of it."""
        for name, pattern in FIGURES:
            m = re.search(pattern, part, re.IGNORECASE)
            if m:
                self._keep(name, {k.removeprefix("r_"): v for k, v in m.groupdict().items() if v})
                part = f"{part[: m.start()]} {part[m.end() :]}".strip()
        if part.lower() in CALLED:
            self.grouping, part = CALLED[part.lower()], ""
        return " ".join(part.split())

    def _keep(self, name: str, said: dict[str, str]) -> None:
        match name:
            case "every":
                self.every_s = _seconds(said)
                self.rounds = int(said["rounds"]) if "rounds" in said else self.rounds
            case "minutes_of_rounds":
                each = int(said.get("each", 1))
                self.every_s, self.grouping = 60 * each, self.grouping or Grouping.EVERY
                self.rounds = max(1, int(said["long"]) // max(1, each)) if "long" in said else self.rounds
            case "miss":
                self.grouping = Grouping.UNTIL_MISS
            case "inside":
                self.rest_inside_s = _seconds(said)
            case "between":
                self.rest_between_s = _seconds(said)
            case "rounds":
                self.rounds = int(said.get("rounds") or said["times"])
            case "minutes":
                self.minutes = int(said["long"])
            case "bpm":
                self.bpm, self.grouping = int(said["bpm"]), self.grouping or Grouping.METRONOME
            case _:
                self.beats = int(said["beats"])

    def style(self, lines: int) -> BlockStyle:
        """Return how so many lines run: as it says, else in turn where rounds are counted, to the clock where one is named."""
        grouping = self.grouping
        if grouping is None:
            if self.every_s:
                grouping = Grouping.EVERY
            elif self.rounds and lines > 1:
                grouping = Grouping.PAIR if lines == GROUPINGS[Grouping.PAIR].least else Grouping.CIRCUIT
            else:
                grouping = Grouping.STRAIGHT
        return BlockStyle(
            grouping, self.rest_inside_s, self.rest_between_s, self.minutes, self.bpm, self.beats or 2, self.every_s
        )


def _seconds(said: dict[str, str]) -> int:
    if "min" in said:
        return 60 * int(said["min"]) + int(said["sec"])
    return int(said["count"]) * (60 if said["unit"].lower().startswith("min") else 1)


def read_heading(line: str, *, names_exercise: bool) -> Heading | None:
    """Return the heading a line is, or None for a line of work: it ends with a colon, or says how lines run.

    `names_exercise` says that it begins with the name of one. Raises `CoachError` for a part that is not understood.
    """
    is_marked = line.endswith(":") and ";" not in line
    if WORK.search(line) and not is_marked:
        return None
    found = Heading()
    name: list[str] = []
    for part in (p.strip() for p in re.split(r"[,·]|:\s*(?=\D|$)|:\s+", SLOT.sub("", line))):
        says_already = found != Heading()
        left = found.take(part)
        if not left:
            continue
        if says_already:  # a name comes first
            raise CoachError(
                f"“{left}” is not understood in the heading.", where="text",
                accepted="How the lines run, such as contrast, 4 rounds, 3:00 between.",
            )  # fmt: skip
        name.append(left)
    called = ", ".join(name)
    prepares = next((w for w in PREPARES if re.match(rf"{w}\b", called, re.IGNORECASE)), None)
    if found.grouping is None and called:
        found.grouping = next((CALLED[w] for w in IN_A_NAME if re.search(rf"\b{w}\b", called, re.IGNORECASE)), None)
    if not is_marked and found == Heading() and prepares is None:
        return None
    if names_exercise and not is_marked and found.grouping is None:
        return None
    found.name = called if prepares is None else PREPARE_NAME + called[len(prepares) :]
    return found
