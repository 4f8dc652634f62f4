"""Results of a test day of a squad are kept together: each that can be, the others said one by one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_mark
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad
from jarvok.app.problems import NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.interchange.results import read_result
from jarvok.core.quantities.days import said_day


@dataclass(frozen=True)
class Entry:
    """A cell of the day: whose, of which lift, as typed."""

    athlete_id: int
    exercise_id: str
    text: str
    confirm: bool = False


@dataclass(frozen=True)
class Outcome:
    """What became of a cell: the mark it wrote, or the problem in words; `asks` that it is kept once it is sent again."""

    entry: Entry
    mark: MarkRecord | None = None
    problem: str = ""
    asks: bool = False


def run(who: Who, squad: Squad, day: date, unit: str, entries: Sequence[Entry]) -> tuple[Outcome, ...]:
    """Keep the results of a day; a cell that is empty is passed over."""
    people = {a.pk: a for a in Athlete.here.filter(squad=squad)}
    found: list[Outcome] = []
    with acting(who, "keep_results", f"test day of {said_day(day, year=True)}", squad=squad, also=list(people.values())):
        for entry in entries:
            athlete = people.get(entry.athlete_id)
            if athlete is None:
                found.append(Outcome(entry, problem="Not of this squad."))
                continue
            outcome = _keep(who, athlete, day, unit, entry)
            found += [outcome] if outcome is not None else []
    return tuple(found)


def _keep(who: Who, athlete: Athlete, day: date, unit: str, entry: Entry) -> Outcome | None:
    try:
        typed = read_result(entry.text, unit)
        if typed is None:
            return None
        mark = add_mark.run(
            who,
            athlete,
            TypedMark(
                entry.exercise_id, typed.kind, day, load_kg=typed.load_kg, reps=typed.reps, unit=typed.unit, note="test day",
                confirm=entry.confirm,
            ),
        )  # fmt: skip
    except NeedsConfirmation as problem:
        return Outcome(entry, problem=f"{problem.message} {problem.accepted}".strip(), asks=True)
    except CoachError as problem:
        return Outcome(entry, problem=f"{problem.message} {problem.accepted}".strip())
    return Outcome(entry, mark)
