"""Planned against done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.quantities.sentence import counted
from jarvok.core.session.forms import SIDES


@dataclass(frozen=True)
class SetComparison:
    """One work set: planned and done repetitions and loads in kg, None where there was none; `result` in words, if it has one.

    Planned repetitions are None for a set more than was planned; `passed_over` says that somebody passed it over.
    `form` is "easier" or "harder" where it was done in another form than written; `trouble` says in words what went wrong in it,
    `number` which set it is.
    """

    planned_reps: int | None
    planned_load_kg: float | None
    done_reps: int | None
    done_load_kg: float | None
    result: str = ""
    form: str = ""
    trouble: str = ""
    number: int = 0
    passed_over: bool = False


@dataclass(frozen=True)
class LineReview:
    """Planned against done of one line. Volume loads in kg; `words` says the difference plainly."""

    planned_sets: int
    done_sets: int
    planned_volume_kg: float
    done_volume_kg: float
    words: str


def review_line(sets: Sequence[SetComparison]) -> LineReview:
    """Compare one line's sets with the plan."""
    planned = [s for s in sets if s.planned_reps is not None]
    done = [s for s in sets if s.done_reps is not None]
    planned_kg = sum((s.planned_load_kg or 0) * (s.planned_reps or 0) for s in planned)
    done_kg = sum((s.done_load_kg or 0) * (s.done_reps or 0) for s in done)
    words = _words(planned, done, planned_kg, done_kg)
    passed = sum(1 for s in sets if s.passed_over)
    if passed:
        words += f", {passed} passed over"
    return LineReview(len(planned), len(done), planned_kg, done_kg, words)


def _words(planned: Sequence[SetComparison], done: Sequence[SetComparison], planned_kg: float, done_kg: float) -> str:
    if not done:
        return "not done"
    results = [s.result for s in done if s.result]
    if results:  # rounds, a time, a height: what is planned is no measure of them
        return "; ".join(results)
    parts: list[str] = []
    if not planned:
        return f"{len(done)} {'set' if len(done) == 1 else 'sets'}, not in the plan"
    if len(done) > len(planned):
        parts.append(f"{counted(len(done), 'set')}, {len(planned)} planned")
    elif len(done) != len(planned):
        parts.append(f"{len(done)} of {counted(len(planned), 'set')}")
    short = sum(max(0, (s.planned_reps or 0) - (s.done_reps or 0)) for s in done if s.planned_reps is not None)
    if short:
        parts.append(f"{short} {'rep' if short == 1 else 'reps'} short")
    if planned_kg and len(done) == len(planned) and not short:
        change = 100 * (done_kg - planned_kg) / planned_kg
        if abs(change) >= 0.5:
            parts.append(f"{abs(change):.0f} % {'heavier' if change > 0 else 'lighter'}")
    for form in SIDES:
        count = sum(1 for s in done if s.form == form)
        if count:
            parts.append(f"{count} {'set' if count == 1 else 'sets'} in the {form} form")
    parts += [f"{s.trouble} in set {s.number}" for s in done if s.trouble]
    return ", ".join(parts) or "as planned"


def training_load_au(srpe: float, minutes: float) -> float:
    """Return session RPE (0-10) times minutes in arbitrary units. Foster et al. 2001, quoted from memory."""
    return srpe * minutes
