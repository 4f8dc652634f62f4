"""What stands beside the sets of a line: tempo, rests, stop line, drops, clock, score. In any order."""

from __future__ import annotations

import re

from jarvok.core.loading.prescription import Drops
from jarvok.core.loading.reader import NUMBER, TIME, Reader, number, seconds

LONGEST_REST_S, LONGEST_BETWEEN_REPS_S, LONGEST_INSIDE_S, MOST_LOSS_PCT = 1800, 60, 180, 60  # [T]
SHORTEST_ROUND_S = 5  # [T]
LEAST_BARE_REST_S = 15  # [T] a rest below it without a unit may mean minutes
MOST_DROPS, MOST_DROP_PCT = 6, 50  # [T]
_FIGURES = r"(\d)\s*-\s*(\d)\s*-\s*(\d|x)\s*-\s*(\d|x)|(\d)(\d)(\d|x)(\d|x)(?![\d.,/%])"


class Extras:
    """What has been read beside the sets so far."""

    def __init__(self) -> None:
        self.tempo: str | None = None
        self.rest_s: int | None = None
        self.between_reps_s: int | None = None
        self.inside_s: int | None = None
        self.stop_pct: float | None = None
        self.every_s: int | None = None
        self.until_miss = False
        self.drops: Drops | None = None
        self.scored_by = ""
        self.submaximal = False
        self.last_is_open = False

    def opening_tempo(self, reader: Reader) -> None:
        """Read a tempo in front of the sets."""
        at = reader.at
        if not (self._tempo(reader) and re.compile(r"[\s,:]*\d+\s*(?:[x×*]|sets?\b)", re.I).match(reader.line, reader.at)):
            reader.at, self.tempo = at, None
        reader.skip(",:")

    def _tempo(self, reader: Reader) -> bool:
        m = reader.take(rf"(?:tempo\s*)?\(?(?:{_FIGURES})\)?")
        if not m:
            return False
        self.tempo = "-".join(part.upper() for part in m.groups() if part is not None)
        return True

    def clock(self, reader: Reader) -> bool:
        """Read “every 2:00” or “until you miss”."""
        if m := reader.take(rf"every\s+(?!minute){TIME}"):
            self.every_s = seconds(m)
            if not SHORTEST_ROUND_S <= self.every_s <= LONGEST_REST_S:
                raise reader.fail("A set every 5 s to 30 min is accepted.", at=m.start())
        elif reader.take(r"every\s+minute\b(?!\s*(?:for|[x×])\s*\d)"):
            self.every_s = 60
        elif not reader.take(r"until\s+(?:you\s+|a\s+)?miss(?:ed)?\b"):
            return False
        else:
            self.until_miss = True
            return True
        if reader.take(r"until\s+(?:you\s+|a\s+)?miss(?:ed)?\b"):
            self.until_miss = True
        return True

    def read(self, reader: Reader) -> None:
        """Read all that is left. Raises `ShorthandError` for what is not understood."""
        while not reader.done:
            reader.skip(",;.")
            if not (self._tempo(reader) or self._rests(reader) or self._ends(reader) or self.clock(reader)):
                reader.skip(",;.")
                word = reader.line[reader.at :].split()[0]
                raise reader.fail(f"“{word}” is not understood here.")

    def _rests(self, reader: Reader) -> bool:
        if m := reader.take(rf"{TIME}\s*(?:between|btw\.?)\s+(?:the\s+)?rep(?:etition)?s\b"):
            self.between_reps_s = seconds(m)
            if not 1 <= self.between_reps_s <= LONGEST_BETWEEN_REPS_S:
                raise reader.fail("Up to a minute between repetitions is accepted.", at=m.start())
        elif m := reader.take(rf"{TIME}\s*inside\b"):
            self.inside_s = seconds(m)
            if not 1 <= self.inside_s <= LONGEST_INSIDE_S:
                raise reader.fail("Up to 3 minutes inside a set are accepted.", at=m.start())
        elif m := reader.take(rf"(?:rest|r)\s*{TIME}"):
            self.rest_s = seconds(m)
            is_bare = m.group(0)[-1].isdigit() and ":" not in m.group(0)
            if is_bare and self.rest_s < LEAST_BARE_REST_S:
                raise reader.fail(f"{self.rest_s} s or min of rest?", at=m.end() - len(str(self.rest_s)))
            if self.rest_s > LONGEST_REST_S:
                raise reader.fail("A rest of at most 30 minutes is accepted.")
        else:
            return False
        return True

    def _ends(self, reader: Reader) -> bool:
        """What ends a set or a line."""
        stops = rf"stop(?:\s+at)?\s*{NUMBER}\s*%(?:\s*(?:velocity\s+)?loss)?"
        if m := reader.take(rf"(?:{stops}|(?:velocity\s+)?loss\s*{NUMBER}\s*%|VL\s*{NUMBER}\s*%?)"):
            self.stop_pct = number(next(g for g in m.groups() if g))
            if not 1 <= self.stop_pct <= MOST_LOSS_PCT:
                raise reader.fail("A velocity loss of 1 to 60 % is accepted.", at=m.start())
        elif m := reader.take(rf"drops?\s*(\d+)\s*[x×]\s*{NUMBER}\s*%"):
            self.drops = Drops(int(m.group(1)), number(m.group(2)))
            if not (1 <= self.drops.count <= MOST_DROPS and 0 < self.drops.pct <= MOST_DROP_PCT):
                raise reader.fail("1 to 6 drops of up to 50 % are accepted.", at=m.start(1))
        elif reader.take(r"(?:the\s+)?last\s+(?:set\s+)?(?:is\s+)?(?:amrap|open|as many as possible|max)\b"):
            self.last_is_open = True
        elif not self.score(reader):
            return False
        return True

    def score(self, reader: Reader) -> bool:
        """Read “for time”, “for rounds”, “for height”, “for distance”, or “submaximal”."""
        if reader.take(r"(?:sub-?\s?maximal(?:ly)?|not\s+maximal(?:ly)?)\b"):
            self.submaximal = True
            return True
        m = reader.take(r"for\s+(time|rounds|height|distance)\b") if not self.scored_by else None
        if m is not None:
            self.scored_by = m.group(1).lower()
        return m is not None
