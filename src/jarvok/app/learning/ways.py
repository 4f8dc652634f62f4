"""What athletes did one way and another: tapers of several lengths before results, variations beside their lifts."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from itertools import pairwise
from statistics import fmean
from typing import NamedTuple

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.lift_facts import EVIDENCE_DAYS
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.seasons.models import Entry, EntryResult
from jarvok.app.facts.training.models import ToldWeek
from jarvok.core.exercises import Exercise
from jarvok.core.learning.findings import Noticed
from jarvok.core.learning.ways_noticed import EACH_WAY, FourWeeks, TaperResult, taper_that_suits, variation_that_moved
from jarvok.core.library.exercises import exercises
from jarvok.core.rules import Rules
from jarvok.core.season.model import Rank, TaperWindow

WINDOW = timedelta(days=28)
WINDOWS = EVIDENCE_DAYS // WINDOW.days


class _Tapered(NamedTuple):
    entry: Entry
    first: date  # of the taper
    days: int
    lifted_kg: dict[str, float]


def tapers_noticed(people: Sequence[Athlete], today: date, rules: Rules) -> dict[int, Noticed]:
    """Return what the lengths of tapers showed, of athletes with enough results; of most nothing more than those is read."""
    found: dict[int, Noticed] = {}
    by_id = {a.pk: a for a in people}
    for athlete_id, rows in _tapered(list(by_id), today).items():
        if len(rows) < 2 * EACH_WAY:
            continue
        oldest = min(row.first for row in rows)
        book = LiftBook([by_id[athlete_id]], today, rules=rules, history_days=EVIDENCE_DAYS + (today - oldest).days)
        results = [r for row in rows if (r := _beside_before(book, athlete_id, row)) is not None]
        noticed = taper_that_suits(results, today)
        if noticed is not None:
            found[athlete_id] = noticed
    return found


def _tapered(ids: Sequence[int], today: date) -> dict[int, list[_Tapered]]:
    """Main competitions whose loads are written and whose taper was told, athlete by athlete."""
    rows = EntryResult.objects.filter(entry__athlete_id__in=ids, entry__withdrawn_at__isnull=True)
    newest = {r.entry_id: r for r in rows.select_related("entry__competition").order_by("pk")}
    counted = Counter(r.entry.athlete_id for r in newest.values())
    held = [r for r in newest.values() if counted[r.entry.athlete_id] >= 2 * EACH_WAY and _is_main(r.entry, today)]
    marks = MarkRecord.objects.in_bulk({m for r in held for m in r.marks if m is not None})
    told = ToldWeek.objects.filter(athlete_id__in={r.entry.athlete_id for r in held}) if held else ()
    windows: dict[tuple[int, date], TaperWindow] = {}
    for week in told:
        if week.dose.get("taper"):
            kept = TaperWindow.from_raw(week.dose["taper"])
            windows[week.athlete_id, kept.day] = kept
    found: dict[int, list[_Tapered]] = defaultdict(list)
    for result in held:
        window = windows.get((result.entry.athlete_id, result.entry.day))
        lifted = {
            mark.exercise_id: mark.load_kg
            for pk in result.marks
            if pk in marks and (mark := marks[pk]).withdrawn_at is None and mark.load_kg
        }
        if window is not None and lifted:
            found[result.entry.athlete_id].append(_Tapered(result.entry, window.first, window.style.days, lifted))
    return found


def _is_main(entry: Entry, today: date) -> bool:
    return entry.rank == Rank.MAIN and entry.day <= today


def _beside_before(book: LiftBook, athlete_id: int, row: _Tapered) -> TaperResult | None:
    """The lifts of a competition beside the maxes of the day before its taper."""
    eve, over = row.first - timedelta(days=1), []
    for lift, load_kg in row.lifted_kg.items():
        known = book.trend(athlete_id, lift, [eve])
        if known and known[0].day == eve:
            over.append(100 * (load_kg / known[0].value_kg - 1))
    return TaperResult(row.entry.day, row.entry.name, row.days, fmean(over), f"entry:{row.entry.pk}") if over else None


def variations_noticed(athlete: Athlete, book: LiftBook) -> list[Noticed]:
    """Return the variations that have moved their lifts, from the months that the book reads."""
    found = []
    for lift in book.lifts_of(athlete.pk):
        days = {v.id: [s.day for s in book.history(athlete.pk, v.id)] for v in _variations().get(lift.id, ())}
        trained = {v: rows for v, rows in days.items() if rows}
        if trained:
            windows = _windows(athlete, lift, trained, book)
            names = {v: exercises()[v].name for v in trained}
            noticed = variation_that_moved(lift.name, names, windows) if windows else None
            found += [noticed] if noticed is not None else []
    return found


def _variations() -> dict[str, list[Exercise]]:
    """What varies a lift and is not the lift itself done otherwise, by the lift."""
    found: dict[str, list[Exercise]] = defaultdict(list)
    for e in exercises().values():
        of = e.variation_of or (e.max_from[0] if e.max_from is not None else "")
        if of and e.same_lift == e.id:
            found[of].append(e)
    return found


def _windows(athlete: Athlete, lift: Exercise, trained: Mapping[str, Sequence[date]], book: LiftBook) -> list[FourWeeks]:
    """Four weeks at a time back from the book's day, those in which the lift itself showed something."""
    edges = [book.day - n * WINDOW for n in range(WINDOWS, -1, -1)]
    seen = [m.day for m in book.evidence(athlete.pk, lift.id)]
    known = {p.day: p.value_kg for p in book.trend(athlete.pk, lift.id, edges)}
    return [
        FourWeeks(
            last,
            100 * (known[last] / known[before] - 1),
            {v: sum(1 for d in rows if before < d <= last) for v, rows in trained.items()},
        )
        for before, last in pairwise(edges)
        if before in known and last in known and any(before < d <= last for d in seen)
    ]
