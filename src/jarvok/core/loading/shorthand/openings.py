"""Lines that do not begin with sets × repetitions: lists, loads first, one set, top sets, every minute, gathered holds."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

from jarvok.core.loading.methods.as_written import FixedLoad
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.methods.rm_zone import RmZone
from jarvok.core.loading.methods.top_set import TopSet
from jarvok.core.loading.methods.velocity import VelocityTarget
from jarvok.core.loading.prescription import SetGroup
from jarvok.core.loading.reader import MASS_UNIT, NUMBER, Reader, is_pounds, mass_kg, number, share_pct
from jarvok.core.loading.rule import LoadRule
from jarvok.core.quantities.mass import check_load_kg

MOST_ROUNDS, MOST_REPS, MOST_TOP_REPS = 60, 100, 15  # [T]
LONGEST_ROUND_MIN, LEAST_HELD_S, MOST_HELD_S = 30, 5, 3600  # [T]
BARE_PCT = (40, 100)  # [T] numbers of a list without a unit are shares where all lie between: above, they may be kg
# 1+1+1 or 1 + 1, but neither “5+ 2 in reserve” nor a step such as “+ 2.5 kg” or “5 +2”
COMPLEX = r"\d+(?:(?:\+|\s*\+\s+)\d+\b)+(?!\s*(?:[,.]\d+)?\s*(?:kg|lb|%|(?:reps?\s+)?(?:in reserve|RIR|left)\b))"
_TOPS = {"single": 1, "double": 2, "triple": 3}  # [T]
_SEPARATORS = (("/", 2), ("-", 3), ("–", 3), (",", 3))  # [T] with how many numbers at least it is a list

ReadLoad = Callable[[Reader], LoadRule | None]


def minute_rounds(reader: Reader) -> tuple[int, int] | None:
    """Read EMOM 10, E2MOM × 6, every minute for 10 min: seconds a round and the number of rounds."""
    m = reader.take(r"E(\d*)MOM\b\s*(?:[x×]\s*|for\s+)?(\d+)\s*(?:min(?:utes?)?\b|rounds?\b|sets?\b)?\s*[:,]?")
    if m is None:
        m = reader.take(r"every()\s+minute\s+(?:for|[x×])\s*(\d+)\s*(?:min(?:utes?)?\b|rounds?\b)?\s*[:,]?")
    if m is None:
        return None
    every_min = int(m.group(1) or 1)
    in_minutes = "for" in m.group(0).lower() or "min" in m.group(0).lower()
    rounds = int(m.group(2)) // every_min if in_minutes else int(m.group(2))
    if not (1 <= every_min <= LONGEST_ROUND_MIN and 1 <= rounds <= MOST_ROUNDS):
        raise reader.fail(f"1 to {MOST_ROUNDS} rounds of 1 to {LONGEST_ROUND_MIN} minutes are accepted.", at=m.start())
    return 60 * every_min, rounds


def heaviest(reader: Reader, load: ReadLoad) -> list[SetGroup]:
    """Heaviest at ≥ 1.00 m/s peak: singles up to the heaviest load that still moves so fast."""
    if not reader.take(r"heaviest\s+(?=at\b|@|≥|>)"):
        return []
    rule = load(reader)
    if not isinstance(rule, VelocityTarget):
        raise reader.fail("Heaviest at which velocity?")
    return [SetGroup(1, reps=1, load=replace(rule, at_least=True))]


def opened(reader: Reader, load: ReadLoad) -> list[SetGroup]:
    """Read one of the forms at the beginning of a line; nothing where none stands."""
    for read in (heaviest, _top_set, _in_all, _loads_first, _list_of_reps):
        if groups := read(reader, load):
            return groups
    return []


def is_one_set(reader: Reader) -> bool:
    """Whether repetitions stand here without a count of sets: 5, 5 @ 100 kg, 5+ @ 80 %, 5RM, 10 ea, 30 s, AMRAP @ 60 %."""
    side = r"(?:@|RM\b|ea\b|each\b|/\s*side|per\s+side)"
    end = r"\s*(?:$|[,;]\s*\D)"
    amount = rf"\s*\d+(?:\s*[-–]\s*\d+)?\s*(?:reps?|s|sec|seconds|min|m){end}"
    bare = rf"\s*(?:[12]?\d|30)(?:\s*[-–]\s*(?:[12]?\d|30))?\s*\+?{end}"  # more is rather a load
    form = rf"\s*(?:\d+(?:\s*[-–]\s*\d+)?\s*\+?\s*{side}|(?:amrap|as many as possible|max\s+reps)\b|\()"
    return any(re.compile(f, re.IGNORECASE).match(reader.line, reader.at) for f in (form, amount, bare, rf"\s*{COMPLEX}"))


def _top_set(reader: Reader, load: ReadLoad) -> list[SetGroup]:
    """To a heavy single, up to a top triple @ RPE 8, to 3RM."""
    at = reader.at
    leads = reader.take(r"(?:work(?:ing)?\s+)?(?:up\s+)?to\s+(?:an?\s+)?|(?=(?:heavy|top)\s+(?:single|double|triple|set))")
    if leads is None:
        return []
    if m := reader.take(r"(\d+)\s*RM\b"):
        reps = int(m.group(1))
        if not 1 <= reps <= MOST_TOP_REPS:
            raise reader.fail(f"An RM of 1 to {MOST_TOP_REPS} repetitions is accepted.", at=m.start(1))
        return [SetGroup(1, reps=reps, load=RmZone(reps, reps))]
    if m := reader.take(r"(?:heavy|top)\s+(?:(single|double|triple)\b|set\s+of\s+(\d+))|(single|double|triple)\b"):
        word = m.group(1) or m.group(3)
        reps = _TOPS[word.lower()] if word else int(m.group(2))
        return [SetGroup(1, reps=reps, load=TopSet.behind(reader))]
    reader.at = at
    return []


def _in_all(reader: Reader, load: ReadLoad) -> list[SetGroup]:
    """60 s in all: gathered in as many holds as it takes."""
    held = r"(?:hold\s+|hang\s+)?(\d+)\s*(s|sec|seconds|min|minutes)\b"
    m = reader.take(held + r"\s*(?:of\s+\w+\s+)?(?:in\s+all|in\s+total|in\s+parts|gathered)\b")
    if m is None:
        return []
    held_s = int(m.group(1)) * (60 if m.group(2).lower().startswith("m") else 1)
    if not LEAST_HELD_S <= held_s <= MOST_HELD_S:
        raise reader.fail("5 s to an hour are accepted.", at=m.start(1))
    return [SetGroup(1, seconds=held_s, in_all=True, load=load(reader))]


def _loads_first(reader: Reader, load: ReadLoad) -> list[SetGroup]:
    """65 % × 5, 75 % × 5, 85 % × 5+; 100 kg × 5. One load before sets × repetitions is read with them."""
    at, found = reader.at, []
    while m := reader.take(rf"{NUMBER}\s*(%|{MASS_UNIT[1:-3]})\s*[x×]\s*(?P<reps>\d+)\s*(?P<more>\+(?!\s*\d))?(?!\d|\s*[x×])"):
        rule = _rule(reader, number(m.group(1)), m.group(2), m.start(1))
        found.append(SetGroup(1, reps=_reps(reader, m, "reps"), or_more=bool(m.group("more")), load=rule))
        if not reader.take(r"[,;]\s*(?=\d)|then\b"):
            break
    if not found:
        reader.at = at
    return found


def _list_of_reps(reader: Reader, load: ReadLoad) -> list[SetGroup]:
    """5/3/1 @ 75/85/95 %, 4-3-2-1, 5, 5, 5+ @ 65, 75, 85 %: a set each."""
    at = reader.at
    for sign, least in _SEPARATORS:
        one = r"\d+\+?"
        m = reader.take(rf"(?:ladder\s+)?({one}(?:\s*{sign}\s*{one}){{{least - 1},}})(?![\d.,]*\s*(?:%|kg|lb|s\b|m\b|[x×]))")
        if m is None:
            continue
        typed = re.split(rf"\s*{sign}\s*", m.group(1))
        counts = [(int(t.rstrip("+")), t.endswith("+")) for t in typed]
        if not all(1 <= reps <= MOST_REPS for reps, _ in counts):
            break
        rules = _list_of_loads(reader, len(counts), load)
        return [SetGroup(1, reps=r, or_more=more, load=rule) for (r, more), rule in zip(counts, rules, strict=True)]
    reader.at = at
    return []


def _list_of_loads(reader: Reader, sets: int, load: ReadLoad) -> list[LoadRule | None]:
    """A load for each set of a list, or one for all."""
    several = rf"@?\s*({NUMBER}(?:\s*[/,–-]\s*\d+(?:[.,]\d+)?){{1,}})\s*(%|{MASS_UNIT[1:-3]})?(?!\s*(?:m/s|in\b|RIR))"
    at = reader.at
    m = reader.take(several)
    if m is None:
        return [load(reader)] * sets
    values = [number(v) for v in re.split(r"\s*[/–-]\s*|\s*,\s+", m.group(1))]
    unit = m.group(3)
    if unit is None and all(BARE_PCT[0] <= v <= BARE_PCT[1] for v in values):
        unit = "%"
    if unit is None or len(values) != sets:
        if len(values) == 1:
            reader.at = at
            return [load(reader)] * sets
        wrong = f"{len(values)} loads for {sets} sets." if len(values) != sets else "Loads of what? Give % or kg."
        raise reader.fail(wrong, at=m.start(1))
    return [_rule(reader, v, unit, m.start(1)) for v in values]


def _rule(reader: Reader, value: float, unit: str, at: int) -> LoadRule:
    if unit == "%":
        return Percent((share_pct(reader, value, at),))
    return FixedLoad(check_load_kg(mass_kg(f"{value}", unit)), is_pounds(unit))


def _reps(reader: Reader, m: re.Match[str], group: str) -> int:
    reps = int(m.group(group))
    if not 1 <= reps <= MOST_REPS:
        raise reader.fail(f"1 to {MOST_REPS} repetitions are accepted.", at=m.start(group))
    return reps
