"""The season and week tables row by row, as a coach would check them on paper."""

from datetime import date, timedelta

import pytest
from support.stations import block

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.methods.reserve import Reserve
from jarvok.core.loading.methods.velocity import VelocityTarget
from jarvok.core.loading.shorthand import parse
from jarvok.core.rules import Rules
from jarvok.core.season.arrangements import ARRANGEMENTS
from jarvok.core.season.model import PhaseKey, SeasonWeek, monday_of
from jarvok.core.season.planner import FORCE_VELOCITY, plan_season
from jarvok.core.session.blocks import BlockStyle
from jarvok.core.session.duration import rest_s, warm_up_minutes
from jarvok.core.session.sequence import line_minutes
from jarvok.core.week.generate import plan_week
from jarvok.core.week.placement import Practice
from jarvok.core.working import COMMON_PRACTICE, Source, Working

TODAY = date(2026, 11, 24)
SATURDAY = date(2026, 11, 28)

# phase lengths: base 4-10, strength-speed 3-8, speed-strength 3-8 weeks; common practice
LIMITS = {PhaseKey.BASE: (4, 10), PhaseKey.STRENGTH_SPEED: (3, 8), PhaseKey.SPEED_STRENGTH: (3, 8)}


@pytest.mark.parametrize(("key", "limits"), LIMITS.items())
def test_phase_limits(key: PhaseKey, limits: tuple[int, int]) -> None:
    rules = {r.id: (r.least_weeks, r.most_weeks) for r in FORCE_VELOCITY.phases_for(20)}
    assert rules[key] == limits


def test_usual_tapers_are_8_to_14_days() -> None:  # Bosquet et al. 2007, quoted from memory
    for style in ARRANGEMENTS:
        assert 8 <= style.taper.short.days <= style.taper.style.days <= 14
        assert 41 <= style.taper.style.depth_pct <= 60


# weeks in all -> general, base, strength-speed, speed-strength, taper
LENGTHS = {
    1: (0, 0, 0, 0, 1),
    4: (0, 3, 0, 0, 1),
    6: (0, 4, 0, 0, 2),
    8: (0, 6, 0, 0, 2),
    9: (0, 4, 0, 3, 2),
    12: (0, 4, 3, 3, 2),
    16: (0, 6, 4, 4, 2),
    20: (0, 8, 5, 5, 2),
    24: (0, 10, 7, 5, 2),
    28: (0, 10, 8, 8, 2),
    32: (4, 10, 8, 8, 2),
    40: (12, 10, 8, 8, 2),
}


@pytest.mark.parametrize(("weeks", "lengths"), LENGTHS.items())
def test_lengths_for_each_time_there_is(weeks: int, lengths: tuple[int, ...]) -> None:
    plan = plan_season(TODAY, SATURDAY + timedelta(weeks=weeks - 1))
    found = {p.key: p.weeks for p in plan.phases}
    assert tuple(found.get(key, 0) for key in ("general", "base", "strength_speed", "speed_strength", "taper")) == lengths


@pytest.mark.parametrize("day", [date(2026, 11, 23) + timedelta(days=i) for i in range(7)])
def test_a_week_begins_on_its_monday(day: date) -> None:
    assert monday_of(day) == date(2026, 11, 23)


SEASON = plan_season(TODAY, SATURDAY + timedelta(weeks=19))


def main_line(week_index: int, key: str, slot: str):
    session = next(s for s in plan_week(SEASON, SEASON.weeks[week_index], []) if s.key == key)
    return next((line for line in session.lines if line.slot == slot), None)


def test_base_intensity_climbs_and_repetitions_fall() -> None:
    loading = [w for w in SEASON.weeks if w.phase is PhaseKey.BASE and not w.is_easy]
    rules = [main_line(w.index, "A", "A1").prescription.groups[0] for w in loading]
    percents = [rule.load.percents[0] for rule in rules]
    assert percents == sorted(percents)
    assert (percents[0], percents[-1]) == (75, 87.5)
    assert [rule.reps for rule in rules] == sorted((rule.reps for rule in rules), reverse=True)


def test_every_loading_rule_of_the_slice_is_prescribed_somewhere() -> None:
    rules = {
        type(line.prescription.groups[0].load)
        for week in SEASON.weeks
        for session in plan_week(SEASON, week, [])
        for line in session.lines
    }
    assert {Percent, Reserve, VelocityTarget} <= rules


def test_speed_work_stops_at_ten_per_cent_loss() -> None:  # Pareja-Blanco et al. 2017, quoted from memory: 10 % for speed
    week = next(w for w in SEASON.weeks if w.phase is PhaseKey.STRENGTH_SPEED)
    line = main_line(week.index, "A", "A1")
    assert line is not None
    assert line.prescription.stop_loss_pct == 10


def test_easy_weeks_have_half_the_main_sets() -> None:
    for week in SEASON.weeks:
        if week.is_easy and week.phase is PhaseKey.BASE:
            beside = [sets_of(w) for w in (SEASON.weeks[week.index - 1], SEASON.weeks[week.index + 1])]
            assert 0.4 * min(beside) <= sets_of(week) <= 0.55 * min(beside)


def sets_of(week: SeasonWeek) -> int:
    return sum(x.prescription.total_sets for s in plan_week(SEASON, week, []) for x in s.lines if x.role.counts)


def test_accessories_are_out_in_the_taper() -> None:
    taper = [w for w in SEASON.weeks if w.phase is PhaseKey.TAPER]
    for week in taper:
        for session in plan_week(SEASON, week, []):
            assert {line.slot[0] for line in session.lines} <= {"P", "A", "B"}
            assert all(line.slot != "C1" for line in session.lines)


def test_the_last_session_is_two_to_four_days_out_or_more() -> None:  # common practice for combat
    days = [s.day for w in SEASON.weeks for s in plan_week(SEASON, w, [Practice(d, 18, 90, 6) for d in range(5)])]
    assert (SEASON.competition_day - max(days)).days >= 2


# default rests where the sheet is silent: visible 2-3 min for strength, common practice
@pytest.mark.parametrize(("lift", "seconds"), [
    ("trap_bar_deadlift", 150), ("bench_press", 150), ("trap_bar_jump", 150), ("snatch", 150), ("box_jump", 60), ("front_hold", 60),  # noqa: E501
])  # fmt: skip
def test_default_rest(lift: str, seconds: int) -> None:
    assert rest_s(parse("3 × 5"), exercise(lift)) == seconds
    assert rest_s(parse("3 × 5, rest 0:45"), exercise(lift)) == 45
    assert rest_s(parse("3 × 5"), exercise(lift), Rules({f"session.rest_{k}_s": 200 for k in ("power", "jump", "other")})) == 200


@pytest.mark.parametrize(("line", "lift", "minutes"), [
    ("2 × 30 m/side, rest 1:00", "suitcase_carry", (2 * (60 + 20) + 60) / 60),
    ("3 × 40 s, rest 0:30", "front_hold", (3 * (40 + 20) + 60) / 60),
    ("3 × 2 min, rest 1:00", "round_intervals", (3 * 120 + 120) / 60),  # intervals count exactly
    ("1 × 60 m", "flying_sprint", (60 / 7 + 20) / 60),
    ("1 × 5 @ 80 %", "back_squat", (15 + 20) / 60),
])  # fmt: skip
def test_minutes_of_timed_and_carried_work(line: str, lift: str, minutes: float) -> None:
    assert sum(line_minutes(block(BlockStyle(), [(line, lift)]))) == pytest.approx(minutes)


def test_warm_up_grows_with_its_sets() -> None:
    assert warm_up_minutes(0) == 10
    assert warm_up_minutes(5) == pytest.approx(16)


def test_an_unknown_exercise_is_named() -> None:
    with pytest.raises(CoachError, match="no exercise “moonwalk”"):
        exercise("moonwalk")


def test_a_working_is_a_value() -> None:
    assert Working("1", "r", COMMON_PRACTICE) == Working("1", "r", Source("C", "common practice"))
    assert "accepted" in CoachError("Wrong.", accepted="This is accepted.").args[0]
