"""What the checks say of an athlete's sessions and week, with the coach's word on it."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import timedelta

from jarvok.app.api.seasons.shapes import FixOut, FlagOut
from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.athletes.known import faults_on, jumps_a_set_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import practices_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.floor.pains import as_told, open_reports
from jarvok.app.seasons.flag_words import words_kept
from jarvok.app.training.line_views import line_view
from jarvok.app.training.planned_weeks import (
    contest_work_of,
    known_on,
    limits_in,
    limits_of,
    proposed_week,
    week_style_of,
    why_no_max,
)
from jarvok.app.training.sheets import MERGED_LINE, AthleteWeek, Sheet
from jarvok.app.training.undo import last_words
from jarvok.core.checks.flag import Flag, answered
from jarvok.core.checks.guards import why_guarded
from jarvok.core.checks.plan_views import Guard, SessionView, WeekView, session_view
from jarvok.core.checks.session import session_flags
from jarvok.core.checks.week import week_flags
from jarvok.core.floor.pain import OpenPain
from jarvok.core.library.exercises import exercise
from jarvok.core.season.model import PhaseKey
from jarvok.core.session.planned import PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.week.contest_work import DueLine
from jarvok.core.week.hour import MINUTES_THERE
from jarvok.core.week.pick import pool
from jarvok.core.week.plan import level_of

LANDING_DAYS = 28  # [J] landings this recent count as practised


def minutes_there(athlete: Athlete) -> int:
    """Minutes a session may take."""
    return athlete.minutes_a_session or MINUTES_THERE


def view_of(athlete: Athlete, week: AthleteWeek, sheet: Sheet, pains: tuple[OpenPain, ...] = ()) -> SessionView:
    """A session with its loads as the checks see it; `pains` are those that nobody has answered."""
    why = why_no_max(athlete, week.week)
    masses = list(athlete.masses.all())
    return SessionView(
        sheet.planned.key,
        sheet.planned.day,
        tuple(line_view(x, is_own=sheet.planned.is_own) for x in sheet.lines),
        limits_of(athlete, sheet.planned.day),
        level_of(athlete.years_of_lifting_on(sheet.planned.day)),
        sheet.planned.load,
        body_mass_kg=masses[-1].mass_kg if masses else None,
        landing_practised=_has_landed(athlete, week.book, sheet),
        may_max=not why,
        why_not_max=why,
        in_season=week.week.phase is PhaseKey.IN_SEASON,
        is_light=week.week.is_light,
        days_to_go=week.week.days_out(sheet.planned.day),
        minutes=sheet.minutes,
        minutes_there=minutes_there(athlete),
        rules=week.rules,
        guard=_guard(athlete, week, sheet),
        event_limits=contest_work_of(athlete, week.plan, week.rules).limits_on(sheet.planned.day),
        due=_due(athlete, week, sheet),
        jumps_a_set=jumps_a_set_of(athlete),
        begins_h=sheet.planned.begins_h,
        pains=pains,
    )


def _due(athlete: Athlete, week: AthleteWeek, sheet: Sheet) -> tuple[DueLine, ...]:
    """The lines of last heavy sessions on a session's day that no other session of the day holds."""
    day = sheet.planned.day
    due = contest_work_of(athlete, week.plan, week.rules).due_on(day)
    others = (s for s in week.sheets if s.planned.day == day and s.planned.key != sheet.planned.key) if due else ()
    held = {x.planned.exercise_id for s in others for x in s.lines}
    return tuple(d for d in due if d.exercise_id not in held)


def _guard(athlete: Athlete, week: AthleteWeek, sheet: Sheet) -> Guard:
    """What a session of a protected week is held against: the plan's own session under its key, if there is one."""
    why = why_guarded(week.week)
    if not why:
        return Guard()
    planned: int | None = None
    if sheet.planned.is_own:
        proposed = proposed_week(athlete, week.plan, week.week, week.rules)
        planned = next((work_sets(s) for s in proposed if s.key == sheet.planned.key), 0)
    elif any(x.planned.line_id == MERGED_LINE for x in sheet.lines):
        planned = work_sets(sheet.planned)
    return Guard(why, planned, week.week.intensity_pct)


def work_sets(session: PlannedSession) -> int:
    """Sets of a session, what prepares aside."""
    return sum(x.prescription.total_sets for x in session.lines if x.role is not BlockRole.PREPARE)


def _has_landed(athlete: Athlete, book: LiftBook, sheet: Sheet) -> bool:
    if not any("jump_depth" in exercise(x.planned.exercise_id).roles for x in sheet.lines):
        return False
    day = sheet.planned.day
    return any(
        0 <= (day - past.day).days <= LANDING_DAYS
        for lift in pool("landing", limits_of(athlete, day))
        for past in book.history(athlete.pk, lift)
    )


def _sets(sessions: Iterable[SessionView]) -> float:
    """Sets of a week's lines, what prepares aside."""
    return float(sum(x.total_sets for s in sessions for x in s.lines if not x.prepares))


class FlagBook:
    """The flags of an athlete's week, with the words kept on them, each session asked once."""

    def __init__(self, athlete: Athlete, week: AthleteWeek) -> None:
        self.athlete, self.week = athlete, week
        self.can_undo = last_words(athlete)
        self.kept = words_kept(athlete)
        self.slots = {
            f"{s.planned.day}:{s.planned.key}:{x.planned.line_id}": x.planned.slot for s in week.sheets for x in s.lines
        }
        pains = while_kept(athlete, lambda: tuple(as_told(p) for p in open_reports([athlete.pk]).get(athlete.pk, ())), "pains")
        self.views = {(s.planned.day, s.planned.key): view_of(athlete, week, s, pains) for s in week.sheets}

    def out(self, flags: Iterable[Flag]) -> list[FlagOut]:
        """Flags as the API sends them, kept ones with their reason."""
        found: list[FlagOut] = []
        for f, word in answered(flags, self.kept):
            fix = FixOut(words=f.fix.words, kind=f.fix.kind, values=dict(f.fix.values)) if f.fix else None
            found.append(
                FlagOut(
                    check_id=f.check_id,
                    severity=f.severity,
                    title=f.title,
                    reason=f.reason,
                    source=f.source.text,
                    where=f.where,
                    slot=self.slots.get(f.where, ""),
                    week=f.week,
                    fix=fix,
                    kept_id=word.pk if word else None,
                    kept_reason=word.reason if word else "",
                )
            )
        return found

    def of_session(self, sheet: Sheet) -> list[FlagOut]:
        """What the checks say of one session."""
        return self.out(session_flags(self.views[sheet.planned.day, sheet.planned.key]))

    def of_week(self) -> list[FlagOut]:
        """What the checks say of the week; what a session alone calls for stands with the session."""
        return self.out(week_flags(self.week_view()))

    def week_view(self) -> WeekView:
        """The week as its checks see it, beside the one before."""
        athlete, week = self.athlete, self.week
        style = week_style_of(athlete, week.week.start).arrangement
        limits, level = limits_in(athlete, week.week), level_of(athlete.years_of_lifting_on(week.week.start))
        before = tuple(session_view(s, limits, level) for s in week.before)
        last = week.plan.week_of(week.week.start - timedelta(days=7))
        eased = last is not None and last.is_light
        return WeekView(
            week.week.start,
            tuple(self.views.values()),
            practices_of(athlete, week.week.start),
            before,
            week.week.is_light,
            week.week.phase is PhaseKey.IN_SEASON,
            week.week.days_out(week.week.start),
            style.allows_daily_lifts,
            style.uses_failure,
            "weightlifting" in style.sports,
            frozenset(f.fault for f in faults_on(athlete, known_on(week.week))),
            "" if week.week.phase is PhaseKey.IN_SEASON else week.week.note,  # matches are its everyday
            _sets(self.views.values()),
            0 if eased else _sets(before),  # more than in an easy week is no rise
            style.overhead_twice,
            week.rules,
        )
