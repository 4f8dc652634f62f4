"""Each last heavy session of a contest is a line of a session, on its day, at its share; nothing heavy follows it.

The table of last heavy sessions is common practice; where it lies is tested with the season's other parts.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from itertools import product

import pytest

from jarvok.core.library.exercises import exercise
from jarvok.core.library.substitutes import Limits
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.exposures import Event, Standing, event_kinds, last_session_days_out, typed_divisions, written_divisions
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import SeasonPlan, SeasonWeek, Target
from jarvok.core.season.planner import plan_year
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.week.contest_work import HEAVY_PCT, Contest, ContestWork, contest_work, exercises_of
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.layout import lay_out
from jarvok.core.week.plan import Level, WeekFacts

START = date(2027, 1, 4)
TRAINED = Limits(skill=int(Level.ADVANCED))
STRENGTH = (
    Event("max_deadlift", "Last pull", load_kg=240, exercise_id="deadlift"),
    Event("timed_endurance", "Press for a minute", load_kg=70, exercise_id="push_press", reps=15, time_s=60),
    Event("heavy_power", "Short carry", load_kg=100, exercise_id="farmer_carry", distance_m=20),
    Event("heavy_power", "Throw for height", exercise_id="overhead_back_throw", contest_day=1),
    Event("timed_endurance", "Lift and hold", load_kg=40, exercise_id="front_carry", time_s=45, contest_day=2),
)


class Season:
    """A season to one contest with its weeks laid out by one model."""

    def __init__(
        self,
        events: tuple[Event, ...],
        day: date,
        week: tuple[str, int] = ("weightlifting", 3),
        spans: tuple[Span, ...] = (),
        model: str = "strength_event",
        division: str = "",
        **more,
    ) -> None:
        kinds = [e.kind for e in events]
        target = Target("Contest", day, last_day=day + timedelta(days=2), last_session_days_out=last_session_days_out(kinds)[0])
        self.plan: SeasonPlan = plan_year(SeasonFacts(START, (target,), arrangement(model), spans=spans))
        self.key, self.days = week
        contest = Contest("Contest", day, events, division=division, **more)
        self.work: ContestWork = contest_work(self.plan, self.session_days, [contest], spans)
        self.sessions: list[PlannedSession] = [
            s for w in self.plan.weeks for s in arranged_week(self.key, replace(self.facts(w), contest=self.work))
        ]

    def facts(self, week: SeasonWeek) -> WeekFacts:
        return WeekFacts(self.plan, week, (), TRAINED, self.days, Level.ADVANCED)

    def session_days(self, week: SeasonWeek) -> list[tuple[str, date]]:
        return [(s.draft.key, s.day) for s in lay_out(self.key, self.facts(week)).sessions]

    def lines_on(self, day: date) -> list[PlannedLine]:
        return [x for s in self.sessions if s.day == day for x in s.lines]


def share_of(line: PlannedLine) -> float:
    return max((g.load.share_of_bar or 0 for g in line.prescription.groups if g.load is not None), default=0)


WEEKDAYS = range(7)
MODELS = [
    ("weightlifting", 3),
    ("two_days", 2),
    ("concurrent", 4),
    ("percent_lift", 4),
    ("strength_contest", 3),
    ("strength_contest", 4),
]


@pytest.mark.parametrize(("weekday", "week"), list(product(WEEKDAYS, MODELS)))
def test_every_last_heavy_session_is_found_by_exercise_day_and_load(weekday: int, week: tuple[str, int]) -> None:
    season = Season(STRENGTH, START + timedelta(days=7 * 15 + weekday), week)
    assert len(season.work.exposures) == 2 + 1 + 2 + 2 + 1
    for e in season.work.exposures:
        assert not e.is_left_out
        assert e.first <= e.day <= e.last
        (wanted,) = exercises_of(e)
        found = [x for x in season.lines_on(e.day) if x.exercise_id == wanted]
        assert found, f"{e.event}, {e.what} on {e.day}: not in a session"
        group = found[0].prescription.groups[0]
        assert e.event in found[0].reason
        if e.load_kg is not None and exercise(wanted).is_loaded:
            assert e.load_kg[0] - 1.25 <= group.load.load_kg <= e.load_kg[1] + 1.25  # type: ignore[union-attr]
        if e.contested.distance_m:
            assert group.metres == e.contested.distance_m
        if e.contested.kind == "timed_endurance":
            assert (group.reps or group.seconds) == (e.contested.reps or e.contested.time_s)


@pytest.mark.parametrize(("weekday", "week"), list(product(WEEKDAYS, MODELS)))
def test_nothing_of_an_event_is_heavy_after_its_last_heavy_session(weekday: int, week: tuple[str, int]) -> None:
    day = START + timedelta(days=7 * 15 + weekday)
    season = Season((*STRENGTH, Event("limit_front_squat")), day, week)
    last_pull = max(e.day for e in season.work.exposures if e.event == "Last pull")
    last_squat = max(e.day for e in season.work.exposures if e.event == "Max-effort front squat")
    for session in season.sessions:
        only_for_a_later_day = session.key.startswith("H")  # an event of day two or three counts from its own day
        assert (day - session.day).days >= (4 if only_for_a_later_day else 6), "the last session of any size"
        for line in session.lines:
            lift = exercise(line.exercise_id)
            is_other_exposure = line.block.startswith("H")
            if session.day > last_pull and not is_other_exposure:
                assert not (lift.pattern == "hinge" and lift.kind == "strength"), "no pulling"
            if session.day > last_squat and lift.pattern == "squat" and lift.kind == "strength":
                assert share_of(line) < HEAVY_PCT / 100


@pytest.mark.parametrize(("division", "load"), [("Open", 240), ("Masters", 200), ("", 220)])
def test_a_division_has_its_own_load(division: str, load: float) -> None:
    event = Event("deadlift_reps", load_kg=220, divisions=(("Open", 240.0), ("Masters", 200.0)), reps=4)
    season = Season((event,), START + timedelta(days=7 * 12 + 5), division=division)
    (e,) = season.work.exposures
    line = next(x for x in season.lines_on(e.day) if x.exercise_id == "deadlift")
    assert (line.prescription.groups[0].reps, line.prescription.groups[0].load.load_kg) == (4, load)  # type: ignore[union-attr]


def test_divisions_are_typed_and_written_alike() -> None:
    found = typed_divisions("Open 200, Masters 40 160,5 kg; Under 80 kg 120")
    assert found == (("Open", 200.0), ("Masters 40", 160.5), ("Under 80 kg", 120.0))
    assert typed_divisions(written_divisions(Event("max_strength", divisions=found))) == found
    assert typed_divisions(" ") == ()


def test_a_training_day_is_moved_into_the_window_and_says_so() -> None:
    day = START + timedelta(days=7 * 12 + 5)  # 12 days before it lies on a Monday
    season = Season((Event("deadlift_reps", load_kg=200),), day, ("two_days", 2))
    (e,) = season.work.exposures
    assert e.days_out == 12
    if season.work.moves:
        assert "is moved to" in e.note
        session = next(s for s in season.sessions if s.day == e.day)
        assert session.day_reason == "moved for the last heavy session of an event"
    weekdays = {s.day.weekday() for s in season.sessions if s.day < e.day - timedelta(days=14)}
    assert (e.day.weekday() in weekdays) == (not season.work.moves)


def test_several_on_one_day_share_a_session_or_get_one() -> None:
    day = START + timedelta(days=7 * 12 + 5)
    events = [Event("timed_endurance", str(i), exercise_id=x, contest_day=i) for i, x in enumerate(("push_press", "front_squat"))]
    season = Season(tuple(events), day, ("two_days", 2))
    assert {e.days_out for e in season.work.exposures} == {7}
    assert all(season.lines_on(e.day) for e in season.work.exposures)


def test_away_on_its_days_it_is_done_earlier_or_left_out_and_said() -> None:
    day = START + timedelta(days=7 * 12 + 5)
    for length, left in ((1, False), (9, True)):
        off = Span(SpanKind.AWAY, day - timedelta(days=12 + length - 1), day - timedelta(days=12))
        season = Season((Event("deadlift_reps", load_kg=200),), day, spans=(off,))
        (e,) = season.work.exposures
        assert e.is_left_out is left
        assert ("left out" in e.note) is left
        assert bool(season.lines_on(e.day) if not left else []) is not left


@pytest.mark.parametrize("contest_day", range(14))
def test_nothing_is_planned_on_the_days_of_a_long_contest(contest_day: int) -> None:
    day = START + timedelta(days=7 * 12 + 2)
    season = Season((Event("competition_lifts", contest_day=contest_day), Event("bout", contest_day=contest_day)), day)
    for e in season.work.exposures:
        assert e.is_left_out or e.day < day
        assert e.is_left_out or season.lines_on(e.day)
    assert all(s.day < day for s in season.sessions)


def test_with_four_days_to_go_what_is_over_is_said() -> None:
    season = Season((Event("max_deadlift", load_kg=200), Event("competition_lifts")), START + timedelta(days=4))
    pulls = [e for e in season.work.exposures if e.contested.kind == "max_deadlift"]
    assert all(e.is_left_out and "before the season was planned" in e.note for e in pulls)


@pytest.mark.parametrize(("standing", "kg"), [(Standing.SURE, 190), (Standing.USUAL, 195), (Standing.WORST, 195)])
def test_own_standing_decides(standing: Standing, kg: float) -> None:
    season = Season((Event("max_deadlift", load_kg=200, standing=standing),), START + timedelta(days=7 * 12 + 5))
    first = min(season.work.exposures, key=lambda e: e.day)
    line = next(x for x in season.lines_on(first.day) if x.exercise_id == "deadlift")
    assert line.prescription.groups[0].load.load_kg == kg  # type: ignore[union-attr]
    assert ("no extra practice" in line.reason) == (standing is Standing.WORST)
    assert ("eased" in line.reason) == (standing is Standing.SURE)


def test_a_timed_event_says_its_pace() -> None:
    season = Season(STRENGTH, START + timedelta(days=7 * 15))
    line = next(x for s in season.sessions for x in s.lines if "Press for a minute" in x.reason)
    assert "60 s, one every 4.0 s: 15 win" in line.reason


@pytest.mark.parametrize("kind", list(event_kinds()))
def test_an_event_without_an_exercise_takes_its_kinds_own_or_none(kind: str) -> None:
    season = Season((Event(kind),), START + timedelta(days=7 * 12 + 5), model="linear")
    for e in season.work.exposures:
        for exercise_id in exercises_of(e):
            assert exercise_id in {x.exercise_id for x in season.lines_on(e.day)}
        assert bool(exercises_of(e)) == bool(event_kinds()[kind].exercise_ids or e.rule.exercise_ids)


def test_the_line_stands_in_place_of_the_weeks_own_of_its_pattern_and_the_dose_stays() -> None:
    day = START + timedelta(days=7 * 12 + 5)
    with_it = Season((Event("max_deadlift", load_kg=200),), day, ("two_days", 2), model="linear")
    first = min(e.day for e in with_it.work.exposures)
    hinges = [x for x in with_it.lines_on(first) if exercise(x.exercise_id).pattern == "hinge" and x.role.counts]
    assert [x.exercise_id for x in hinges] == ["deadlift"]
