"""Reports from what was planned, done and learned: an athlete's for one reader, a squad's of some weeks."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property

from jarvok.app import clock
from jarvok.app.athletes.findings import findings_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import restrictions_of
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import PainReport
from jarvok.app.floor.bests import bests_since, of_sets
from jarvok.app.floor.pains import as_told
from jarvok.app.floor.reached import Of
from jarvok.app.learning.progress import LiftProgress, progress_of, with_error
from jarvok.app.learning.weeks import PLAN_AS_WRITTEN, SessionDone, WeekDone, plan_done_pct, weeks_of
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.core.learning.findings import Kind
from jarvok.core.learning.new_bests import Best
from jarvok.core.learning.reports import (
    PARTS,
    READER_NAMES,
    Chart,
    Part,
    Point,
    Reader,
    Report,
    Section,
    Series,
    change_words,
    out_of,
    reason_for,
    thinned,
    trend_words,
)
from jarvok.core.learning.training_load import CAUTION, USUAL_WEEKS, beside_usual, week_load
from jarvok.core.learning.work import summed
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import in_kg
from jarvok.core.quantities.plates import unit_of
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import Rules
from jarvok.core.season.model import monday_of

MOST_BESTS, MOST_LIFTS, TREND_DAYS = 12, 4, 7  # [T] what fits two sheets; a point a week
FOR_READING = (Kind.CUE, Kind.SETUP, Kind.REST, Kind.VELOCITY)  # what an athlete can use


@dataclass
class _Athlete:
    """What a report of an athlete is written from, read where a part asks for it."""

    athlete: Athlete
    reader: Reader
    first: date
    last: date
    rules: Rules

    @cached_property
    def all_weeks(self) -> list[WeekDone]:
        """The weeks shown and those before that say what is usual."""
        begins = min(self.first, monday_of(self.last) - timedelta(weeks=USUAL_WEEKS))
        return weeks_of([self.athlete], begins, self.last, self.rules, planned_from=self.first)[self.athlete.pk]

    @property
    def weeks(self) -> list[WeekDone]:
        """The weeks shown."""
        return [w for w in self.all_weeks if w.monday >= self.first]

    @property
    def sessions(self) -> list[SessionDone]:
        """The sessions of the weeks shown."""
        return [s for w in self.weeks for s in w.sessions]

    def unit(self, exercise_id: str) -> str:
        """What stands on the plates of a lift."""
        return unit_of(implement_for(exercise(exercise_id), kit_of(self.athlete.kit)))


def athlete_report(athlete: Athlete, reader: Reader, weeks: int, rules: Rules) -> Report:
    """Return the report of an athlete's last weeks as one reader may see it."""
    today = clock.today()
    first = monday_of(today) - timedelta(weeks=weeks - 1)
    of = _Athlete(athlete, reader, first, today, rules)
    sections = tuple(s for part in PARTS[reader] if (s := _PARTS[part](of)) is not None)
    return Report(athlete.name, f"{athlete.squad.name} · {READER_NAMES[reader]}", first, today, sections)


def _ahead(of: _Athlete) -> Section | None:
    today = of.last
    book = SeasonBook([of.athlete], today, of.rules)
    goal = book.goal(of.athlete.pk)
    if goal is None:
        return Section(Part.AHEAD, "What lies ahead", ("No competition is entered.",))
    days = (goal.day - today).days
    return Section(
        Part.AHEAD, "What lies ahead", (f"{goal.name}, {said_day(goal.day, year=True, is_long=True)}: {counted(days, 'day')}.",)
    )


def _available(of: _Athlete) -> Section | None:
    due = [s for s in of.sessions if s.planned.main_sets > 0 and (not s.is_ahead or s.session_id is not None)]
    if not due:
        return Section(Part.AVAILABLE, "Sessions", ("Nothing was planned in these weeks.",))
    missed, easier = [s for s in due if s.is_missed], [s for s in due if s.plan != PLAN_AS_WRITTEN]
    reasons = Counter(reason_for(of.reader, s.reason) for s in missed)
    said = [
        f"{len(due) - len(missed)} of {counted(len(due), 'session')} done"
        f"{f', {len(easier)} of them made easier' if easier else ''}."
    ]
    if reasons:
        said.append("Missed: " + ", ".join(f"{n} × {w}" for w, n in reasons.most_common()) + ".")
    rows = tuple((said_day(s.day), s.theme, reason_for(of.reader, s.reason)) for s in missed)
    return Section(Part.AVAILABLE, "Sessions", tuple(said), ("Day", "Missed", "Why") if rows else (), rows)


def _off(of: _Athlete) -> Section | None:
    """What is not trained today, without why: that is for health staff and the athlete to say."""
    rows = tuple((r.tag.replace("_", " "), r.side, _until(r.until)) for r in restrictions_of(of.athlete, of.last))
    words = () if rows else ("Nothing is restricted.",)
    return Section(Part.OFF, "Not trained at present", words, ("What", "Side", "Until") if rows else (), rows)


def _restrictions(of: _Athlete) -> Section | None:
    found = [r for r in of.athlete.restrictions.all() if r.until is None or r.until >= of.first]
    rows = tuple((r.words, r.side, said_day(r.since, year=True), _until(r.until), r.set_by) for r in found)
    words = () if rows else ("None in these weeks.",)
    return Section(Part.RESTRICTIONS, "Restrictions", words, ("What", "Side", "Since", "Until", "Set by") if rows else (), rows)


def _until(day: date | None) -> str:
    return said_day(day, year=True) if day is not None else "cleared"


def _pains(of: _Athlete) -> Section | None:
    found = PainReport.objects.filter(
        session__athlete=of.athlete, session__day__range=(of.first, of.last), record__taken_back_at__isnull=True
    ).select_related("session", "record__line")
    rows = tuple(
        (as_told(r).words, r.carried_on or "stopped there", r.get_answer_display() if r.answer else "waits for a word")
        for r in found
    )
    words = () if rows else ("None was told in these weeks.",)
    return Section(Part.PAINS, "Pain told on the floor", words, ("Told", "Carried on", "Answered") if rows else (), rows)


def _done(of: _Athlete) -> Section | None:
    rows: list[tuple[str, ...]] = []
    for w in of.weeks:
        done, due = w.done, w.due
        minutes = sum(s.minutes or 0 for s in w.sessions)
        rows.append(
            (
                said_day(w.monday), w.phase, out_of(done.main_sets, due.main_sets), f"{minutes:.0f}",
                f"{done.contacts}", f"{done.sprint_m:.0f}",
            )
        )  # fmt: skip
    bars = _bars("Main sets a week", [(w.monday, w.due.main_sets, w.done.main_sets) for w in of.weeks])
    columns = ("Week of", "Phase", "Main sets", "Minutes", "Foot contacts", "Sprint, m")
    return Section(Part.DONE, "Planned and done", (_kept_words(of.sessions),), columns, tuple(rows), (bars,))


def _kept_words(sessions: Sequence[SessionDone]) -> str:
    pct = plan_done_pct(sessions)
    return f"{pct:.0f} % of what was planned is done." if pct is not None else "Nothing was planned in these weeks."


def _bars(title: str, weeks: Sequence[tuple[date, int, int]]) -> Chart:
    """Planned and done week by week; nothing is drawn as planned where nothing was."""
    planned, done = sum(p for _, p, _ in weeks), sum(d for _, _, d in weeks)
    series = [Series("planned", tuple(Point(m, p) for m, p, _ in weeks), is_bars=True)] if planned else []
    series.append(Series("done", tuple(Point(m, d) for m, _, d in weeks), is_bars=True))
    return Chart(title, "sets", tuple(series), f"{out_of(done, planned)} main sets in {counted(len(weeks), 'week')}.")


def _load(of: _Athlete) -> Section | None:
    sums = [(w.monday, sum(w.days_au)) for w in of.weeks]
    if not any(x for _, x in sums):
        return Section(Part.LOAD, "Training load", ("No session with effort and minutes in these weeks.",))
    whole = [w for w in of.all_weeks if w.monday + timedelta(days=6) < of.last]
    said = []
    if whole and any(whole[-1].days_au):
        load = week_load(whole[-1].days_au)
        figures = f", monotony {load.monotony:.1f}, strain {load.strain_au:,.0f}" if load.monotony and load.strain_au else ""
        said.append(f"Last whole week {load.load_au:,.0f} AU{figures}.")
        before = [sum(w.days_au) for w in whole[:-1]]
        begun = next((i for i, x in enumerate(before) if x > 0), len(before))
        usual = beside_usual(load.load_au, before[begun:])
        said += [f"That is {usual.words}."] if usual is not None else []
    chart = Chart(
        "Session RPE × minutes, a week", "AU", (Series("load", tuple(Point(m, round(x)) for m, x in sums), is_bars=True),),
        f"{min(x for _, x in sums):,.0f} to {max(x for _, x in sums):,.0f} AU a week.",
    )  # fmt: skip
    return Section(Part.LOAD, "Training load", (*said, CAUTION), charts=(chart,))


def _maxes(of: _Athlete) -> Section | None:
    moved = progress_of(of.athlete, of.first, of.rules)
    if not moved:
        return None
    rows: list[tuple[str, ...]] = []
    for m in moved:
        ends = (with_error(x, m.unit) for x in (m.then, m.now))
        change = change_words(m.change.change / in_kg(1.0, m.unit), m.unit)
        rows.append((exercise(m.exercise_id).name, *ends, change, m.change.words))
    largest = sorted(moved, key=lambda m: m.change.change / m.then.value_kg, reverse=True)[:MOST_LIFTS]
    book = LiftBook([of.athlete], of.last, rules=of.rules)
    charts = tuple(_trend(of, m, book) for m in largest)
    columns = ("Lift", said_day(of.first), said_day(of.last), "Change", "Beside its error")
    return Section(Part.MAXES, "e1RM", (), columns, tuple(rows), charts)


def _trend(of: _Athlete, m: LiftProgress, book: LiftBook) -> Chart:
    """A lift's max week by week, in the unit of its plates, with one standard error to either side."""
    days = [of.first + timedelta(days=i) for i in range(0, (of.last - of.first).days, TREND_DAYS)]
    one = in_kg(1.0, m.unit)
    points = [
        Point(
            t.day,
            round(t.value_kg / one, 1),
            round((t.value_kg - t.error_kg) / one, 1),
            round((t.value_kg + t.error_kg) / one, 1),
        )
        for t in book.trend(of.athlete.pk, m.exercise_id, [*days, of.last])
    ]
    name = exercise(m.exercise_id).name
    shown = thinned(points)
    return Chart(name, m.unit, (Series(name, shown),), trend_words(name, shown, m.unit, m.change.words))


def _bests(of: _Athlete) -> Section | None:
    known = exercises()
    found = [(lift, b) for (_, lift), b in of_sets(bests_since([of.athlete.pk], of.first, of.last)) if lift in known]
    if not found:
        return Section(Part.BESTS, "New bests", ("None in these weeks.",))
    rows = tuple((said_day(b.day), known[lift].name, b.words(of.unit(lift))) for lift, b in found[:MOST_BESTS])
    more = (f"The newest {MOST_BESTS} of {len(found)}.",) if len(found) > MOST_BESTS else ()
    return Section(Part.BESTS, "New bests", more, ("Day", "Exercise", "Best"), rows)


def _cues(of: _Athlete) -> Section | None:
    acting = [s.finding for s in findings_of([of.athlete]) if s.acts and s.finding.kind in FOR_READING]
    known = exercises()
    rows = tuple((known[f.exercise_id].name if f.exercise_id in known else "", f.sentence) for f in acting)
    return Section(Part.CUES, "What we learned", (), ("Exercise", "What"), rows) if rows else None


_PARTS: dict[Part, Callable[[_Athlete], Section | None]] = {
    Part.AHEAD: _ahead,
    Part.AVAILABLE: _available,
    Part.OFF: _off,
    Part.RESTRICTIONS: _restrictions,
    Part.PAINS: _pains,
    Part.DONE: _done,
    Part.LOAD: _load,
    Part.MAXES: _maxes,
    Part.BESTS: _bests,
    Part.CUES: _cues,
}


def squad_report(name: str, people: Sequence[Athlete], weeks: int, rules: Rules, of: str = "squad") -> Report:
    """Return the report of the last weeks of a squad, or a group: who did how much, sums by week, why sessions were missed."""
    today = clock.today()
    first = monday_of(today) - timedelta(weeks=weeks - 1)
    found = weeks_of(people, first, today, rules)
    bests = bests_since([a.pk for a in people], first, today)
    counts = Counter(who for (who, _), rows in bests.items() for _ in rows)
    rows = tuple(_squad_row(a, found[a.pk], counts[a.pk]) for a in people)
    sessions = [s for mine in found.values() for w in mine for s in w.sessions]
    due = [s for s in sessions if not s.is_ahead or s.session_id is not None]
    missed = Counter(s.reason or "no reason said" for s in due if s.is_missed)
    said = [_kept_words(sessions)]
    if missed:
        said.append("Sessions missed: " + ", ".join(f"{n} × {w}" for w, n in missed.most_common()) + ".")
    mondays = [first + timedelta(weeks=i) for i in range(weeks)]
    by_week = {m: [w for mine in found.values() for w in mine if w.monday == m] for m in mondays}
    sums = [(m, summed(w.due for w in by_week[m]).main_sets, summed(w.done for w in by_week[m]).main_sets) for m in mondays]
    bars = _bars(f"Main sets a week, the whole {of}", sums)
    columns = ("Athlete", "Sessions", "Main sets", "Done", "AU a week", "Foot contacts", "Bests")
    section = Section(Part.DONE, "Who did how much", tuple(said), columns, rows, (bars,))
    return Report(
        name, f"{counted(len(people), 'athlete')} · for the coaches", first, today, (section, _squad_bests(people, bests))
    )


def _squad_row(athlete: Athlete, weeks: Sequence[WeekDone], bests: int) -> tuple[str, ...]:
    sessions = [s for w in weeks for s in w.sessions if s.planned.main_sets > 0 and (not s.is_ahead or s.session_id is not None)]
    done, due = summed(w.done for w in weeks), summed(w.due for w in weeks)
    pct = plan_done_pct(s for w in weeks for s in w.sessions)
    au = sum(sum(w.days_au) for w in weeks) / len(weeks) if weeks else 0.0
    return (
        athlete.name, out_of(sum(1 for s in sessions if not s.is_missed), len(sessions)), out_of(done.main_sets, due.main_sets),
        f"{pct:.0f} %" if pct is not None else "", f"{au:.0f}", f"{done.contacts}", f"{bests}",
    )  # fmt: skip


def _squad_bests(people: Sequence[Athlete], bests: Mapping[Of, list[Best]]) -> Section:
    known, names = exercises(), {a.pk: a for a in people}
    rows = [
        (
            names[who].name,
            known[lift].name,
            b.words(unit_of(implement_for(known[lift], kit_of(names[who].kit)))),
            said_day(b.day),
        )
        for (who, lift), b in of_sets(bests)
        if lift in known
    ]
    words = () if rows else ("None in these weeks.",)
    return Section(Part.BESTS, "New bests", words, ("Athlete", "Exercise", "Best", "Day") if rows else (), tuple(rows))
