"""Reading a whole line: sets × amount, load, tempo, rest, clock.

Limits of what a line may say are technical [T]: wider than anybody programs.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache

from jarvok.core.loading.methods import RULES
from jarvok.core.loading.methods.as_written import FixedLoads
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.reader import NUMBER, Reader, ShorthandError, number
from jarvok.core.loading.rule import LoadRule
from jarvok.core.loading.shorthand.extras import Extras
from jarvok.core.loading.shorthand.openings import COMPLEX, is_one_set, minute_rounds, opened

LONGEST_LINE = 200
MOST_SETS = 30
LINES_KNOWN = 2048  # [T] a line is read again with each set of its session, and a centre writes the same few hundred


# repetitions, a range of them, and an open end: a plus, but not one that adds a load (5 +2.5 kg)
REPS = (
    r"(\d+)(?:\s*[-–]\s*(\d+))?(?!\d|[,.]\d|\s*(?:%|kg\b|lbs?\b))"
    r"\s*(\+(?!\s*(?:\d+(?:[,.]\d+)?\s*(?:kg|kilos?|lbs?|pounds?)\b|step\b))|or more\b)?"
)


@lru_cache(maxsize=LINES_KNOWN)
def parse(line: str, name: str = "") -> Prescription:
    """Return what a line says; `name` is the exercise it is for, which may stand in front.

    Raises `ShorthandError`, which points at a character, and offers another form only where that means the same.
    """
    if len(line) > LONGEST_LINE:
        raise ShorthandError(f"The line is longer than {LONGEST_LINE} characters.", LONGEST_LINE)
    reader = Reader(line)
    if reader.done:
        raise reader.fail("The line is empty.")
    if name:
        reader.take(rf"{re.escape(name)}\s*[:,]?")
    extras = Extras()
    if not extras.clock(reader):
        extras.score(reader)
    reader.skip(":,")
    extras.opening_tempo(reader)
    groups = list(next(filter(None, (rule.whole_line(reader) for rule in RULES)), ())) or _groups(reader, extras)
    extras.read(reader)
    if extras.last_is_open:
        groups = _open_last(groups)
    return Prescription(
        tuple(groups), extras.tempo, extras.rest_s, extras.stop_pct, extras.every_s, extras.until_miss,
        between_reps_s=extras.between_reps_s, inside_s=extras.inside_s, drops=extras.drops, scored_by=extras.scored_by,
        submaximal=extras.submaximal,
    )  # fmt: skip


def _for_minutes(reader: Reader, extras: Extras) -> list[SetGroup]:
    """10 min AMRAP, as many rounds as possible in 10 min: once for so long, and what is counted is how often."""
    most = r"(?:amrap|as many (?:rounds )?as possible)"
    m = reader.take(rf"(\d+)\s*min(?:utes?)?\s*(?:of\s+)?{most}\b") or reader.take(
        rf"{most}\s*(?:in|of|for|,)?\s*(\d+)\s*min(?:utes?)?\b"
    )
    if m is None:
        return []
    extras.scored_by = "rounds"
    return [SetGroup(1, seconds=60 * _within(reader, m, 1, 60, "minutes"))]


def _groups(reader: Reader, extras: Extras) -> list[SetGroup]:
    if timed := _for_minutes(reader, extras):
        return timed
    rounds = minute_rounds(reader)
    if rounds is not None:
        extras.every_s, at = rounds[0], reader.at
        written = re.match(r"\s*\d+\s*[x×]", reader.line[at:])
        group = _group(reader, sets=None if written else rounds[1])
        if group.sets != rounds[1]:
            raise reader.fail(f"{rounds[1]} rounds or {group.sets} sets?", at=at)
        return [group]
    if extras.every_s is not None and is_one_set(reader):
        raise reader.fail("How many rounds?")
    groups = opened(reader, _load) or [_group(reader)]
    while reader.take(r"(?:[,;]\s*)?(?:then\b|;)|,\s*(?!\d\d(?-i:X)\d(?!\d))(?=\d+\s*[x×*]\s*\d)"):
        groups += opened(reader, _load) or [_group(reader)]
    return groups


def _open_last(groups: list[SetGroup]) -> list[SetGroup]:
    """The same sets with the last one as many as possible."""
    *before, last = groups
    if last.sets > 1:
        before.append(replace(last, sets=last.sets - 1))
    load = last.load.of_set(last.sets - 1, last.sets) if last.load is not None else None
    return [*before, replace(last, sets=1, or_more=True, load=load)]


def read_load(reader: Reader) -> LoadRule | None:
    """Read one load rule here, with what may follow it, or return None when none begins here."""
    start = _first(rule.begins(reader) for rule in RULES)
    if start is None:
        return None
    return _first(rule.follows(reader, start) for rule in RULES) or start


def _first(found: Iterator[LoadRule | None]) -> LoadRule | None:
    return next((rule for rule in found if rule is not None), None)


def _group(reader: Reader, sets: int | None = None) -> SetGroup:
    """Read sets × repetitions with their load; the load may stand in front. `sets` where the line has said them already."""
    front = _load_in_front(reader) if sets is None else None
    sets_high = None
    is_lone = sets is None and is_one_set(reader)
    if is_lone:
        sets = 1
    elif sets is None:
        sets, sets_high = _sets(reader)
    assert sets is not None, "a count of sets was read or given"
    group, behind = _amount(reader, sets)
    load = front or behind or _load(reader)
    if is_lone and isinstance(load, FixedLoads | Percent):
        group = replace(group, sets=len(load.loads_kg if isinstance(load, FixedLoads) else load.percents))
    return replace(group, load=load, sets_high=sets_high)


def _load_in_front(reader: Reader) -> LoadRule | None:
    at = reader.at
    rule = read_load(reader) if re.match(rf"\s*{NUMBER}\s*(?:%|kg|kilos?|lbs?|pounds?)", reader.line[at:], re.I) else None
    if rule is not None and re.match(r"[\s,:]*\d+\s*(?:[x×*]|sets?\s+of\b)", reader.line[reader.at :], re.I):
        reader.skip(",:")
        return rule
    reader.at = at
    return None


def _sets(reader: Reader) -> tuple[int, int | None]:
    head = reader.take(r"(\d+)(?:\s*[-–]\s*(\d+))?\s*(?:[x×*]|sets?\s+(?:of\b|[x×]))")
    if not head:
        raise reader.fail("A line starts with sets × repetitions.")
    sets, high = int(head.group(1)), int(head.group(2)) if head.group(2) else None
    if not 1 <= sets <= MOST_SETS or (high is not None and not sets < high <= MOST_SETS):
        raise reader.fail(f"{head.group(0).rstrip(' x×*')} sets is not a session. 1 to 30 sets are accepted.", at=head.start(1))
    return sets, high


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
            raise reader.fail("A complex has 2 to 8 lifts of 1 to 20 repetitions.", at=parts.start())
        group = SetGroup(sets, reps=sum(counts), parts=counts)
    elif minis := reader.take(r"\(\s*\d+(?:\s*\+\s*\d+)+\s*\)"):
        counts = tuple(int(p) for p in re.findall(r"\d+", minis.group(0)))
        if not all(1 <= c <= 20 for c in counts) or len(counts) > 8:
            raise reader.fail("A cluster has 2 to 8 small sets of 1 to 20 repetitions.", at=minis.start())
        alike = len(set(counts)) == 1
        group = SetGroup(sets, reps=sum(counts), minis=counts if alike else (), parts=() if alike else counts)
    elif reps := reader.take(REPS):
        group, behind = _repetitions(reader, sets, reps)
        reader.take(r"reps?\b(?!\s*in\b)")
    elif reader.take(r"(?:amrap|max(?:\s+reps)?|as many as possible)\b"):
        group = SetGroup(sets, reps=1, or_more=True)
    else:
        raise reader.fail("How many repetitions, seconds or metres?")
    if reader.take(r"(?:/|per|each|a)\s*(?:side|leg|arm)\b|(?:each|ea)\b"):
        group = replace(group, per_side=True)
    return group, behind


def _repetitions(reader: Reader, sets: int, match: re.Match[str]) -> tuple[SetGroup, LoadRule | None]:
    low = _within(reader, match, 1, 100, "repetitions")
    high = int(match.group(2)) if match.group(2) else None
    if high is not None and (high <= low or high > 100):
        rest = reader.line[reader.at :]
        raise reader.fail(
            "A range of repetitions goes from low to high.", f"{sets} × {high}-{low} {rest.strip()}".strip(), match.start(2)
        )
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
        lone = reader.take(NUMBER)
        if lone:
            value = number(lone.group(1))
            raise reader.fail(f"{value:g} of what? Give %, kg, RPE, m/s or “in reserve”.", at=lone.start(1))
        raise reader.fail("After @ comes %, kg, RPE, m/s, a word such as heavy, or a number in reserve.")
    reader.at = before
    return None
