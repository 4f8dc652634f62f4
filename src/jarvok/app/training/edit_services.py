"""What a coach does to whole sessions: put one together, change its lines and blocks, copy, take out, go back to the plan."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import date, timedelta

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import FOR_A_WEEK
from jarvok.app.problems import Conflict
from jarvok.app.seasons.queries import SeasonBook
from jarvok.app.training.finding import find_sheet
from jarvok.app.training.models import WeekChoice, WrittenSession
from jarvok.app.training.plan_queries import planned_week, read_again
from jarvok.app.training.queries import AthleteWeek, Sheet, athlete_week
from jarvok.app.training.undo import new_batch
from jarvok.core.errors import CoachError
from jarvok.core.season.model import SeasonWeek, monday_of
from jarvok.core.session.document import Document, WrittenLine, add_line, document_of, drop_line, take_line, to_raw
from jarvok.core.week.arrangements import week_arrangement
from jarvok.core.week.plan import PlannedSession

OWN_KEYS = tuple(f"X{i}" for i in range(1, 10))
LONGEST_WORDS = 200


def put(athlete: Athlete, key: str, day: date, document: Document, words: str, batch: str) -> None:
    """Keep a session as the coach has it now, in place of what its week held under the key."""
    WrittenSession.objects.create(
        athlete=athlete,
        week_start=monday_of(day),
        session_key=key,
        state=WrittenSession.WRITTEN,
        day=day,
        document=to_raw(document),
        words=words[:LONGEST_WORDS],
        batch=batch,
    )


def documented(sheet: Sheet) -> Document:
    """A sheet as a document, every line as it stands now."""
    return document_of(sheet.planned, {x.planned.slot: x.text for x in sheet.lines})


def _open(athlete: Athlete, day: date, key: str) -> tuple[AthleteWeek, Sheet]:
    week, sheet = find_sheet(athlete, day, key)
    if sheet.started is not None:
        raise Conflict("This session has been started; what was told stays. Change the set on the floor.")
    return week, sheet


@transaction.atomic
def edit_session(athlete: Athlete, day: date, key: str, edit: Callable[[Document], Document], words: str) -> None:
    """Change a session; from then on it is the coach's own and no longer follows the arrangement."""
    _, sheet = _open(athlete, day, key)
    before = documented(sheet)
    after = edit(before)
    if after != before:
        put(athlete, key, day, after, words, new_batch())


def _week_for(athlete: Athlete, day: date) -> AthleteWeek:
    week = athlete_week(athlete, day, clock.today())
    if week is None:
        raise CoachError(
            f"{day:%-d %B %Y} lies outside the season.", where="day", accepted="A day of the season; add a competition first."
        )
    if day >= week.week.competition_day:
        raise CoachError("That day is the competition's or after it.", where="day", accepted="A day before it.")
    return week


def _free_key(week: AthleteWeek, athlete: Athlete) -> str:
    key = _own_key(athlete, week.week, [s.planned for s in week.sheets])
    if key is None:
        raise CoachError("The week is full.", where="day", accepted=f"Up to {len(OWN_KEYS)} sessions of your own a week.")
    return key


def _own_key(athlete: Athlete, week: SeasonWeek, here: Sequence[PlannedSession]) -> str | None:
    """A key of the coach's own that no session of the week stands under or was begun under; None when all do."""
    begun = athlete.sessions.filter(day__range=(week.start, week.end)).values_list("key", flat=True)
    taken = {s.key for s in here} | set(begun)
    return next((k for k in OWN_KEYS if k not in taken), None)


def _check_free(week: AthleteWeek, day: date) -> None:
    if any(s.planned.day == day for s in week.sheets):
        raise Conflict(f"{day:%A %-d %B} already holds a session. Take it out or choose another day.")


@transaction.atomic
def new_session(athlete: Athlete, day: date, theme: str, document: Document | None = None, words: str = "") -> str:
    """Begin a session of the coach's own on a day without one; return its key."""
    week = _week_for(athlete, day)
    _check_free(week, day)
    key = _free_key(week, athlete)
    begun = document or Document(theme.strip()[:60] or "Own session", ())
    put(athlete, key, day, begun, words or f"{begun.theme} put on {day:%A}", new_batch())
    return key


@transaction.atomic
def take_out(athlete: Athlete, day: date, key: str) -> None:
    """Take a session out of the week."""
    _, sheet = _open(athlete, day, key)
    _mark(athlete, day, key, WrittenSession.TAKEN_OUT, f"{sheet.planned.theme} taken out of {day:%A}", new_batch())


@transaction.atomic
def back_to_plan(athlete: Athlete, monday: date, key: str) -> None:
    """Go back to what the arrangement proposes under a key."""
    if not any(r.session_key == key and r.week_start == monday for r in athlete.written_sessions.all()):
        raise Conflict("This session is as planned.")
    _mark(athlete, monday, key, WrittenSession.AS_PLANNED, f"session {key} as planned", new_batch())


def _mark(athlete: Athlete, day: date, key: str, state: str, words: str, batch: str) -> None:
    WrittenSession.objects.create(
        athlete=athlete, week_start=monday_of(day), session_key=key, state=state, words=words[:LONGEST_WORDS], batch=batch
    )


@transaction.atomic
def move_line_to(athlete: Athlete, day: date, key: str, slot: str, to: date) -> None:
    """Put a line of one session into the session of another day of the week, or into a new one there."""
    week, sheet = _open(athlete, day, key)
    if monday_of(to) != monday_of(day):
        raise CoachError("That day lies in another week.", where="to", accepted="A day of this week.")
    if to >= week.week.competition_day:
        raise CoachError("That day is the competition's or after it.", where="to", accepted="A day before it.")
    if to == day:
        return
    document = documented(sheet)
    line = take_line(document, slot)
    planned = next(x.planned for x in sheet.lines if x.planned.slot == slot)
    batch, words = new_batch(), f"{slot} moved to {to:%A}"
    put(athlete, key, day, drop_line(document, slot), words, batch)
    target = next((s for s in week.sheets if s.planned.day == to), None)
    if target is not None:
        if target.started is not None:
            raise Conflict(f"The session of {to:%A} has been started; what was told stays.")
        put(athlete, target.planned.key, to, add_line(documented(target), line, planned.block), words, batch)
    else:
        put(athlete, _free_key(week, athlete), to, add_line(Document("Own session", ()), line, planned.block), words, batch)


def athletes_for(athlete: Athlete, scope: str) -> list[Athlete]:
    """Whom a copy is for: this athlete, the group, the squad."""
    rows = Athlete.objects.select_related("squad", "kit").prefetch_related(*FOR_A_WEEK)
    if scope == "athlete":
        return [rows.get(pk=athlete.pk)]
    if scope == "group" and athlete.group:
        return list(rows.filter(squad=athlete.squad, group=athlete.group))
    if scope == "squad":
        return list(rows.filter(squad=athlete.squad))
    raise CoachError("It is for the athlete, the group or the squad.", where="scope", accepted="athlete, group or squad")


@transaction.atomic
def copy_session(
    document: Document, theme_words: str, people: Sequence[Athlete], day: date, batch: str | None = None
) -> tuple[list[str], list[str]]:
    """Put a session on a day for some athletes; return the names it was done for, and in words where it could not be.

    What the day held before is replaced, and comes back with undo; a session that was started stays.
    """
    batch, done, left = batch or new_batch(), [], []
    today = clock.today()
    seasons = SeasonBook(people, today)
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(day) if plan is not None else None
        if plan is None or week is None or day >= week.competition_day:
            left.append(f"{person.name}: {day:%-d %B} lies outside the season")
            continue
        if person.sessions.filter(day=day).exists():
            left.append(f"{person.name}: the session of that day has been started")
            continue
        here = planned_week(read_again(person), plan, week, seasons.rules)
        key = next((s.key for s in here if s.day == day), None) or _own_key(person, week, here)
        if key is None:
            left.append(f"{person.name}: the week is full")
            continue
        put(person, key, day, document, theme_words, batch)
        done.append(person.name)
    return done, left


@transaction.atomic
def copy_week(athlete: Athlete, monday: date, people: Sequence[Athlete], to: date) -> tuple[list[str], list[str]]:
    """Put the sessions of a week on the same weekdays of a week for some athletes."""
    source = athlete_week(athlete, monday, clock.today())
    if source is None:
        raise CoachError("That week lies outside the season.", where="monday", accepted="A week of the season.")
    sessions = {to + timedelta(days=s.planned.day.weekday()): documented(s) for s in source.sheets}
    return put_week(sessions, f"week of {monday:%-d %B} copied", people, to)


@transaction.atomic
def put_week(
    sessions: Mapping[date, Document], words: str, people: Sequence[Athlete], monday: date, batch: str | None = None
) -> tuple[list[str], list[str]]:
    """Put sessions on days of a week in place of what the week held; return for whom, and where it could not be."""
    batch = batch or new_batch()
    done: list[str] = []
    left: list[str] = []
    seasons = SeasonBook(people, clock.today())
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(monday) if plan is not None else None
        if plan is None or week is None:
            continue
        begun = set(person.sessions.filter(day__range=(monday, week.end)).values_list("key", flat=True))
        for session in planned_week(person, plan, week, seasons.rules):
            if session.day not in sessions and session.key not in begun:
                _mark(person, session.day, session.key, WrittenSession.TAKEN_OUT, words, batch)
    for day, document in sorted(sessions.items()):
        ok, not_ok = copy_session(document, words, people, day, batch)
        done, left = done + ok, left + not_ok
    return sorted(set(done)), left


@transaction.atomic
def put_weeks(sessions: Mapping[date, Document], words: str, people: Sequence[Athlete]) -> tuple[list[str], list[str]]:
    """Put the sessions of several weeks in place of what those weeks held; one undo takes all of it back."""
    batch, done, left = new_batch(), set[str](), list[str]()
    for monday in sorted({monday_of(d) for d in sessions}):
        here = {d: x for d, x in sessions.items() if monday_of(d) == monday}
        ok, not_ok = put_week(here, words, people, monday, batch)
        done.update(ok)
        left += not_ok
    return sorted(done), left


@transaction.atomic
def arrange_week(people: Sequence[Athlete], arrangement: str, days: int, monday: date | None) -> None:
    """Arrange the week another way: for all weeks, or for one."""
    chosen = week_arrangement(arrangement)
    if days and days not in chosen.days:
        raise CoachError(
            f"{chosen.name} is not made for {days} sessions.", where="days", accepted=", ".join(str(d) for d in chosen.days)
        )
    batch = new_batch()
    for person in people:
        WeekChoice.objects.create(athlete=person, arrangement=arrangement, days=days, monday=monday, batch=batch)


def line_from(exercise_id: str, text: str, *, is_main: bool = False) -> WrittenLine:
    """A line as typed."""
    return WrittenLine(exercise_id, text, "written by you", is_main)
