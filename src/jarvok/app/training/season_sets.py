"""The season of an athlete in main sets, with what the coach has written and what stood on the days gone by."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date

from jarvok.app import clock
from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import LineEdit
from jarvok.app.training.planned_weeks import LINE_EDITS, SPENDING, facts_of, order_of, planned_week, week_style_of
from jarvok.app.training.sheets import MERGED_LINE
from jarvok.app.training.told_weeks import read_told, told_of
from jarvok.core.checks.guards import ROUNDING_PCT
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.shorthand import parse
from jarvok.core.plan.season_spending import SeasonSpending, spend_season
from jarvok.core.rules import Rules
from jarvok.core.season.model import SeasonPlan, SeasonWeek, monday_of
from jarvok.core.session.planned import PlannedSession

Edits = Mapping[tuple[date, str, str], LineEdit]


def spending_of(athlete: Athlete, plan: SeasonPlan, rules: Rules) -> SeasonSpending:
    """The season in main sets: as the dose is spent, and as written where the coach has changed a week or it is past."""
    of, found = while_kept(athlete, lambda: (plan, _spending_of(athlete, plan, rules)), SPENDING)
    return found if of is plan or of == plan else _spending_of(athlete, plan, rules)  # a change is tried out on a plan of its own


def _spending_of(athlete: Athlete, plan: SeasonPlan, rules: Rules) -> SeasonSpending:
    edits = edits_of(athlete, plan)
    read_told([athlete], [w.start for w in plan.weeks])
    changed = {monday_of(day) for day, _, _ in edits}
    changed |= {row.week_start for row in athlete.written_sessions.all() if row.undone_at is None}
    changed |= _out_of_order(athlete, plan, rules)
    own = {
        week.start: sets_by_day(athlete, plan, week, rules, edits)
        for week in plan.weeks
        if week.start in changed or told_of(athlete, week.start) is not None
    }
    return spend_season(
        plan, lambda week: (week_style_of(athlete, week.start).arrangement.key, facts_of(athlete, plan, week, rules)), own
    )


def _out_of_order(athlete: Athlete, plan: SeasonPlan, rules: Rules) -> set[date]:
    """The Mondays of weeks whose sessions come later than planned, because one was missed in a plan done in order."""
    ahead = [w for w in plan.weeks if w.end >= clock.today() and week_style_of(athlete, w.start).by_order]
    if not ahead or not order_of(athlete, plan, ahead[0], rules).missed:
        return set()  # what is missed lies behind the first of them
    return {w.start for w in ahead if order_of(athlete, plan, w, rules).missed}


def edits_of(athlete: Athlete, plan: SeasonPlan) -> Edits:
    """The newest word of the coach on each line within a season."""
    since = while_kept(athlete, lambda: _edits_since(athlete, plan.start), LINE_EDITS, plan.start)
    return {key: edit for key, edit in since.items() if key[0] <= plan.weeks[-1].end}


def _edits_since(athlete: Athlete, start: date) -> Edits:
    newest: dict[tuple[date, str, str], LineEdit] = {}
    for edit in LineEdit.objects.filter(athlete=athlete, day__gte=start, undone_at__isnull=True):
        newest[edit.day, edit.session_key, edit.line_id or edit.slot] = edit
    return {key: edit for key, edit in newest.items() if edit.text}


@dataclass(frozen=True)
class WrittenLine:
    """A line of a planned session as the coach has written it; an exercise of nothing where a merged line is read no more."""

    session: PlannedSession
    exercise_id: str
    groups: tuple[SetGroup, ...]
    counts: bool


def written_lines(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules, edits: Edits) -> Iterator[WrittenLine]:
    """Every line of a week, with the coach's word in place of what was proposed."""
    for session in planned_week(athlete, plan, week, rules):
        for line in session.lines:
            edit = None if session.is_own else edits.get((session.day, session.key, line.line_id))
            usable = edit is not None and edit.exercise_id == line.exercise_id
            groups = groups_in(edit.text) if usable and edit is not None else tuple(line.prescription.groups)
            yield WrittenLine(session, line.exercise_id, groups, line.role.counts)
        merged = edits.get((session.day, session.key, MERGED_LINE))
        if merged is not None:
            yield WrittenLine(session, merged.exercise_id, groups_in(merged.text), True)


def sets_by_day(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules, edits: Edits) -> dict[date, int]:
    """Main sets of each day of a week as the coach has written it."""
    found: dict[date, int] = defaultdict(int)
    for line in written_lines(athlete, plan, week, rules, edits):
        found[line.session.day] += sum(g.sets for g in line.groups) if line.counts else 0
    return dict(found)


def groups_in(text: str) -> tuple[SetGroup, ...]:
    """The sets of a line as typed; none where it can no longer be read."""
    try:
        return tuple(parse(text).groups)
    except CoachError:
        return ()


def too_heavy(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules, edits: Edits) -> list[str]:
    """Lines typed with a share above the top of a light week, in words."""
    said: list[str] = []
    for session in planned_week(athlete, plan, week, rules):
        for line in session.lines:
            edit = None if session.is_own else edits.get((session.day, session.key, line.line_id))
            if not line.role.counts or not (session.is_own or edit is not None):
                continue
            share_pct = most_pct_in(edit.text) if edit is not None else most_share_pct(line.prescription)
            if share_pct > week.intensity_pct + ROUNDING_PCT:
                said.append(f"{exercise(line.exercise_id).name} at {share_pct:g} % where {week.intensity_pct:g} % is the top.")
    return said


def most_share_pct(written: Prescription) -> float:
    """The highest share of the max a line is written with, in %; 0 where it is written otherwise."""
    shares = [g.load.share_of_bar or 0.0 for g in written.groups if g.load is not None]
    return round(100 * max(shares, default=0.0), 1)


def most_pct_in(text: str) -> float:
    """The same of a line as typed."""
    try:
        return most_share_pct(parse(text))
    except CoachError:
        return 0.0
