"""Recorded bar positions and tables of repetition velocities from any device, as CSV.

Limits of what a file may hold are technical [T].
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from itertools import pairwise
from statistics import median

from jarvok.core.errors import CoachError
from jarvok.core.interchange.bounds import rows_of

MOST_ROWS = 200_000
MOST_TEXT = 20_000_000
TRACE_ACCEPTED = "Two columns: time in seconds and height in metres, at least 20 rows, 20 to 1000 samples a second."

# fields of a repetition: what it is called, the words that a device may use for it, whether it is needed
FIELDS: dict[str, tuple[str, tuple[str, ...], bool]] = {
    "mean_mps": ("mean velocity", ("mean velocity", "avg velocity", "average velocity", "mean vel", "mcv", "v mean"), True),
    "load_kg": ("load", ("load", "weight", "mass", "kg"), True),
    "peak_mps": ("peak velocity", ("peak velocity", "max velocity", "peak vel", "v max"), False),
    "range_m": ("range of motion", ("range", "rom", "displacement", "distance"), False),
    "set": ("set", ("set", "series"), False),
    "rep": ("repetition", ("rep", "repetition", "no"), False),
    "day": ("day", ("date", "day", "time"), False),
}
UNITS: dict[str, dict[str, float]] = {
    "mean_mps": {"m/s": 1.0, "cm/s": 0.01, "ft/s": 0.3048},
    "peak_mps": {"m/s": 1.0, "cm/s": 0.01, "ft/s": 0.3048},
    "range_m": {"m": 1.0, "cm": 0.01, "mm": 0.001, "in": 0.0254},
    "load_kg": {"kg": 1.0, "lb": 0.45359237},
}
LIMITS = {"mean_mps": (0.03, 6.0), "peak_mps": (0.03, 9.0), "range_m": (0.02, 2.5), "load_kg": (0.5, 600.0)}


@dataclass(frozen=True)
class RecordedTrace:
    """A recorded bar: samples `(time_s, position_m)`, the rate in Hz, and a sentence for each row left out."""

    samples: tuple[tuple[float, float], ...]
    rate_hz: float
    problems: tuple[str, ...]


def _rows(text: str) -> list[list[str]]:
    if len(text) > MOST_TEXT:
        raise CoachError("The file is larger than 20 MB.", where="file", accepted="Split it into several.")
    first = next((line for line in text.splitlines() if line.strip()), "")
    delimiter = next((d for d in "\t;" if d in first), ",")  # a comma may be a decimal sign where another one separates
    return [r for r in rows_of(text.lstrip("\ufeff"), delimiter, MOST_ROWS) if any(c.strip() for c in r)]


def _number(text: str) -> float:
    value = float(text.strip().replace(",", "."))
    if not math.isfinite(value):
        raise ValueError(text)
    return value


def read_trace(text: str) -> RecordedTrace:
    """Read a recorded bar position: time in s and height in m, with or without a line of names.

    Raises `CoachError` when it holds too little or the times do not run forwards.
    """
    samples: list[tuple[float, float]] = []
    problems: list[str] = []
    for number, row in enumerate(_rows(text), start=1):
        try:
            t, x = _number(row[0]), _number(row[1])
            if abs(x) > 5:
                raise ValueError("height")
        except (ValueError, IndexError):
            if number > 1:
                problems.append(f"row {number}: no time in s and height in m within ±5")
            continue
        samples.append((t, x))
    if len(samples) < 20:
        raise CoachError(f"{len(samples)} samples could be read.", where="file", accepted=TRACE_ACCEPTED)
    steps = [b[0] - a[0] for a, b in pairwise(samples) if b[0] > a[0]]
    rate = 1 / median(steps) if steps else 0.0
    if not 20 <= rate <= 1000:
        raise CoachError(f"The samples come {rate:.1f} times a second.", where="file", accepted=TRACE_ACCEPTED)
    return RecordedTrace(tuple(samples), round(rate, 1), tuple(problems[:20]))


@dataclass(frozen=True)
class RecordedRep:
    """One repetition from a device's table; None where the table does not say."""

    load_kg: float
    mean_mps: float
    peak_mps: float | None
    range_m: float | None
    set_number: int | None
    number: int | None
    day: date | None


@dataclass(frozen=True)
class RepTable:
    """What a device's table holds: its columns, a first guess at what they mean, the repetitions, the rows left out."""

    columns: tuple[str, ...]
    guess: dict[str, str]
    reps: tuple[RecordedRep, ...]
    problems: tuple[str, ...]
    missing: tuple[str, ...]


def guess_columns(columns: Sequence[str]) -> dict[str, str]:
    """Return field → column by the words in the names; a field that nothing fits is left out."""
    found: dict[str, str] = {}
    for field, (_, words, _) in FIELDS.items():
        for column in columns:
            name = " ".join(column.lower().replace("_", " ").replace("(", " ").replace(")", " ").replace("[", " ").split())
            if column not in found.values() and any(name.startswith(w) or f" {w}" in f" {name}" for w in words):
                found[field] = column
                break
    return found


def guess_unit(field: str, column: str) -> str:
    """Return the unit that a column's name says, else the usual one."""
    known = UNITS.get(field)
    if known is None:
        return ""
    bare = column.lower().replace(" ", "")
    named = (u for u in sorted(known, key=len, reverse=True) if bare.endswith((u, f"({u})", f"[{u}]", f"_{u}")))
    return next(named, next(iter(known)))


def read_reps(text: str, mapping: Mapping[str, str] | None = None, units: Mapping[str, str] | None = None) -> RepTable:
    """Read repetitions from a table with a line of names. `mapping` is field → column, `units` field → unit.

    Without a mapping the names are guessed. Raises `CoachError` for an empty table or a mapping to no column.
    """
    rows = _rows(text)
    if len(rows) < 2:
        raise CoachError("The table has no rows.", where="file", accepted="A line of column names and one row a repetition.")
    columns = tuple(c.strip() for c in rows[0])
    mapped = dict(mapping) if mapping else guess_columns(columns)
    for field, column in mapped.items():
        if field not in FIELDS or column not in columns:
            raise CoachError(f"There is no column “{column}”.", where="mapping", accepted=", ".join(columns) + ".")
    missing = tuple(name for f, (name, _, needed) in FIELDS.items() if needed and f not in mapped)
    reps: list[RecordedRep] = []
    problems: list[str] = []
    if not missing:
        at = {f: columns.index(c) for f, c in mapped.items()}
        used = {f: (units or {}).get(f) or guess_unit(f, mapped[f]) for f in mapped}
        for number, row in enumerate(rows[1:MOST_ROWS], start=2):
            try:
                reps.append(_rep(row, at, used))
            except (ValueError, IndexError) as error:
                problems.append(f"row {number}: {error}")
    return RepTable(columns, mapped, tuple(reps), tuple(problems[:20]), missing)


def _rep(row: Sequence[str], at: Mapping[str, int], units: Mapping[str, str]) -> RecordedRep:
    def value(field: str) -> float | None:
        if field not in at or not row[at[field]].strip():
            return None
        unit = UNITS[field].get(units.get(field, ""))
        if unit is None:
            raise ValueError(f"“{units.get(field)}” is no unit of {FIELDS[field][0]}")
        found = _number(row[at[field]]) * unit
        low, high = LIMITS[field]
        if not low <= found <= high:
            raise ValueError(f"{FIELDS[field][0]} {found:g} cannot be")
        return round(found, 4)

    def count(field: str) -> int | None:
        return int(_number(row[at[field]])) if field in at and row[at[field]].strip() else None

    load, mean = value("load_kg"), value("mean_mps")
    if load is None or mean is None:
        raise ValueError("load or mean velocity is empty")
    return RecordedRep(load, mean, value("peak_mps"), value("range_m"), count("set"), count("rep"), _day(row, at))


DAY_FORMS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y", "%Y/%m/%d")


def _day(row: Sequence[str], at: Mapping[str, int]) -> date | None:
    if "day" not in at or not row[at["day"]].strip():
        return None
    text = row[at["day"]].strip()[:10]
    for form in DAY_FORMS:
        try:
            return datetime.strptime(text, form).date()
        except ValueError:
            continue
    raise ValueError(f"“{text}” is no day; 2026-11-24 and 24.11.2026 are read")
