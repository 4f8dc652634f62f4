"""What a contest puts into the weeks before it: its last heavy sessions as lines, and what may no longer be heavy after them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from types import MappingProxyType
from typing import NamedTuple

from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.quantities.mass import format_kg
from jarvok.core.quantities.sentence import counted
from jarvok.core.season.calendar import Span
from jarvok.core.season.exposures import Event, Exposure, Standing, event_kinds, last_session_days_out, stagger
from jarvok.core.season.model import SeasonPlan, SeasonWeek, monday_of

WEEKS_BEFORE = 4  # [C] no last heavy session lies farther from a contest
PLATE_STEP_KG = 2.5  # [J]
USUAL_REPS = 2  # [J] of an event that says no amount
HEAVY_PCT = 85.0  # [C] of the max or the contest load: what counts as heavy
PULL_ROLES = frozenset({"pull_me", "pull_de", "classic_pull"})
BLOCK = "H · last heavy session"
LIFT_PATTERNS = {"pull": "hinge", "squat": "squat", "classic": "classic"}


@dataclass(frozen=True)
class Contest:
    """A contest as its last heavy sessions are worked back from it."""

    name: str
    day: date
    events: tuple[Event, ...]
    weigh_in: date | None = None
    division: str = ""
    is_novice: bool = False


@dataclass(frozen=True)
class EventLimit:
    """What holds for an event's lift after its last heavy session, up to the contest: no more than `most_pct` (0: none)."""

    event: str
    after: date
    until: date
    most_pct: float
    words: str
    exercise_ids: frozenset[str]
    lift: str

    def covers(self, lift: Exercise) -> bool:
        """Whether an exercise belongs to the event."""
        if lift.id in self.exercise_ids:
            return True
        if lift.kind not in ("strength", "classic"):
            return False
        return bool(self.lift) and lift.pattern == LIFT_PATTERNS[self.lift]

    def holds_on(self, day: date) -> bool:
        """Whether it holds on a day."""
        return self.after < day < self.until


class DueLine(NamedTuple):
    """A line that a day holds for an event: the event, the exercise, the line as shorthand, and why."""

    event: str
    exercise_id: str
    text: str
    reason: str


@dataclass(frozen=True)
class ContestWork:
    """What contests ask of a season: last heavy sessions by day, sessions moved for them, and what holds after them.

    `moves` give a session of a week (its Monday and key) another day.
    """

    exposures: tuple[Exposure, ...] = ()
    moves: Mapping[tuple[date, str], date] = field(default_factory=lambda: MappingProxyType({}))
    limits: tuple[EventLimit, ...] = ()

    def on(self, day: date) -> tuple[Exposure, ...]:
        """The last heavy sessions of a day that can be written as lines."""
        return tuple(e for e in self.exposures if e.day == day and not e.is_left_out and exercises_of(e))

    def due_on(self, day: date) -> tuple[DueLine, ...]:
        """The lines of last heavy sessions that a day holds."""
        return tuple(DueLine(e.event, i, exposure_text(e, i), exposure_reason(e)) for e in self.on(day) for i in exercises_of(e))

    def limits_on(self, day: date) -> tuple[EventLimit, ...]:
        """What holds on a day."""
        return tuple(x for x in self.limits if x.holds_on(day))


NO_CONTEST = ContestWork()
SessionDays = Callable[[SeasonWeek], Sequence[tuple[str, date]]]  # the key and day of each session of a week


def contest_work(
    season: SeasonPlan, session_days: SessionDays, contests: Sequence[Contest], spans: Sequence[Span]
) -> ContestWork:
    """Return the last heavy sessions of contests on the training days of a season.

    Where no training day lies in a window, the nearest session of that week is moved to it; the note of the exposure says
    so. Raises `CoachError` for an unknown kind of event.
    """
    exposures: list[Exposure] = []
    moves: dict[tuple[date, str], date] = {}
    limits: list[EventLimit] = []
    for contest in contests:
        weeks = [w for w in season.weeks if -6 <= (contest.day - w.start).days <= 7 * WEEKS_BEFORE]  # [T] days of a week
        dates = {day: (w.start, key) for w in weeks for key, day in session_days(w)}
        placed = stagger(
            contest.events,
            contest.day,
            spans=spans,
            weigh_in=contest.weigh_in,
            is_novice=contest.is_novice,
            dates=frozenset(dates),
            division=contest.division,
        )
        taken = {e.day for e in placed if e.day in dates}
        last_session = contest.day - timedelta(days=last_session_days_out([e.kind for e in contest.events])[0])
        for e in placed:
            if e.day < season.planned_on:
                e = replace(e, is_left_out=True, note="its day was over before the season was planned")
            elif not e.is_left_out and e.day not in dates:
                e = _moved(e, dates, taken, moves, last_session)
            exposures.append(e)
        limits += _limits(contest, placed)
    return ContestWork(tuple(exposures), moves, tuple(limits))


def _moved(
    e: Exposure,
    dates: dict[date, tuple[date, str]],
    taken: set[date],
    moves: dict[tuple[date, str], date],
    last_session: date,
) -> Exposure:
    """The exposure with the session that is moved to its day, or with one of its own where the week has none to move.

    That of an event of a later day may lie after the last session of any size: then it is all that is done that day.
    """
    monday = monday_of(e.day)
    free = [d for d, (start, _) in dates.items() if start == monday and d not in taken]
    taken.add(e.day)
    if not free or e.day > last_session:
        dates[e.day] = (monday, "")
        why = "after the last full session" if e.day > last_session else "no session of this week can be moved to it"
        return replace(e, note=f"a session of its own: {why}")
    nearest = min(free, key=lambda d: (abs((d - e.day).days), d))
    place = dates.pop(nearest)
    dates[e.day] = place
    moves[place] = e.day
    return replace(e, note=f"the session of {nearest:%A} is moved to {e.day:%A} for it")


def _limits(contest: Contest, placed: Sequence[Exposure]) -> list[EventLimit]:
    found: list[EventLimit] = []
    kinds = event_kinds()
    for event in contest.events:
        mine = [e for e in placed if e.contested is event and not e.is_left_out and not e.rule.exercise_ids]
        mine += [e for e in placed if e.contested is event and e.rule.exercise_ids and event.kind == "max_deadlift"]
        if not mine:
            continue
        kind = kinds[event.kind]
        lifts = frozenset({event.exercise_id} if event.exercise_id else kind.exercise_ids)
        last = max(e.day for e in mine)
        until = contest.day + timedelta(days=event.contest_day)
        found.append(EventLimit(event.name or kind.name, last, until, kind.after_pct, kind.after, lifts, kind.lift))
    return found


def exercises_of(e: Exposure) -> tuple[str, ...]:
    """The exercises an exposure is done with, or none where the event names none and its kind has none of its own."""
    return e.rule.exercise_ids or event_exercises(e.contested)


def event_exercises(event: Event) -> tuple[str, ...]:
    """The exercises an event is done with: its own, else those of its kind, else none."""
    if event.exercise_id:
        return (event.exercise_id,) if event.exercise_id in exercises() else ()
    return event_kinds()[event.kind].exercise_ids


def exposure_text(e: Exposure, exercise_id: str) -> str:
    """Return an exposure as a line: its sets and amount, at its share of the contest load, else of the max."""
    return f"{e.rule.sets} × {_amount(e)}{_load(e, exercise(exercise_id))}"


def _amount(e: Exposure) -> str:
    rule = e.rule
    if rule.takes_the_events_amount:
        return amount_of(e.contested, rule.reps)
    return f"{rule.seconds} s" if rule.seconds else str(rule.reps)


def amount_of(event: Event, usual_reps: int | None = USUAL_REPS) -> str:
    """Return what an event asks for, as it is typed: metres, seconds or repetitions."""
    if event.distance_m:
        return f"{event.distance_m} m"
    if event.time_s and not event.reps:
        return f"{event.time_s} s"
    return str(event.reps or usual_reps)


def _load(e: Exposure, lift: Exercise) -> str:
    if not lift.is_loaded:
        return ""
    low, high = e.share_pct
    if e.load_kg is not None:
        kg = e.load_kg[0] if e.contested.standing is Standing.SURE else sum(e.load_kg) / 2
        return f" @ {format_kg(round(kg / PLATE_STEP_KG) * PLATE_STEP_KG)} kg"
    if e.rule.takes_the_events_amount or lift.kind not in ("strength", "classic"):
        return ""
    return f" @ {low:g} %" if low == high or e.contested.standing is Standing.SURE else f" @ {low:g}–{high:g} %"


def exposure_reason(e: Exposure) -> str:
    """Return in words what the line is: which event, which exposure, at which share, how many days before, and the pace."""
    low, high = e.share_pct
    share = f"{low:g} %" if low == high else f"{low:g}–{high:g} %"
    of = "of the competition load" if e.load_kg is not None else "of the max" if not e.rule.takes_the_events_amount else "of it"
    words = [f"{e.event}: {e.what}, {share} {of}, {counted(e.days_out, 'day')} before"]
    if e.contested.pace_s is not None and e.rule.takes_the_events_amount:
        words.append(f"{e.contested.time_s} s, one every {e.contested.pace_s:.1f} s: {e.contested.reps} win")
    if e.contested.standing is Standing.WORST:
        words.append("the worst event: this, and no extra practice")
    elif e.contested.standing is Standing.SURE:
        words.append("a sure event: eased")
    if e.note:
        words.append(e.note)
    return "; ".join(words)
