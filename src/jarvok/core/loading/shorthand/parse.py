"""Reading a whole line: sets × amount, load, tempo, rest, clock.

Limits of what a line may say are technical [T]: wider than anybody programs.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from jarvok.core.loading.methods import RULES
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.reader import NUMBER, TIME, Reader, ShorthandError, number, seconds
from jarvok.core.loading.rule import LoadRule

LONGEST_LINE = 200
LONGEST_REST_S = 1800
# 1+1+1, but neither “5+ 2 in reserve” nor a step such as “+ 2.5 kg”
COMPLEX = r"\d+(?:\s*\+\s*\d+\b)+(?!\s*(?:[,.]\d+)?\s*(?:kg|lb|%|(?:reps?\s+)?(?:in reserve|RIR|left)\b))"


def parse(line: str) -> Prescription:
    """Return what a line says. Raises `ShorthandError`, which points at a character and offers the nearest form."""
    if len(line) > LONGEST_LINE:
        raise ShorthandError(f"The line is longer than {LONGEST_LINE} characters.", LONGEST_LINE)
    reader = Reader(line)
    if reader.done:
        raise reader.fail("The line is empty.")
    extras = _Extras()
    extras.clock(reader)
    reader.skip(":,")
    groups = list(next(filter(None, (rule.whole_line(reader) for rule in RULES)), ()))
    if not groups:
        groups = [_group(reader)]
        while reader.take(r"(?:[,;]\s*)?(?:then\b|;)"):
            groups.append(_group(reader))
    extras.read(reader)
    return Prescription(tuple(groups), extras.tempo, extras.rest_s, extras.stop, extras.every_s, extras.until_miss)


def read_load(reader: Reader) -> LoadRule | None:
    """Read one load rule here, with what may follow it, or return None when none begins here."""
    start = _first(rule.begins(reader) for rule in RULES)
    if start is None:
        return None
    return _first(rule.follows(reader, start) for rule in RULES) or start


def _first(found: Iterator[LoadRule | None]) -> LoadRule | None:
    return next((rule for rule in found if rule is not None), None)


def _group(reader: Reader) -> SetGroup:
    start = reader.at
    head = reader.take(r"(\d+)\s*(?:[x×*]|sets?\s+of\b)")
    if not head:
        lone = re.match(r"\s*(\d+)", reader.line[start:])
        hint = f"{lone.group(1)} × 5 @ 75 %" if lone else "4 × 3 @ 82 %"
        raise reader.fail("A line starts with sets × repetitions.", hint)
    sets = int(head.group(1))
    if not 1 <= sets <= 30:
        raise reader.fail(f"{sets} sets is not a session. 1 to 30 sets are accepted.", at=head.start(1))
    group, behind = _amount(reader, sets)
    load = behind or _load(reader)
    values = {**group.__dict__, "load": load}
    return SetGroup(**values)


def _amount(reader: Reader, sets: int) -> tuple[SetGroup, LoadRule | None]:
    behind: LoadRule | None = None
    if metres := reader.take(r"(\d+)\s*m(?![a-z]|/s\b)"):
        group = SetGroup(sets, metres=_within(reader, metres, 1, 1000, "metres"))
    elif minutes := reader.take(r"(\d+)\s*min\b"):
        group = SetGroup(sets, seconds=60 * _within(reader, minutes, 1, 60, "minutes"))
    elif held := reader.take(r"(\d+)\s*(?:s\b|sec\b|seconds\b)"):
        group = SetGroup(sets, seconds=_within(reader, held, 1, 3600, "seconds"))
    elif parts := reader.take(COMPLEX):
        counts = tuple(int(p) for p in re.findall(r"\d+", parts.group(0)))
        if not all(1 <= c <= 20 for c in counts) or len(counts) > 8:
            raise reader.fail("A complex has 2 to 8 lifts of 1 to 20 repetitions.", f"{sets} × 1+1+1", parts.start())
        group = SetGroup(sets, reps=sum(counts), parts=counts)
    elif reps := reader.take(r"(\d+)(?:\s*[-–]\s*(\d+))?(?!\s*[,.]?\d*\s*%)\s*(\+|or more\b)?"):
        group, behind = _repetitions(reader, sets, reps)
    elif reader.take(r"(?:amrap|max|as many as possible)\b"):
        group = SetGroup(sets, reps=1, or_more=True)
    else:
        raise reader.fail("How many repetitions, seconds or metres?", f"{sets} × 5")
    if reader.take(r"(?:/|per|each|a)\s*(?:side|leg|arm)\b|\beach\b"):
        group = SetGroup(**{**group.__dict__, "per_side": True})
    return group, behind


def _repetitions(reader: Reader, sets: int, match: re.Match[str]) -> tuple[SetGroup, LoadRule | None]:
    low = _within(reader, match, 1, 100, "repetitions")
    high = int(match.group(2)) if match.group(2) else None
    if high is not None and (high <= low or high > 100):
        raise reader.fail("A range of repetitions goes from low to high.", f"{sets} × {high}-{low}", match.start(2))
    behind = _first(rule.after_reps(reader, low, high, match.start(1)) for rule in RULES)
    return SetGroup(sets, reps=low, reps_high=high, or_more=bool(match.group(3))), behind


def _within(reader: Reader, match: re.Match[str], low: int, high: int, what: str) -> int:
    value = int(match.group(1))
    if not low <= value <= high:
        raise reader.fail(f"{low} to {high} {what} are accepted.", at=match.start(1))
    return value


def _load(reader: Reader) -> LoadRule | None:
    before = reader.at
    reader.skip(",")
    marked = reader.take(r"@|at\b(?!\s*least)|with\b|from\b")
    rule = read_load(reader)
    if rule is not None:
        return rule
    if marked:
        typed = reader.line[:before].strip()
        lone = reader.take(NUMBER)
        if lone:
            value = number(lone.group(1))
            nearest = f"@ {value:g} %" if value >= 30 else f"@ RPE {value:g}" if 5 <= value <= 10 else f"@ {value:g} kg"
            raise reader.fail(f"{value:g} of what? Give %, kg, RPE, m/s or “in reserve”.", f"{typed} {nearest}", lone.start(1))
        raise reader.fail("After @ comes %, kg, RPE, m/s, a word such as heavy, or a number in reserve.", f"{typed} @ 80 %")
    reader.at = before
    return None


class _Extras:
    """Tempo, rest, stop line and clock, in any order."""

    def __init__(self) -> None:
        self.tempo: str | None = None
        self.rest_s: int | None = None
        self.stop: float | None = None
        self.every_s: int | None = None
        self.until_miss = False

    def clock(self, reader: Reader) -> bool:
        if m := reader.take(rf"every\s+{TIME}"):
            self.every_s = seconds(m)
            if not 5 <= self.every_s <= LONGEST_REST_S:
                raise reader.fail("A set every 5 s to 30 min is accepted.", at=m.start())
        elif not reader.take(r"until\s+(?:you\s+|a\s+)?miss(?:ed)?\b"):
            return False
        else:
            self.until_miss = True
            return True
        if reader.take(r"until\s+(?:you\s+|a\s+)?miss(?:ed)?\b"):
            self.until_miss = True
        return True

    def read(self, reader: Reader) -> None:
        while not reader.done:
            reader.skip(",;.")
            if m := reader.take(r"(?:tempo\s*)?(\d+)\s*-\s*(\d+)\s*-\s*(\d+|x)\s*-\s*(\d+|x)"):
                self.tempo = "-".join(part.upper() for part in m.groups())
            elif m := reader.take(rf"rest\s*{TIME}"):
                self.rest_s = seconds(m)
            elif m := reader.take(rf"stop(?:\s+at)?\s*{NUMBER}\s*%(?:\s*(?:velocity\s+)?loss)?"):
                self.stop = number(m.group(1))
                if not 1 <= self.stop <= 60:
                    raise reader.fail("A velocity loss of 1 to 60 % is accepted.", at=m.start(1))
            elif not self.clock(reader):
                reader.skip(",;.")
                raise reader.fail(_what_is_this(reader), _nearest_extra(reader))
            if self.rest_s is not None and self.rest_s > LONGEST_REST_S:
                raise reader.fail("A rest of at most 30 minutes is accepted.")


def _what_is_this(reader: Reader) -> str:
    word = reader.line[reader.at :].split()[0]
    return f"“{word}” is not understood here."


def _nearest_extra(reader: Reader) -> str:
    before, rest = reader.line[: reader.at].strip(" ,;"), reader.line[reader.at :].strip()
    found = re.match(NUMBER, rest)
    if found:
        value = number(found.group(1))
        return f"{before} @ {value:g} %" if value >= 30 else f"{before} {value:g} in reserve"
    return before
