"""How the load of a line is typed: percentages, reserve, velocity, words, and the methods that look back.

Limits of what a rule may say are technical [T]: wider than anybody programs.
"""

from __future__ import annotations

from jarvok.core.loading.accommodating import Attachment
from jarvok.core.loading.prescription import (
    BestShare,
    Corrected,
    FixedLoad,
    LastPlus,
    LoadRule,
    Percent,
    PercentRange,
    Reserve,
    Rising,
    Rpe,
    TodayPercent,
    TwoForTwo,
    VelocityTarget,
    VelocityZone,
    WithAttachment,
)
from jarvok.core.loading.shorthand.reader import NUMBER, Reader, number
from jarvok.core.loading.tables import intensity_words
from jarvok.core.marks.effort import RIR_BY_RPE
from jarvok.core.quantities.mass import check_load_kg, kg_from_lb
from jarvok.core.velocity.zones import ZONES

WORDS = {"no": 0, "none": 0, "zero": 0, "one": 1, "two": 2, "three": 3, "four": 4}
DAY_WORDS = sorted(intensity_words(), key=len, reverse=True)
ZONE_NAMES = sorted((zone.name for zone in ZONES), key=len, reverse=True)
MASS_UNIT = r"(kg|kilos?|lbs?|pounds?)\b"
LARGEST_STEP_KG = 50.0  # [J]


def read_load(reader: Reader) -> LoadRule | None:
    """Read one load rule here, or return None when none begins here."""
    for read in (_velocity, _percentages, _one_percent, _effort, _mass, _looking_back):
        found = read(reader)
        if found is not None:
            return found
    return None


def _velocity(reader: Reader) -> LoadRule | None:
    if m := reader.take(rf"{NUMBER}(?:\s*[-–]\s*{NUMBER})?\s*m/s\s*(peak|mean)?"):
        low = number(m.group(1))
        high = number(m.group(2)) if m.group(2) else low
        if not 0.05 <= low <= high <= 5:
            raise reader.fail("Velocities from 0.05 to 5 m/s, low to high, are accepted.", at=m.start(1))
        return VelocityTarget(low, high, (m.group(3) or "").lower() == "peak")
    if m := reader.take(rf"({'|'.join(name.replace('-', '[- ]') for name in ZONE_NAMES)})\b"):
        said = m.group(1).lower().replace(" ", "-")
        return VelocityZone(next(name for name in ZONE_NAMES if name.replace(" ", "-") == said))
    return None


def _percentages(reader: Reader) -> LoadRule | None:
    if m := reader.take(rf"{NUMBER}((?:\s*/\s*\d+(?:[.,]\d+)?)+)\s*%"):
        values = tuple(number(v) for v in (m.group(1) + m.group(2)).replace(" ", "").split("/"))
        return Percent(tuple(_percent(reader, v, m.start(1)) for v in values))
    if m := reader.take(rf"{NUMBER}\s*[-–]\s*{NUMBER}\s*%(?!\s*of\s+best)"):
        low, high = (_percent(reader, number(m.group(i)), m.start(i)) for i in (1, 2))
        if high <= low:
            raise reader.fail("A range of percentages goes from low to high.", at=m.start(2))
        return PercentRange(low, high)
    return None


def _one_percent(reader: Reader) -> LoadRule | None:
    m = reader.take(rf"{NUMBER}\s*(?:%|percent\b)")
    if not m:
        return None
    value = _percent(reader, number(m.group(1)), m.start(1))
    if reader.take(r"of\s+(?:the\s+)?(?:day|today)(?:'s)?(?:\s+max)?\b"):
        return TodayPercent(value)
    if reader.take(r"of\s+(?:the\s+)?best\b"):
        return BestShare(pct=value)
    start = Percent((value,))
    return _hanging(reader, start) or _rising(reader, start) or _corrected(reader, start) or start


def _corrected(reader: Reader, start: Percent) -> LoadRule | None:
    before = reader.at
    reader.skip(",")
    reader.take(r"@|corrected\s+(?:by|to)\b")
    by = _effort(reader) or _velocity(reader)
    if isinstance(by, Reserve | Rpe | VelocityTarget):
        return Corrected(start, by)
    reader.at = before
    return None


def _hanging(reader: Reader, bar: Percent | FixedLoad) -> LoadRule | None:
    m = reader.take(rf"([+\-−–])\s*{NUMBER}\s*(%|kg|lbs?)?\s*(?:of\s+)?(reverse\s+bands?|bands?|chains?)\b")
    if not m:
        return None
    kind = m.group(4).lower()
    attachment = Attachment.REVERSE if "reverse" in kind else Attachment.BANDS if "band" in kind else Attachment.CHAINS
    extra, unit = number(m.group(2)), (m.group(3) or "kg").lower()
    if unit.startswith("lb"):
        extra = kg_from_lb(extra)
    if not 0 < extra <= (100 if unit == "%" else 300):
        raise reader.fail("Bands and chains from 1 to 100 % or up to 300 kg are accepted.", at=m.start(2))
    return WithAttachment(bar, extra, unit == "%", attachment)


def _rising(reader: Reader, start: Percent | FixedLoad) -> LoadRule | None:
    if reader.take(r"rising\b"):
        return Rising(start)
    m = reader.take(rf"\+\s*{NUMBER}\s*{MASS_UNIT}(?:\s*(?:a|each|per)\s+(?:set|round)\b)?")
    if not m:
        return None
    step = _kg(m.group(1), m.group(2))
    if not 0 < step <= LARGEST_STEP_KG:
        raise reader.fail(f"Steps up to {LARGEST_STEP_KG:g} kg a set are accepted.", at=m.start(1))
    return Rising(start, step)


def _effort(reader: Reader) -> LoadRule | None:
    if m := reader.take(rf"RPE\s*{NUMBER}"):
        rpe = number(m.group(1))
        if rpe not in RIR_BY_RPE:
            raise reader.fail(f"RPE {rpe:g} is not on the scale of 5 to 10 (halves from 7).", at=m.start(1))
        return Rpe(rpe)
    found: float | None = None
    if m := reader.take(rf"(?:{NUMBER}|({'|'.join(WORDS)}))\s*(?:reps?\s+)?(?:in reserve|RIR|left)\b"):
        found = _reserve(reader, number(m.group(1)) if m.group(1) else float(WORDS[m.group(2).lower()]), m.start())
    elif m := reader.take(rf"RIR\s*{NUMBER}"):
        found = _reserve(reader, number(m.group(1)), m.start(1))
    if found is None:
        return None
    heavier = reader.take(r"(?:[,;]\s*)?(?:and\s+)?(?:beat(?:s|ing)?|heavier\s+than|more\s+than)\s+last\s+(?:week|time)\b")
    return Reserve(found, heavier is not None)


def _mass(reader: Reader) -> LoadRule | None:
    m = reader.take(rf"{NUMBER}\s*{MASS_UNIT}")
    if not m:
        return None
    kg = check_load_kg(_kg(m.group(1), m.group(2)))
    start = FixedLoad(kg, m.group(2).lower().startswith(("lb", "pound")))
    return _hanging(reader, start) or _rising(reader, start) or start


def _looking_back(reader: Reader) -> LoadRule | None:
    if m := reader.take(rf"last(?:\s+(?:load|time|week))?\s*(?:\+|plus)\s*(?:{NUMBER}\s*{MASS_UNIT}|(?:a\s+)?step\b)"):
        return LastPlus(_kg(m.group(1), m.group(2)) if m.group(1) else None)
    if reader.take(r"2[\s-]*for[\s-]*2\b"):
        return TwoForTwo()
    if m := reader.take(rf"({'|'.join(DAY_WORDS)})\b"):
        return BestShare(m.group(1).lower())
    return None


def _kg(text: str, unit: str) -> float:
    return kg_from_lb(number(text)) if unit.lower().startswith(("lb", "pound")) else number(text)


def _percent(reader: Reader, value: float, at: int) -> float:
    if not 10 <= value <= 130:
        raise reader.fail(f"{value:g} % is outside 10 to 130 % of a max.", at=at)
    return value


def _reserve(reader: Reader, value: float, at: int) -> float:
    if not 0 <= value <= 10:
        raise reader.fail("0 to 10 repetitions in reserve are accepted; beyond 4 the count is a guess.", at=at)
    return value
