"""What the columns of a table of athletes are: read from their headings, or said by hand."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.interchange.lift_columns import lift_column

# column -> headings that mean it, lower case without signs
HEADINGS: dict[str, tuple[str, ...]] = {
    "name": ("name", "athlete", "full name", "lifter", "player", "wrestler"),
    "squad": ("squad", "team"),
    "sport": ("sport",),
    "group": ("group",),
    "position": ("position", "position group"),
    "birth_date": ("birth date", "born", "date of birth", "dob", "birthday"),
    "sex": ("sex", "gender"),
    "training_age_years": ("training age", "training years", "training age years", "years of lifting", "years"),
    "mass_kg": ("mass", "mass kg", "body mass", "body mass kg", "body weight", "bodyweight", "bw", "weight", "weight kg"),
    "mass_lb": ("mass lb", "body mass lb", "weight lb", "body weight lb", "bodyweight lb"),
    "body_mass_class": ("class", "body mass class", "weight class", "category"),
    "sessions_a_week": ("sessions a week", "sessions per week", "sessions"),
    "minutes_a_session": ("minutes a session", "minutes per session", "minutes"),
    "note": ("note", "notes"),
    "restriction": ("restriction", "restrictions", "injury", "injuries", "not allowed"),
    "tested_on": ("tested", "tested on", "test day", "day of the test", "day of the results", "day", "date"),
    "lift": ("lift", "exercise", "exercise id"),
    "result": ("result",),
    "load_kg": ("load", "load kg", "kg"),
    "load_lb": ("load lb", "lb", "lbs", "pounds"),
    "reps": ("reps", "repetitions"),
    "kind": ("kind",),
}
OF_A_UNIT = {"mass_kg": "mass", "load_kg": "load"}  # columns that may be meant in pounds where they do not say
LONG = ("lift", "result", "load_kg", "load_lb", "reps", "kind")  # of a row that is a result of a lift
NOT_EXPORTED = ("mass_lb", "tested_on", "restriction", *LONG)
WORDS = {
    "mass_kg": "body mass, kg", "mass_lb": "body mass, lb", "training_age_years": "years of lifting", "birth_date": "born",
    "tested_on": "day of the results", "lift": "the lift of the row", "result": "result of the row", "load_kg": "load, kg",
    "load_lb": "load, lb", "body_mass_class": "body mass class",
}  # fmt: skip
RESULT = "result:"  # [T] begins the key of a column that holds results of one lift
RESULT_PARTS = 3  # [T]


class Column(NamedTuple):
    """A column: where it stands, its heading, a cell of it, and what it is taken for; no key leaves it out.

    A key is one of `HEADINGS`, or `result:<lift>:<kg or lb>`.
    """

    place: int
    heading: str
    sample: str
    key: str

    @property
    def is_result(self) -> bool:
        """Whether its cells are results of one lift."""
        return self.key.startswith(RESULT)

    @property
    def exercise_id(self) -> str:
        """The lift of a column of results."""
        return self.key.split(":")[1]

    @property
    def unit(self) -> str:
        """The unit of its results, where a cell names none."""
        return self.key.split(":")[2]


def read_columns(
    headings: Sequence[Any], first: Sequence[Any], lifts: Sequence[Exercise], mapping: Mapping[int, str], unit: str = "kg"
) -> tuple[Column, ...]:
    """Return what each column is, by `mapping` where it says so, else by its heading; one that names no unit is in `unit`.

    Raises `CoachError` for a key that is none, and for one thing in two columns.
    """
    known = {x.id for x in lifts}
    found: list[Column] = []
    for i, heading in enumerate(headings):
        words = str(heading if heading is not None else "").strip()
        key = mapping[i] if i in mapping else guess(words, lifts, unit)
        if key and key not in HEADINGS and not _is_result_of(key, known):
            raise CoachError(f"“{key}” is nothing a column can hold.", where="mapping", accepted="Choose from the list.")
        sample = str(first[i]) if i < len(first) and first[i] is not None else ""
        found.append(Column(i, words, sample, key))
    taken = [c.key for c in found if c.key and (c.place in mapping or not mapping)]
    twice = next((k for k in taken if taken.count(k) > 1 and k != "lift"), None)
    if twice is not None and mapping:
        raise CoachError(f"Two columns are “{words_of(twice, lifts)}”.", where="mapping", accepted="One column each.")
    return tuple(found)


def guess(heading: str, lifts: Sequence[Exercise], unit: str = "kg") -> str:
    """Return what a heading means, nothing where that is not known; masses that name no unit are in `unit`."""
    plain = re.sub(r"[^a-z ]", " ", heading.lower().replace("_", " "))
    plain = re.sub(r"\s+", " ", plain).strip()
    column = next((c for c, names in HEADINGS.items() if plain in names), None)
    if column in OF_A_UNIT and "kg" not in plain.split():
        return f"{OF_A_UNIT[column]}_{unit}"
    if column is not None:
        return column
    lift = lift_column(heading, lifts)
    return f"{RESULT}{lift.exercise_id}:{lift.unit or unit}" if lift else ""


def _is_result_of(key: str, known: set[str]) -> bool:
    parts = key.split(":")
    return len(parts) == RESULT_PARTS and parts[0] == RESULT[:-1] and parts[1] in known and parts[2] in ("kg", "lb")


def words_of(key: str, lifts: Sequence[Exercise]) -> str:
    """Return what a column holds, in words."""
    if key.startswith(RESULT):
        _, lift, unit = key.split(":")
        name = next((x.name for x in lifts if x.id == lift), lift)
        return f"{name}, {unit}"
    return WORDS.get(key, key.replace("_", " "))
