from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from support.stations import minutes

from jarvok.core.library.exercises import chains, exercise, exercises
from jarvok.core.library.substitutes import substitute
from jarvok.core.season.model import PhaseKey
from jarvok.core.season.planner import plan_season
from jarvok.core.session.blocks import BlockStyle
from jarvok.core.session.duration import rest_s
from jarvok.core.session.roles import BlockRole
from jarvok.core.session.sequence import line_minutes
from jarvok.core.session.station import Station
from jarvok.core.week.generate import plan_week
from jarvok.core.week.placement import Practice, day_weights, place_sessions
from jarvok.core.week.weight import WeighedLine, weigh_day

TODAY = date(2026, 11, 24)
SEASON = plan_season(TODAY, date(2027, 4, 17))
FAR = date(2027, 4, 17)
practices = st.lists(
    st.builds(Practice, st.integers(0, 6), st.sampled_from([7.0, 10.0, 18.0]), st.integers(45, 120), st.integers(3, 9)),
    max_size=9,
)


@given(practices, st.integers(0, 20))
@settings(max_examples=150)
def test_every_week_of_the_season_is_whole(slots: list[Practice], index: int) -> None:
    week = SEASON.weeks[index]
    sessions = plan_week(SEASON, week, slots)
    assert len(sessions) == 2
    for session in sessions:
        assert week.start <= session.day <= week.end
        assert (SEASON.competition_day - session.day).days >= 2
        assert len({line.slot for line in session.lines}) == len(session.lines)
        assert session.lines[0].exercise_id == "low_box_landing"  # jump-and-land practice from week one
        stations = [
            Station(
                slot=x.slot,
                block=x.block,
                style=x.style,
                prescription=x.prescription,
                exercise=exercise(x.exercise_id),
                rest_s=rest_s(x.prescription, exercise(x.exercise_id)),
            )
            for x in session.lines
        ]
        assert sum(line_minutes(stations)) < 60
    assert sessions[0].day != sessions[1].day


def test_trunk_and_carry_take_opposite_planes() -> None:
    a, b = plan_week(SEASON, SEASON.weeks[1], [])
    by_slot = [{line.slot: line.exercise_id for line in s.lines} for s in (a, b)]
    assert (by_slot[0]["C1"], by_slot[0]["C2"]) == ("suitcase_carry", "front_hold")
    assert (by_slot[1]["C1"], by_slot[1]["C2"]) == ("front_carry", "side_hold")


def test_exercises_move_along_their_chains_with_the_phases() -> None:
    seen: list[str] = []
    for week in SEASON.weeks:
        session = next(s for s in plan_week(SEASON, week, []) if s.key == "A")
        main = next(line.exercise_id for line in session.lines if line.slot == "A1")
        if not seen or seen[-1] != main:
            seen.append(main)
    assert seen == ["trap_bar_deadlift", "fast_trap_bar_pull", "trap_bar_jump"]


def test_the_quality_before_stays_in_the_background_and_ends_in_time() -> None:
    for week in SEASON.weeks:
        for session in plan_week(SEASON, week, []):
            heavy = [line for line in session.lines if line.slot == "B1" and line.is_main]
            days_out = (SEASON.competition_day - session.day).days
            if week.phase in (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH):
                assert heavy
                assert heavy[0].prescription.total_sets <= 2
            if days_out <= 10:
                assert not heavy  # common practice: no limit lower-body work inside ten days


def test_a_restriction_brings_the_nearest_free_exercise_and_says_so() -> None:
    week = next(w for w in SEASON.weeks if w.phase is PhaseKey.SPEED_STRENGTH)
    session = next(s for s in plan_week(SEASON, week, [], frozenset({"upper_back"})) if s.key == "B")
    line = next(line for line in session.lines if line.slot == "A1")
    assert line.replaced == "Band row for speed"
    assert "upper_back" not in exercise(line.exercise_id).tags
    assert "restricted" in line.reason


def test_a_moved_session_lies_where_the_coach_put_it() -> None:
    week = SEASON.weeks[0]
    friday = week.start + timedelta(days=4)
    session = next(s for s in plan_week(SEASON, week, [], moved={"A": friday}) if s.key == "A")
    assert session.day == friday
    assert session.day_reason == "moved here by you"


class TestPlacement:
    start = date(2026, 11, 23)

    def test_hard_mornings_and_heavy_days_are_avoided(self) -> None:
        slots = [Practice(d, 18, 90, 8) for d in (0, 2, 4)] + [Practice(1, 7, 60, 9), Practice(5, 10, 120, 8)]
        days = [p.day.weekday() for p in place_sessions(self.start, slots, 2, FAR)]
        assert 1 not in days
        assert days[1] - days[0] >= 2

    def test_sunday_stays_free_when_another_day_will_do(self) -> None:
        assert all(p.day.weekday() != 6 for p in place_sessions(self.start, [Practice(0, 18, 90, 6)], 2, FAR))

    def test_nothing_within_two_days_of_the_competition_or_after_it(self) -> None:
        day = self.start + timedelta(days=2)
        assert [p.day for p in place_sessions(self.start, [], 2, day)] == [self.start]
        assert place_sessions(self.start, [], 2, self.start) == ()

    def test_the_reason_names_the_practice(self) -> None:
        placed = place_sessions(self.start, [Practice(d, 18, 90, 5) for d in range(7)], 2, FAR)
        assert "evening practice, 90 min, RPE 5" in placed[0].reason


def test_day_weight_is_hardness_times_hours() -> None:
    assert day_weights([Practice(0, 18, 90, 6), Practice(0, 7, 60, 4)])[0] == 13


@pytest.mark.parametrize(("practice", "lines", "band"), [
    (0, [], "off"),
    (4, [], "low"),
    (9, [], "middle"),
    (12, [], "high"),
    (0, [WeighedLine("high", "strength", 4, BlockRole.MAIN, 1600)], "high"),
    (0, [WeighedLine("low", "hold", 2, BlockRole.SMALL, 0)], "low"),
    (5, [WeighedLine("low", "strength", 4, BlockRole.MAIN, 800), WeighedLine("high", "jump", 3, BlockRole.SMALL, 0)], "middle"),
])  # fmt: skip
def test_band_of_a_day(practice: float, lines: list[WeighedLine], band: str) -> None:
    assert weigh_day(practice, lines).band == band


def test_library_is_consistent() -> None:
    for item in exercises().values():
        assert item.cost in ("high", "middle", "low")
        assert item.same_lift in exercises()
        assert item.max_from is None or item.max_from[0] in exercises()
        assert item.velocity in ("mean", "peak")
        assert item.motion is None or item.implement == "barbell"
    for steps in chains().values():
        assert set(steps) == {"base", "strength_speed", "speed_strength", "taper"}
        assert set(steps.values()) <= set(exercises())


def test_substitute_of_a_free_exercise_is_itself_and_none_when_all_is_off() -> None:
    assert substitute("bench_press", frozenset()) == "bench_press"
    everything = frozenset({e.region for e in exercises().values()})
    assert substitute("bench_press", everything) is None


def test_minutes_of_a_line() -> None:
    lift = exercise("trap_bar_deadlift")
    alone = minutes(BlockStyle(), [("4 × 5 @ 75 %, rest 2:00", lift.id)])
    assert alone == pytest.approx((4 * (5 * 3 + 20) + 3 * 120) / 60)
    slow = minutes(BlockStyle(), [("4 × 5 @ 75 %, 3-0-X-0, rest 2:00", lift.id)])
    assert slow == pytest.approx((4 * (5 * 4 + 20) + 3 * 120) / 60)
