"""An athlete's bests of each phase of this season, beside those of the season before."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app import clock
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.reached import sets_of
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.core.learning.new_bests import BestKind
from jarvok.core.learning.phase_bests import BEFORE, THIS, Number, Span, Top, spans_of, tops
from jarvok.core.library.exercises import exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.quantities.mass import said_mass
from jarvok.core.quantities.plates import unit_of
from jarvok.core.rules import Rules
from jarvok.core.season.model import PHASE_NAMES, PhaseKey, Rank


@dataclass(frozen=True)
class PhaseRow:
    """An exercise and what of it is compared; for each phase the best now and the season before, in words or empty."""

    exercise_id: str
    number: Number
    reached_with: str  # the load of a jump or hold in the unit of its plates, the distance of a run; else empty
    cells: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class PhaseBests:
    """The phases that were trained, in the order they came, and a row for each number."""

    phases: tuple[str, ...]
    rows: tuple[PhaseRow, ...]
    has_before: bool


def phase_bests(athlete: Athlete, rules: Rules) -> PhaseBests:
    """Return the best of each phase of the season that runs and of the one before it."""
    today = clock.today()
    sessions = TrainingSession.objects.filter(athlete=athlete, day__lte=today, phase__in=list(PhaseKey))
    done = dict(sessions.order_by("day", "pk").values_list("day", "phase"))
    if not done:
        return PhaseBests((), (), has_before=False)
    entries = SeasonBook([athlete], today, rules).competitions(athlete.pk)
    main_days = [e.day for e in entries if e.rank == Rank.MAIN and e.day < today]
    found = sets_of([athlete.pk], min(done), today)
    spans = spans_of(done, {s.day for sets in found.values() for s in sets}, main_days)
    order = list(dict.fromkeys(span.phase for _, span in sorted(spans.items())))
    rows: list[PhaseRow] = []
    known = exercises()
    for (_, lift), sets in found.items():
        if lift not in known:
            continue
        unit = unit_of(implement_for(known[lift], kit_of(athlete.kit)))
        for number, by_span in tops(sets, spans).items():
            if any(span.season == THIS for span in by_span):
                cells = tuple(_cell(by_span, phase, number, unit) for phase in order)
                rows.append(PhaseRow(lift, number, _reached_with(number, unit), cells))
    places = {lift: n for n, lift in enumerate(known)}
    rows.sort(key=lambda r: (-sum(1 for now, _ in r.cells if now), places[r.exercise_id], r.number))
    has_before = any(before for r in rows for _, before in r.cells)
    return PhaseBests(tuple(PHASE_NAMES[PhaseKey(p)] for p in order), tuple(rows), has_before)


def _reached_with(number: Number, unit: str) -> str:
    if not number.at:
        return ""
    return f"{number.at:g} m" if number.kind is BestKind.RUN else said_mass(number.at, unit)


def _cell(by_span: dict[Span, Top], phase: str, number: Number, unit: str) -> tuple[str, str]:
    now, before = (by_span.get(Span(season, phase)) for season in (THIS, BEFORE))
    return (now.words(number.kind, unit) if now else "", before.words(number.kind, unit) if before else "")
