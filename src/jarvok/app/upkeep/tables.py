"""What goes out as tables: one row for each thing that was measured, done or planned. See docs/formats/tables.md."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.db.models import Count, Q, QuerySet

from jarvok.app import clock
from jarvok.app.athletes.lags import share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord
from jarvok.app.facts.floor.models import Rep, SetKind, SetRecord, TrainingSession
from jarvok.app.facts.seasons.models import CalendarEntry
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.lookup import near
from jarvok.app.training.sheets import week_in
from jarvok.app.training.told_weeks import read_told
from jarvok.core.errors import CoachError
from jarvok.core.interchange.tables import Cell
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.season.model import SeasonPlan, monday_of

ROWS_AT_ONCE = 2000  # [T]
MOST_WEEKS_PLANNED = 16  # [T] loads are worked out week by week
ATHLETES_AT_ONCE = 20  # [T]
Row = Sequence[Cell]


@dataclass(frozen=True)
class Asked:
    """Whose rows, and of which days; both ends count. Pain is told to those who see health."""

    athletes: QuerySet[Athlete]
    since: date | None = None
    until: date | None = None
    sees_health: bool = True

    def days(self, field: str) -> Q:
        """The rows whose day lies in it."""
        found = Q()
        if self.since:
            found &= Q(**{f"{field}__gte": self.since})
        if self.until:
            found &= Q(**{f"{field}__lte": self.until})
        return found


@dataclass(frozen=True)
class Table:
    """A table that goes out: its headings, and its rows in their order."""

    name: str
    words: str
    columns: tuple[str, ...]
    rows: Callable[[Asked], Iterable[Row]]
    is_health: bool = False


def _lift(exercise_id: str) -> str:
    found = exercises().get(exercise_id)
    return found.name if found else exercise_id


def _measures(values: dict[str, float]) -> str:
    return "; ".join(f"{k} {v:g}" if isinstance(v, int | float) else f"{k} {v}" for k, v in sorted(values.items()))


def _at(moment: datetime | None) -> datetime | None:
    """A moment on the centre's clock."""
    return moment.astimezone(clock.zone()) if moment is not None else None


def _results(asked: Asked) -> Iterator[Row]:
    rows = MarkRecord.objects.select_related("athlete__squad").filter(
        asked.days("day"), athlete__in=asked.athletes, withdrawn_at__isnull=True
    )
    for m in rows.order_by("day", "pk").iterator(ROWS_AT_ONCE):
        yield (
            m.athlete.squad.name, m.athlete.name, m.day, m.exercise_id, _lift(m.exercise_id), m.kind, m.side,
            m.load_kg, m.sets, m.reps,
            m.rir, _measures(m.measures), _measures(m.conditions), m.note,
        )  # fmt: skip


def _masses(asked: Asked) -> Iterator[Row]:
    rows = BodyMass.objects.select_related("athlete__squad").filter(asked.days("day"), athlete__in=asked.athletes)
    for m in rows.order_by("day", "pk").iterator(ROWS_AT_ONCE):
        yield m.athlete.squad.name, m.athlete.name, m.day, m.mass_kg


def _sessions(asked: Asked) -> Iterator[Row]:
    work = Q(lines__sets__kind=SetKind.WORK, lines__sets__taken_back_at__isnull=True)
    rows = TrainingSession.objects.select_related("athlete__squad").filter(asked.days("day"), athlete__in=asked.athletes)
    for s in rows.annotate(work_sets=Count("lines__sets", filter=work)).order_by("day", "pk").iterator(ROWS_AT_ONCE):
        load_au = s.srpe * s.minutes if s.srpe is not None and s.minutes is not None else None
        yield (
            s.athlete.squad.name, s.athlete.name, s.day, s.key, s.theme, s.phase, s.plan, _at(s.started_at),
            _at(s.finished_at), s.minutes,
            s.srpe, load_au, s.work_sets,
        )  # fmt: skip


def _sets(asked: Asked) -> Iterator[Row]:
    rows = SetRecord.objects.select_related("line__session__athlete__squad").filter(
        asked.days("line__session__day"), line__session__athlete__in=asked.athletes, taken_back_at__isnull=True
    )
    for s in rows.order_by("line__session__day", "pk").iterator(ROWS_AT_ONCE):
        session = s.line.session
        trouble = s.trouble if asked.sees_health or s.trouble != "pain" else ""
        yield (
            session.athlete.squad.name, session.athlete.name, session.day, session.key, s.line.slot, s.line.exercise_id,
            _lift(s.line.exercise_id), "warm-up" if s.kind == SetKind.RAMP else "work", s.number, s.planned_load_kg,
            s.planned_reps,
            s.load_kg, s.reps, s.rir, trouble, _measures(s.measures), _at(s.done_at),
        )  # fmt: skip


def _reps(asked: Asked) -> Iterator[Row]:
    rows = Rep.objects.select_related("line__session__athlete__squad").filter(
        asked.days("line__session__day"), line__session__athlete__in=asked.athletes, taken_out_at__isnull=True
    )
    for r in rows.order_by("line__session__day", "pk").iterator(ROWS_AT_ONCE):
        session = r.line.session
        yield (
            session.athlete.squad.name, session.athlete.name, session.day, session.key, r.line.slot, r.line.exercise_id,
            _lift(r.line.exercise_id), "warm-up" if r.kind == SetKind.RAMP else "work", r.set_number, r.number, r.load_kg,
            r.mean_mps, r.mean_propulsive_mps, r.peak_mps, r.range_m,
        )  # fmt: skip


def _of_seasons(asked: Asked) -> Iterator[tuple[Athlete, SeasonPlan, SeasonBook]]:
    """The athletes of whom a season stands, some read at a time."""
    today = clock.today()
    people = read_for_a_week(asked.athletes)
    for at in range(0, len(people), ATHLETES_AT_ONCE):
        some = people[at : at + ATHLETES_AT_ONCE]
        book = SeasonBook(some, today)
        for athlete in some:
            plan = book.plan(athlete.pk)
            if plan is not None:
                yield athlete, plan, book


def _seasons(asked: Asked) -> Iterator[Row]:
    for athlete, plan, _ in _of_seasons(asked):
        for w in plan.weeks:
            if (asked.since and w.end < asked.since) or (asked.until and w.start > asked.until):
                continue
            yield (
                athlete.squad.name, athlete.name, w.start, w.phase_name, w.week_of_phase, w.weeks_in_phase, w.is_easy,
                round(100 * w.volume), w.intensity_pct, w.competition if w.has_competition else "",
                w.competition_day if w.has_competition else None, w.matches, w.note,
            )  # fmt: skip


def _loads(asked: Asked) -> Iterator[Row]:
    """Every set that is planned, from this week on where no day is said."""
    today = clock.today()
    first = monday_of(near(asked.since or today, "since"))
    last = monday_of(near(asked.until, "until") if asked.until else first + timedelta(weeks=4, days=-1))
    weeks = [first + timedelta(weeks=n) for n in range((last - first).days // 7 + 1)]
    if len(weeks) > MOST_WEEKS_PLANNED:
        said = f"{len(weeks)} weeks of loads are too many at once."
        raise CoachError(said, where="until", accepted=f"Up to {MOST_WEEKS_PLANNED} weeks.")
    for athlete, plan, seasons in _of_seasons(asked):
        book = LiftBook([athlete], today, rules=seasons.rules)
        share_book(book)
        read_told([athlete], weeks)
        for monday in weeks:
            week = week_in(athlete, plan, monday, book)
            for sheet in week.sheets if week is not None else ():
                day = sheet.planned.day
                if (asked.since and day < asked.since) or (asked.until and day > asked.until):
                    continue
                for line in sheet.lines:
                    lift = exercise(line.planned.exercise_id)
                    for s in line.sets:
                        share = round(100 * s.share_of_max, 1) if s.share_of_max is not None else None
                        low, high = s.target_mps or (None, None)
                        yield (
                            athlete.squad.name, athlete.name, day, sheet.planned.key, sheet.planned.theme,
                            line.planned.slot, lift.id,
                            lift.name, line.text, s.set_index + 1, s.load_kg, s.reps, s.seconds, s.metres, share, low, high,
                            s.target_rir, line.rest_s,
                        )  # fmt: skip


def _calendar(asked: Asked) -> Iterator[Row]:
    people = list(asked.athletes.select_related("squad"))
    book = SeasonBook(people, clock.today())
    for athlete in people:
        found: list[Row] = []
        for c in book.competitions(athlete.pk):
            kind = "block" if c.block is not None else "competition"
            found.append((athlete.squad.name, athlete.name, c.day, c.last_day or c.day, kind, c.name, "" if c.block else c.rank))
        entries: list[CalendarEntry] = book.entries(athlete.pk)
        found += [(athlete.squad.name, athlete.name, e.start, e.end, e.kind, e.name, "") for e in entries]
        for row in sorted(found, key=lambda r: str(r[2])):
            start, end = row[2], row[3]
            assert isinstance(start, date)
            assert isinstance(end, date)
            if (asked.since is None or end >= asked.since) and (asked.until is None or start <= asked.until):
                yield row


_WHO = "squad, athlete"
_WHAT = f"{_WHO}, day, session, line, exercise id, exercise, kind"


def _table(name: str, words: str, columns: str, rows: Callable[[Asked], Iterable[Row]], **of: bool) -> Table:
    return Table(name, words, tuple(columns.split(", ")), rows, **of)


TABLES: dict[str, Table] = {
    t.name: t
    for t in (
        _table(
            "results",
            "Results: tests, rep-maxes, technical maxes, jumps, sprints",
            f"{_WHO}, day, exercise id, exercise, kind, side, load kg, sets, reps, reps in reserve, measures, conditions, note",
            _results,
        ),
        _table("masses", "Body mass", f"{_WHO}, day, mass kg", _masses, is_health=True),
        _table(
            "sessions",
            "Sessions done, with effort and training load",
            f"{_WHO}, day, session, theme, phase, plan, started, finished, minutes, session RPE, load AU, work sets",
            _sessions,
        ),
        _table(
            "sets",
            "Sets done beside what was planned",
            f"{_WHAT}, set, planned load kg, planned reps, load kg, reps, reps in reserve, trouble, measures, done",
            _sets,
        ),
        _table(
            "repetitions",
            "Repetitions that a sensor measured",
            f"{_WHAT}, set, repetition, load kg, mean m/s, mean propulsive m/s, peak m/s, range m",
            _reps,
        ),
        _table(
            "loads",
            "Loads planned, set by set: this week and three more, or the days you name",
            f"{_WHO}, day, session, theme, line, exercise id, exercise, as written, set, load kg, reps, seconds, metres, "
            "share of max %, least m/s, most m/s, reps in reserve, rest s",
            _loads,
        ),
        _table(
            "seasons",
            "Seasons, week by week",
            f"{_WHO}, week of, phase, week of phase, weeks in phase, deload, volume %, top intensity %, competition, "
            "competition day, matches, note",
            _seasons,
        ),
        _table("calendar", "Competitions, matches, camps and days away", f"{_WHO}, from, to, kind, name, rank", _calendar),
    )
}
