"""Which sessions a week of an athlete holds: the arrangement's, with what the coach has put in their place."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import partial
from typing import TypeVar

from django.db.models import prefetch_related_objects
from django.utils import timezone

from jarvok.app import clock
from jarvok.app.athletes.kept_known import forget_weeks_from, forget_while_kept, keep_only, while_kept
from jarvok.app.athletes.known import wishes_of
from jarvok.app.athletes.lags import lag_of, limits_of_strength, shown_since
from jarvok.app.athletes.reading import age_of, mass_on, practices_of, restrictions_of
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import SeasonStyle
from jarvok.app.facts.training.models import WeekChoice, WrittenSession
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.typed_season import CHANGED_BOOK
from jarvok.app.training.order import Order, forget_order, in_order
from jarvok.app.training.told_weeks import sessions_of, told_of
from jarvok.core.errors import CoachError
from jarvok.core.experience import is_minor, is_novice
from jarvok.core.library.substitutes import Limits
from jarvok.core.rules import Rules
from jarvok.core.season.blocks import closes_round, round_began
from jarvok.core.season.exposures import Event
from jarvok.core.season.match_days import played_share
from jarvok.core.season.model import PhaseKey, Rank, SeasonPlan, SeasonWeek, monday_of
from jarvok.core.session.document import from_raw, session_of
from jarvok.core.session.planned import PlannedSession
from jarvok.core.week.arrangements import WEEK_BY_KEY, for_days, usual_for
from jarvok.core.week.contest_work import NO_CONTEST, Contest, ContestWork, contest_work
from jarvok.core.week.generate import MOVED_HERE, arranged_week
from jarvok.core.week.hour import MINUTES_THERE
from jarvok.core.week.layout import lay_out, nearest_days
from jarvok.core.week.plan import WeekArrangement, WeekFacts, level_of
from jarvok.core.week.spending import spend_week
from jarvok.core.week.weight import load_of

T = TypeVar("T")
SEASON_DEFAULT = SeasonStyle().arrangement


@dataclass(frozen=True)
class WeekStyle:
    """How an athlete's week is arranged, with how many sessions; `is_own` says whether the coach chose it, `only_this`
    whether for this week alone; `by_order` whether its sessions are done in order, since a day where the coach said so.
    """

    arrangement: WeekArrangement
    days: int
    is_own: bool
    only_this: bool
    by_order: bool = False
    since: date | None = None


def week_style_of(athlete: Athlete, monday: date) -> WeekStyle:
    """The model of a week: the newest word for that week, else for all weeks, else the one its season model proposes."""
    choice: WeekChoice | None = None
    for row in athlete.week_choices.all():
        known = row.undone_at is None and row.arrangement in WEEK_BY_KEY
        if known and (row.monday == monday or (row.monday is None and (choice is None or choice.monday is None))):
            choice = row
    proposed = proposed_style_of(athlete)
    if choice is None:
        return proposed
    arrangement = WEEK_BY_KEY[choice.arrangement]
    wanted = choice.days or athlete.sessions_a_week or arrangement.days[0]
    by_order = arrangement.is_sequence if choice.by_order is None else choice.by_order
    since = timezone.localtime(choice.at, clock.zone()).date()
    return WeekStyle(arrangement, nearest_days(arrangement, wanted), True, choice.monday is not None, by_order, since)


def proposed_style_of(athlete: Athlete) -> WeekStyle:
    """The week model that belongs to the athlete's season model and sport."""
    season = getattr(athlete, "season_style", None)
    key, days = usual_for(athlete.squad.sport, season.arrangement if season is not None else SEASON_DEFAULT)
    wanted = athlete.sessions_a_week or days
    arrangement = WEEK_BY_KEY[for_days(key, wanted)]
    return WeekStyle(arrangement, nearest_days(arrangement, wanted), False, False, arrangement.is_sequence)


RESTRICTED = "An open restriction"


def limits_of(athlete: Athlete, day: date) -> Limits:
    """What an exercise has to get past for this athlete on a day: restrictions, kit, experience."""
    tags = frozenset(r.tag for r in restrictions_of(athlete, day))
    return Limits(tags, kit_of(athlete.kit), int(level_of(athlete.years_of_lifting_on(day))))


def limits_in(athlete: Athlete, week: SeasonWeek) -> Limits:
    """The same for the days of a week that are still to come: what is restricted on one of them is kept out of its choices."""
    tags = frozenset(t for day, tags in _restricted_on(athlete, week).items() if day >= known_on(week) for t in tags)
    return Limits(tags, kit_of(athlete.kit), int(level_of(athlete.years_of_lifting_on(week.start))))


def _restricted_on(athlete: Athlete, week: SeasonWeek) -> dict[date, frozenset[str]]:
    """What is restricted on each day of a week; nothing where no restriction touches it."""
    rows = [r for r in athlete.restrictions.all() if r.since <= week.end and (r.until is None or r.until >= week.start)]
    if not rows:
        return {}
    days = [week.start + timedelta(days=n) for n in range((week.end - week.start).days + 1)]
    return {d: frozenset(r.tag for r in rows if r.since <= d and (r.until is None or r.until >= d)) for d in days}


def _where_days_differ(athlete: Athlete, week: SeasonWeek) -> tuple[tuple[date, frozenset[str]], ...]:
    found = _restricted_on(athlete, week)
    return tuple(found.items()) if len(set(found.values())) > 1 else ()


def why_no_max(athlete: Athlete, week: SeasonWeek) -> str:
    """Why max-effort and failure sets are not open to the athlete in a week, or nothing. Common practice."""
    why = why_no_max_on(athlete, week.start)
    if not why and limits_in(athlete, week).restricted:
        why = RESTRICTED
    return why or ("In season" if week.phase is PhaseKey.IN_SEASON else "")


def why_no_max_on(athlete: Athlete, day: date) -> str:
    """The same where no season speaks: age and restrictions on a day."""
    if is_minor(age_of(athlete, day)) and not athlete.supervised:
        return "Under 18 without supervision noted"
    if any(True for _ in restrictions_of(athlete, day)):
        return RESTRICTED
    return ""


def facts_of(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> WeekFacts:
    """What the week is planned from, with what contests ahead ask of it."""
    return replace(_facts_of(athlete, plan, week, rules), contest=contest_work_of(athlete, plan, rules))


def _all_facts_of(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> WeekFacts:
    """The same with what limits the lifts, which chooses small work and no dose: read where lines are settled only."""
    limits = limits_of_strength(athlete)
    found = replace(facts_of(athlete, plan, week, rules), wishes=wishes_of(athlete, known_on(week), rules, limits))
    return replace(found, shown=shown_since(athlete, round_began(week))) if closes_round(week) else found


def known_on(week: SeasonWeek) -> date:
    """The day on which what is known counts for a week."""
    return max(week.start, min(clock.today(), week.end))


def _facts_of(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> WeekFacts:
    lag = lag_of(athlete)
    return WeekFacts(
        plan,
        week,
        practices_of(athlete, week.start),
        limits_in(athlete, week),
        week_style_of(athlete, week.start).days,
        level_of(athlete.years_of_lifting_on(week.start)),
        moved=_moves(athlete, week),
        restricted_on=_where_days_differ(athlete, week),
        played_share=played_share([(m.day, m.minutes) for m in athlete.minutes_played.all()], week.start, rules),
        rules=rules,
        may_max=not why_no_max(athlete, week),
        wishes=wishes_of(athlete, known_on(week), rules),
        minutes=athlete.minutes_a_session or MINUTES_THERE,
        sport=athlete.squad.sport,
        body_mass_kg=mass_on(athlete, known_on(week)),
        weakest=lag.exercise_id if lag is not None else "",
        weakest_words=lag.words if lag is not None else "",
    )


_KNOWN_CONTESTS = "_known_contest_work"


def contest_work_of(athlete: Athlete, plan: SeasonPlan, rules: Rules) -> ContestWork:
    """The last heavy sessions of the athlete's contests on the days of the plan, worked out once for each plan."""
    known: tuple[SeasonPlan, ContestWork] | None = athlete.__dict__.get(_KNOWN_CONTESTS)
    if known is not None and known[0] is plan:
        return known[1]
    contests = contests_of(athlete, plan, rules)
    found = contest_work(plan, partial(_session_days, athlete, plan, rules), contests, plan.spans) if contests else NO_CONTEST
    athlete.__dict__[_KNOWN_CONTESTS] = (plan, found)
    return found


def contests_of(athlete: Athlete, plan: SeasonPlan, rules: Rules) -> list[Contest]:
    """Main competitions of a season that say what is contested."""
    return [
        Contest(
            c.name,
            c.day,
            tuple(Event.from_raw(e) for e in c.events),
            c.weigh_in,
            c.division,
            is_novice(athlete.years_of_lifting_on(clock.today()), rules),
        )
        for c in athlete.entered.all()
        if c.withdrawn_at is None and c.rank == Rank.MAIN and c.events and plan.start <= c.day
    ]


def _session_days(athlete: Athlete, plan: SeasonPlan, rules: Rules, week: SeasonWeek) -> list[tuple[str, date]]:
    """The proposed days of a week's sessions, before any contest moves them."""
    facts = replace(_facts_of(athlete, plan, week, rules), moved={})
    laid = lay_out(week_style_of(athlete, week.start).arrangement.key, facts)
    return [(s.draft.key, s.day) for s in laid.sessions]


def _moves(athlete: Athlete, week: SeasonWeek) -> dict[str, date]:
    newest: dict[str, date | None] = {}
    for move in athlete.session_moves.all():
        if move.week_start == week.start and move.undone_at is None:
            newest[move.session_key] = move.day
    return {key: day for key, day in newest.items() if day is not None}


def written_of(athlete: Athlete, week: SeasonWeek) -> dict[str, WrittenSession]:
    """The newest word of the coach on each session of the week, by key."""
    newest: dict[str, WrittenSession] = {}
    for row in athlete.written_sessions.all():
        if row.week_start == week.start and row.undone_at is None:
            newest[row.session_key] = row
    return newest


def proposed_week(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[PlannedSession, ...]:
    """The week as its arrangement proposes it, sessions on the days the coach gave them; days that are over as they stood."""
    told = told_of(athlete, week.start)
    if told is None:
        return _arranged(athlete, plan, week, rules)
    moves = _moves(athlete, week)
    sessions = while_kept(athlete, lambda: sessions_of(told), "told", week.start)
    stood = tuple(_on(s, moves[s.key]) if moves.get(s.key, s.day) > told.through else s for s in sessions)
    if week_style_of(athlete, week.start).by_order and week.end >= clock.today():
        now = {(s.day, s.key) for s in order_of(athlete, plan, week, rules).sessions}
        stood = tuple(s for s in stood if s.day > told.through or (s.day, s.key) in now)  # what was missed is done next
    if told.through >= week.end:
        return stood
    keys = {s.key for s in stood}
    return (*stood, *(s for s in _arranged(athlete, plan, week, rules) if s.day > told.through and s.key not in keys))


def _arranged(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[PlannedSession, ...]:
    if week_style_of(athlete, week.start).by_order:
        return order_of(athlete, plan, week, rules).sessions
    return _by_days(athlete, plan, week, rules)


def _by_days(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[PlannedSession, ...]:
    return arranged_week(week_style_of(athlete, week.start).arrangement.key, _all_facts_of(athlete, plan, week, rules))


def order_of(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> Order:
    """A week done in order, from the day the coach chose that, or the season was planned."""
    since = max(week_style_of(athlete, week.start).since or plan.planned_on, plan.planned_on)
    exposures = {monday_of(e.day) for e in contest_work_of(athlete, plan, rules).exposures if not e.is_left_out}
    return in_order(
        athlete,
        plan,
        week,
        since,
        lambda w: _days_by_key(athlete, plan, w, rules),
        lambda w: _by_days(athlete, plan, w, rules),
        lambda w: w.start in exposures,
    )


_KNOWN_DAYS = "known_days_by_key"


def _days_by_key(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[tuple[str, date], ...]:
    """Key and day of each session of a week, in order, without its lines; worked out once for each week of a plan."""
    known: tuple[SeasonPlan, dict[date, tuple[tuple[str, date], ...]]] = athlete.__dict__.get(_KNOWN_DAYS, (plan, {}))
    if known[0] is not plan:
        known = (plan, {})
    athlete.__dict__[_KNOWN_DAYS] = known
    if week.start not in known[1]:
        spent = spend_week(week_style_of(athlete, week.start).arrangement.key, facts_of(athlete, plan, week, rules))
        moved = spent.layout.facts.moved
        laid = ((moved.get(s.laid.draft.key, s.laid.day), s.laid.draft.key) for s in spent.sessions)
        known[1][week.start] = tuple((key, day) for day, key in sorted(laid))
    return known[1][week.start]


def _on(session: PlannedSession, day: date) -> PlannedSession:
    """A session that was missed, on the day the coach has given it since."""
    return replace(session, day=day, day_reason=MOVED_HERE)


UNSAID = "12:00"  # between a morning and an evening session, where nobody said when it begins


def of_week(athlete: Athlete, plan: SeasonPlan, monday: date, what: str, work_out: Callable[[], T]) -> T:
    """What is worked out of a week of the athlete's season: once for as long as the athlete is kept."""
    is_own = plan is athlete.__dict__.get(_KNOWN_PLAN, (None, None, None))[2]
    return while_kept(athlete, work_out, what, monday) if is_own else work_out()


def planned_week(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[PlannedSession, ...]:
    """The week as it stands: the proposal with the coach's own sessions in place of, or beside, the proposed ones."""
    return of_week(athlete, plan, week.start, PLANNED, lambda: _planned_week(athlete, plan, week, rules))


def _planned_week(athlete: Athlete, plan: SeasonPlan, week: SeasonWeek, rules: Rules) -> tuple[PlannedSession, ...]:
    written = written_of(athlete, week)
    found = [s for s in proposed_week(athlete, plan, week, rules) if not _is_replaced(written.get(s.key))]
    for key, row in written.items():
        if row.state == WrittenSession.WRITTEN and row.day is not None:
            try:
                own = session_of(from_raw(row.document), key, row.day)
                found.append(replace(own, load=load_of(own, rules)))
            except CoachError:
                continue  # an exercise of the coach's own that was taken out since; the history keeps the session
    return tuple(sorted(found, key=lambda s: (s.day, s.starts or UNSAID, s.key)))


def _is_replaced(row: WrittenSession | None) -> bool:
    return row is not None and row.state != WrittenSession.AS_PLANNED


CHANGING = ("session_moves", "week_choices", "written_sessions", "season_style")


_SEASON_BOOK = "season book"
LINE_EDITS, PLANNED, SUMS, SPENDING = "line edits", "planned", "sums", "spending"  # what is kept of an athlete's weeks
OF_THE_PLAN = (_SEASON_BOOK, "method choices", "flag words", "learned")
OF_THE_WEEKS = (PLANNED, "told")
MOVING = ("session_moves", "written_sessions")
SEASON = ("entered__competition", "season_style")


def read_again(athlete: Athlete) -> Athlete:
    """The same athlete with what a change of the plan writes read anew."""
    athlete.__dict__.pop(_KNOWN_PLAN, None)
    athlete.__dict__.pop(_KNOWN_CONTESTS, None)
    forget_while_kept(athlete)
    return _read_anew(athlete, CHANGING)


def read_moves_again(athlete: Athlete, monday: date) -> Athlete:
    """The same athlete after a session was moved within a week: the season, its week models and what contests ask stay."""
    forget_weeks_from(athlete, monday, LINE_EDITS, SPENDING)  # lines written for its day went with it
    return _read_anew(athlete, MOVING)


def read_season_again(athlete: Athlete, monday: date) -> Athlete:
    """The same athlete after its season was changed: no week is what it was, but what was told of those before a Monday."""
    athlete.__dict__.pop(_KNOWN_PLAN, None)
    athlete.__dict__.pop(_KNOWN_CONTESTS, None)
    forget_weeks_from(athlete, monday, _SEASON_BOOK, PLANNED, SUMS, SPENDING)
    book: SeasonBook | None = athlete.__dict__.pop(CHANGED_BOOK, None)
    if book is not None:
        while_kept(athlete, lambda: book, _SEASON_BOOK)
    return _read_anew(athlete, SEASON)


def leave_out_sets(athlete: Athlete) -> None:
    """Of what is kept of the athlete, what is planned stays: nothing else has changed but what was done."""
    keep_only(athlete, *OF_THE_PLAN, *OF_THE_WEEKS)


def leave_out_weeks(athlete: Athlete) -> None:
    """Of what is kept of the athlete, the season stays, and no week: what was done says something new of them."""
    for name in (_KNOWN_CONTESTS, _KNOWN_DAYS):
        athlete.__dict__.pop(name, None)
    keep_only(athlete, *OF_THE_PLAN)


def _read_anew(athlete: Athlete, names: Sequence[str]) -> Athlete:
    forget_order(athlete)
    athlete.__dict__.pop(_KNOWN_DAYS, None)
    for name in names:
        getattr(athlete, "_prefetched_objects_cache", {}).pop(name.partition("__")[0], None)
        athlete._state.fields_cache.pop(name, None)
    prefetch_related_objects([athlete], *names)
    return athlete


_KNOWN_PLAN = "_known_plan"


def plan_of(athlete: Athlete, today: date, rules: Rules) -> SeasonPlan | None:
    """The athlete's season, read once until `read_again`."""
    known: tuple[date, Rules, SeasonPlan | None] | None = athlete.__dict__.get(_KNOWN_PLAN)
    if known is None or known[:2] != (today, rules):
        known = athlete.__dict__[_KNOWN_PLAN] = (today, rules, season_book_of(athlete, today, rules).plan(athlete.pk))
    return known[2]


def season_book_of(athlete: Athlete, today: date, rules: Rules | None = None) -> SeasonBook:
    """What the athlete's season is planned from."""
    return while_kept(athlete, lambda: SeasonBook([athlete], today, rules), _SEASON_BOOK)
