"""After the session: planned against done, the new estimates, and what changes next time because of them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.past_sessions import read_past
from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.floor.bests import bests_since
from jarvok.app.floor.lines import FloorLine, floor_lines
from jarvok.app.floor.pains import as_told, open_reports
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.sheets import Sheet, sheets_of
from jarvok.core.floor.advice import TROUBLE_WORDS, Trouble
from jarvok.core.floor.measures import words_of
from jarvok.core.floor.pain import OpenPain, area_words, loads
from jarvok.core.learning.new_bests import Best, scheme_best
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.session.review import LineReview, SetComparison, review_line
from jarvok.core.velocity.daily_max import DailyMax, daily_max
from jarvok.core.velocity.profile import LoadVelocity


@dataclass(frozen=True)
class LiftChange:
    """A lift of the session: the max before and after it, and what the day's velocities say."""

    exercise_id: str
    before: CurrentMax | None
    after: CurrentMax | None
    by_velocity: DailyMax | None


@dataclass(frozen=True)
class NextLoad:
    """A line of the next sessions that repeats a lift: its first set as it was and as it is now."""

    day: date
    key: str
    slot: str
    exercise_id: str
    text: str
    before: ResolvedSet | None
    after: ResolvedSet


@dataclass(frozen=True)
class SessionReview:
    book: LiftBook  # with the session in it
    lines: list[tuple[FloorLine, LineReview]]
    lifts: list[LiftChange]
    next_loads: list[NextLoad]
    next_day: date | None
    next_key: str
    open_pains: tuple[OpenPain, ...] = ()
    bests: tuple[tuple[str, Best], ...] = ()  # with the exercise of each

    def waits(self, exercise_id: str) -> str:
        """Why the next load of an exercise waits for a word, or nothing."""
        lift = exercise(exercise_id)
        return next((f"pain, {area_words(p.area)}: decide first" for p in self.open_pains if loads(p.area, lift)), "")


def review(session: TrainingSession) -> SessionReview:
    lines = floor_lines(session)
    athlete, today = session.athlete, max(clock.today(), session.day)
    before = LiftBook([athlete], today, without_session=session.pk)
    after = LiftBook([athlete], today)
    lifts: list[LiftChange] = []
    seen: set[str] = set()
    for line in lines:
        lift = exercise(exercise(line.line.exercise_id).same_lift)
        if lift.id in seen or not lift.is_loaded or not any(s.record for s in line.sets):
            continue
        seen.add(lift.id)
        points = [p for p in after.points_of(athlete.pk, lift.id) if p.day == session.day]
        now = after.max(athlete.pk, lift.id)
        lifts.append(LiftChange(lift.id, before.max(athlete.pk, lift.id), now, _by_velocity(points, lift.id, now)))
    upcoming = _next_sheets(session, today, before), _next_sheets(session, today, after)
    next_loads: list[NextLoad] = []
    for was, is_now in zip(*upcoming, strict=True):
        for old, new in zip(was.lines, is_now.lines, strict=True):
            first_old, first_new = (next((s for s in x.sets if s.load_kg), None) for x in (old, new))
            lift_id = new.planned.exercise_id
            if first_new is not None and exercise(lift_id).same_lift in seen:
                day, key = is_now.planned.day, is_now.planned.key
                next_loads.append(NextLoad(day, key, new.planned.slot, lift_id, new.text, first_old, first_new))
    first = upcoming[1][0].planned if upcoming[1] else None
    return SessionReview(
        book=after,
        lines=[(line, line_review(line)) for line in lines if not line.is_void],
        lifts=lifts,
        next_loads=next_loads,
        next_day=first.day if first else None,
        next_key=first.key if first else "",
        bests=_bests(session, lines),
        open_pains=tuple(as_told(p) for p in open_reports([athlete.pk]).get(athlete.pk, ())),
    )


def _bests(session: TrainingSession, lines: list[FloorLine]) -> tuple[tuple[str, Best], ...]:
    """What of a session went beyond everything before, in the order of its lines."""
    refs = {f"set:{s.record.pk}" for line in lines for s in line.sets if s.record is not None}
    lifts = list(dict.fromkeys(line.line.exercise_id for line in lines if any(s.record for s in line.sets)))
    who = session.athlete_id
    found = bests_since([who], session.day, session.day, lifts) if lifts else {}
    past = read_past([who], date.min, session.day, lifts)
    said: list[tuple[str, Best]] = []
    for lift in lifts:
        said += [(lift, b) for b in found.get((who, lift), []) if b.ref in refs]
        mine = {f"line:{line.line.pk}" for line in lines if line.line.exercise_id == lift}
        history = past.get((who, lift), [])
        schemes = [scheme_best(history, s) for s in history if s.ref in mine]
        said += [(lift, b) for b in schemes if b is not None]
    return tuple(said)


def _by_velocity(points: list[LoadVelocity], lift_id: str, now: CurrentMax | None) -> DailyMax | None:
    return daily_max(points, exercise(lift_id), now.value_kg if now else None) if points else None


def line_review(line: FloorLine) -> LineReview:
    """Return what was done of a line against what was planned."""
    found = review_line(
        [
            SetComparison(
                planned_reps=None if s.is_added or line.line.stands_in_for_id is not None else s.planned.reps or 0,
                planned_load_kg=s.planned.load_kg,
                done_reps=s.record.reps if s.record else None,
                done_load_kg=s.record.load_kg if s.record else None,
                result=words_of(s.record.measures) if s.record else "",
                form=s.record.form if s.record else "",
                trouble=TROUBLE_WORDS[Trouble(s.record.trouble)] if s.record and s.record.trouble else "",
                number=s.number,
                passed_over=s.is_skipped,
            )
            for s in line.sets
            if s.kind == SetKind.WORK
        ]
    )
    warm = [s for s in line.sets if s.kind == SetKind.RAMP and s.record is not None and s.record.trouble]
    said = [f"{TROUBLE_WORDS[Trouble(s.record.trouble)]} in warm-up {s.number}" for s in warm if s.record is not None]
    return replace(found, words=", ".join([found.words, *said]))


def _next_sheets(session: TrainingSession, today: date, book: LiftBook) -> list[Sheet]:
    """The sessions of the next fortnight, those that repeat a lift of this one included."""
    athlete = session.athlete
    plan = SeasonBook([athlete], today, book.rules).plan(athlete.pk)
    if plan is None:
        return []
    found: list[Sheet] = []
    for ahead in (0, 7):
        week = plan.week_of(session.day + timedelta(days=ahead))
        if week is not None:
            found += sheets_of(athlete, planned_week(athlete, plan, week, book.rules), book, week)
    return [s for s in found if (s.planned.day, s.planned.key) > (session.day, session.key) and s.started is None][:2]
