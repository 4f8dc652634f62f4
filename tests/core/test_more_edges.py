"""More thresholds with a case on each side: what is accepted, what is said, and what a test asks next."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import pairwise

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.floor.readiness import Arrival, Plan, SportSince, checked, suggest
from jarvok.core.interchange.athletes import read_table
from jarvok.core.interchange.velocity_files import read_trace
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import ShorthandError, parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.marks.relation import own_relation
from jarvok.core.marks.rep_table import percent_for_reps
from jarvok.core.marks.working_max import current_max
from jarvok.core.season.match_days import in_season_week
from jarvok.core.season.missed import Choice, options_for
from jarvok.core.testing.ramps import share_felt
from jarvok.core.testing.rest_test import checked_rests
from jarvok.core.testing.steps import Attempt, Result, Step, TestKind, next_step, ramp
from jarvok.core.week.placement import Practice, place_sessions

DAY = date(2026, 11, 24)
MONDAY = date(2026, 11, 23)
SQUAT, BENCH = exercise("back_squat"), exercise("bench_press")


def lift(kg: float | None = 120.0, lifted=SQUAT, **more) -> LiftState:
    found = current_max([Mark("m", DAY, MarkKind.ONE_RM, kg)], DAY) if kg else None
    return LiftState(lifted, implement_for(lifted), found, training_age_years=4, **more)


def trace(samples: int, rate_hz: float, height_m: float = 0.5) -> str:
    return "\n".join(f"{i / rate_hz:.6f},{height_m if i == 3 else 0.1}" for i in range(samples))


class TestWhatIsAccepted:
    @pytest.mark.parametrize(("samples", "is_read"), [(19, False), (20, True)])
    def test_a_recorded_bar_has_twenty_samples(self, samples: int, is_read: bool) -> None:
        if is_read:
            assert len(read_trace(trace(samples, 100)).samples) == samples
        else:
            with pytest.raises(CoachError, match="19 samples"):
                read_trace(trace(samples, 100))

    @pytest.mark.parametrize(("height_m", "problems"), [(5.0, 0), (-5.0, 0), (5.01, 1), (5.9, 1)])
    def test_a_bar_stays_within_five_metres(self, height_m: float, problems: int) -> None:
        assert len(read_trace(trace(40, 100, height_m)).problems) == problems

    @pytest.mark.parametrize(("rate_hz", "is_read"), [(19.5, False), (20.5, True), (990, True), (1010, False)])
    def test_samples_come_twenty_to_a_thousand_times_a_second(self, rate_hz: float, is_read: bool) -> None:
        if is_read:
            assert read_trace(trace(60, rate_hz)).rate_hz == pytest.approx(rate_hz, rel=0.01)
        else:
            with pytest.raises(CoachError, match="times a second"):
                read_trace(trace(60, rate_hz))

    @pytest.mark.parametrize(("value", "is_taken"), [(0, False), (1, True), (5, True), (6, False)])
    def test_an_answer_is_one_to_five(self, value: int, is_taken: bool) -> None:
        if is_taken:
            assert checked(Arrival(sleep=value)).sleep == value
        else:
            with pytest.raises(CoachError, match="is not an answer"):
                checked(Arrival(sleep=value))

    @pytest.mark.parametrize(("cm", "is_taken"), [(4.9, False), (5, True), (130, True), (130.1, False)])
    def test_a_jump_is_five_to_a_hundred_and_thirty_centimetres(self, cm: float, is_taken: bool) -> None:
        if is_taken:
            checked(Arrival(jumps_cm=(cm,)))
        else:
            with pytest.raises(CoachError, match="cannot be"):
                checked(Arrival(jumps_cm=(cm,)))

    @pytest.mark.parametrize(("kg", "problems"), [("19.9", 1), ("20", 0), ("250", 0), ("250.1", 1)])
    def test_a_body_mass_is_twenty_to_two_hundred_and_fifty(self, kg: str, problems: int) -> None:
        assert len(read_table([["Name", "Body mass kg"], ["Ada", kg]], DAY).rows[0].problems) == problems

    @pytest.mark.parametrize(("born", "problems"), [("2021-11-20", 0), ("2021-12-05", 1), ("1926-12-05", 0), ("1926-11-15", 1)])
    def test_an_age_is_five_to_a_hundred(self, born: str, problems: int) -> None:
        assert len(read_table([["Name", "Born"], ["Ada", born]], DAY).rows[0].problems) == problems

    @pytest.mark.parametrize(
        ("good", "bad"),
        [
            ("30 × 2 @ 60 %", "31 × 2 @ 60 %"),
            ("3 × 20+1 @ 60 %", "3 × 21+1 @ 60 %"),
            ("3 × 1+1+1+1+1+1+1+1 @ 60 %", "3 × 1+1+1+1+1+1+1+1+1 @ 60 %"),
            ("3 × 8-100 @ 60 %", "3 × 8-101 @ 60 %"),
            ("8 × 2 @ 60 %, every 5 s", "8 × 2 @ 60 %, every 4 s"),
            ("8 × 2 @ 60 %, every 30:00", "8 × 2 @ 60 %, every 30:01"),
            ("5 × 3 @ 0.7 m/s, stop at 60 % loss", "5 × 3 @ 0.7 m/s, stop at 61 % loss"),
            ("5 × 3 @ 0.7 m/s, stop at 1 % loss", "5 × 3 @ 0.7 m/s, stop at 0.9 % loss"),
            ("3 × 15RM", "3 × 16RM"),
            ("3 × 5 @ 130 %", "3 × 5 @ 130.5 %"),
            ("3 × 5 @ 10 %", "3 × 5 @ 9.5 %"),
            ("3 × 5, 10 in reserve", "3 × 5, 10.5 in reserve"),
            ("3 × 5 @ 5 m/s", "3 × 5 @ 5.01 m/s"),
            ("3 × 5 @ 0.05 m/s", "3 × 5 @ 0.04 m/s"),
            ("3 × 5 @ 60 kg + 50 kg", "3 × 5 @ 60 kg + 50.5 kg"),
            ("3 × 5 @ 60 % + 100 % bands", "3 × 5 @ 60 % + 101 % bands"),
            ("3 × 5 @ 60 kg + 300 kg chains", "3 × 5 @ 60 kg + 301 kg chains"),
        ],
    )
    def test_a_typed_line_is_read_up_to_its_limit(self, good: str, bad: str) -> None:
        assert parse(good).groups
        with pytest.raises(ShorthandError):
            parse(bad)

    @pytest.mark.parametrize("typed", ["3x5 @ 29", "3x5 @ 30", "3x5 @ 10", "3x5 @ 11", "3x5 @ 5", "3x5 @ 4"])
    def test_a_bare_number_is_never_taken_for_a_unit(self, typed: str) -> None:
        with pytest.raises(ShorthandError, match="of what") as caught:
            parse(typed)
        assert caught.value.suggestion == ""

    @pytest.mark.parametrize(
        ("rests", "is_taken"),
        [((60,), False), ((10, 900), True), ((9, 60), False), ((60, 901), False),
         (tuple(range(10, 110, 10)), True), (tuple(range(10, 120, 10)), False)],
    )  # fmt: skip
    def test_two_to_ten_rests_of_ten_seconds_to_fifteen_minutes(self, rests: tuple[int, ...], is_taken: bool) -> None:
        if is_taken:
            assert checked_rests(rests) == rests
        else:
            with pytest.raises(CoachError, match="cannot be tested"):
                checked_rests(rests)


class TestWhatIsSaid:
    @pytest.mark.parametrize(("sleep", "is_named"), [(2, True), (3, False)])
    def test_an_answer_of_two_is_named_one_of_three_is_not(self, sleep: int, is_named: bool) -> None:
        said = suggest(Arrival(sleep=sleep, soreness=5, stress=5, energy=5)).reasons
        assert any("sleep" in x for x in said) == is_named

    def test_one_one_is_plan_b_and_two_are_plan_c(self) -> None:
        assert suggest(Arrival(sleep=1, soreness=5, stress=5, energy=5)).plan is Plan.B
        assert suggest(Arrival(sleep=1, soreness=1, stress=5, energy=5)).plan is Plan.C

    def test_sport_that_costs_next_to_nothing_is_not_a_reason(self) -> None:
        light = suggest(Arrival(sleep=5, sport=(SportSince("practice", 20, 2, 60),))).reasons
        hard = suggest(Arrival(sleep=5, sport=(SportSince("match", 90, 9, 4),))).reasons
        assert not any("practice" in x for x in light)
        assert any("match" in x for x in hard)

    @pytest.mark.parametrize(("reps", "pct"), [(12, 67), (13, 66.33), (14, 65.67), (15, 65)])
    def test_the_rep_table_runs_on_a_line_between_twelve_and_fifteen(self, reps: int, pct: float) -> None:
        assert percent_for_reps(reps) == pytest.approx(pct, abs=0.01)
        with pytest.raises(CoachError):
            percent_for_reps(16)

    @pytest.mark.parametrize(("counts", "is_found"), [((2, 5, 10), True), ((2, 5, 11), False), ((2, 10, 10), False)])
    def test_an_own_relation_needs_three_counts_up_to_ten(self, counts: tuple[int, ...], is_found: bool) -> None:
        marks = [Mark(f"m{i}", DAY, MarkKind.REP_MAX, 100 / (1 + 0.033 * (n - 1)), n) for i, n in enumerate(counts)]
        assert (own_relation(marks, DAY, least_marks=3, within_days=90) is not None) == is_found


class TestTheRmZoneLooksNear:
    @pytest.mark.parametrize(("done", "is_used"), [(5, False), (6, True), (14, True), (15, False)])
    def test_a_last_set_of_two_under_to_four_over_the_zone_counts(self, done: int, is_used: bool) -> None:
        past = PastSession(DAY - timedelta(days=7), "", (PastSet(70.0, done, planned_reps=8),), "s:1")
        found = resolve(parse("3 × 8-10RM"), lift(history=(past,)))[0]
        assert ("s:1" in [i.ref for i in found.working.inputs]) == is_used

    @pytest.mark.parametrize(("planned", "is_used"), [(5, False), (6, True), (12, True), (13, False)])
    def test_and_one_planned_within_two_of_it(self, planned: int, is_used: bool) -> None:
        past = PastSession(DAY - timedelta(days=7), "", (PastSet(70.0, 8, planned_reps=planned),), "s:1")
        found = resolve(parse("3 × 8-10RM"), lift(history=(past,)))[0]
        assert ("s:1" in [i.ref for i in found.working.inputs]) == is_used


def test_rising_sets_grow_from_the_second_on_and_one_set_stays_where_it_starts() -> None:
    one = resolve(parse("1 × 1 @ 80 % rising"), lift())[0]
    two = resolve(parse("2 × 1 @ 80 % rising"), lift())
    assert one.wanted_kg == pytest.approx(96.0)
    assert [s.wanted_kg for s in two] == pytest.approx([96.0, 120.0])


class TestTheDays:
    def test_a_day_before_hard_practice_is_dearer_than_another_also_over_the_weekend(self) -> None:
        for hard in range(1, 7):
            [only] = place_sessions(MONDAY, [Practice(hard, 18.0, 60, 8)], 1, DAY + timedelta(days=90))
            assert only.day.weekday() not in (hard, hard - 1)
        # [J] four for the day before hard practice, twelve for a Sunday: with practice on all other days alike, Saturday is left
        week = [Practice(d, 18.0, 60, 8) for d in (0, 1, 2, 3, 4)]
        [only] = place_sessions(MONDAY, week, 1, DAY + timedelta(days=90))
        assert only.day.weekday() == 5
        # hard on Monday, a little on Tuesday to Friday: Saturday is free, and not the day before Monday
        week = [Practice(0, 18.0, 60, 8), *(Practice(d, 18.0, 60, 2) for d in (1, 2, 3, 4))]
        [only] = place_sessions(MONDAY, week, 1, DAY + timedelta(days=90))
        assert only.day.weekday() == 5

    def test_two_sessions_have_a_day_between_them_beside_matches(self) -> None:
        for weekday in range(7):
            days = [d.day for d in in_season_week(MONDAY, [MONDAY + timedelta(days=weekday)]) if d.session >= 0.9]
            assert all((b - a).days >= 2 for a, b in pairwise(days))

    @pytest.mark.parametrize(("days_to_go", "moves"), [(7, False), (8, True)])
    def test_nothing_is_moved_in_the_last_week(self, days_to_go: int, moves: bool) -> None:
        found = options_for(
            DAY, DAY, [], MONDAY + timedelta(days=6), is_sequence=False, competition_day=DAY + timedelta(days=days_to_go)
        )
        assert (Choice.MOVE in [o.choice for o in found]) == moves

    @pytest.mark.parametrize(("gap", "moves"), [(1, False), (2, True)])
    def test_a_missed_session_moves_where_a_day_lies_between(self, gap: int, moves: bool) -> None:
        found = options_for(DAY, DAY, [DAY + timedelta(days=gap)], DAY, is_sequence=False)
        assert (Choice.MOVE in [o.choice for o in found]) == moves


class TestWhatATestAsksNext:
    @pytest.mark.parametrize(
        ("felt", "reps", "next_share"),  # [J] the share of the max that an effort is, and where the next load goes from there
        [(3, 5, 0.62), (4, 3, 0.74), (5, 2, 0.82), (6, 1, 0.88), (6.5, 1, 0.88), (7.5, 1, 0.92), (8, 1, 0.95), (8.3, 1, 0.95)],
    )
    def test_repetitions_fall_and_steps_shrink_as_it_gets_hard(self, felt: float, reps: int, next_share: float) -> None:
        step = next_step(TestKind.TRUE_MAX, [Attempt(100.0, 5, felt)], lift(None))
        assert isinstance(step, Step)
        assert step.reps == reps
        estimate = 100 / share_felt(felt)
        assert step.load_kg == pytest.approx(min(next_share * estimate, 100 + 0.2 * estimate), abs=2.5)

    @pytest.mark.parametrize("felt", [8.5, 9, 9.5, 10])
    def test_near_the_max_the_last_steps_are_small(self, felt: float) -> None:
        step = next_step(TestKind.TRUE_MAX, [Attempt(150.0, 1, felt)], lift(None))
        assert isinstance(step, Step)
        assert 150 < step.load_kg <= 155

    @pytest.mark.parametrize("felt", [6.5, 7])
    def test_long_rests_begin_at_seven(self, felt: float) -> None:
        rules = lift(None).rules
        step = next_step(TestKind.TRUE_MAX, [Attempt(100.0, 1, felt)], lift(None))
        assert isinstance(step, Step)
        wanted = rules["test.top_rest_s"] if felt >= 7 else rules["test.warm_rest_s"]
        assert step.rest_s == wanted

    def test_the_ramp_rests_long_from_85_per_cent_on(self) -> None:
        state = lift(200.0)
        steps = ramp(state)
        for step in steps:
            if f"{100 * step.load_kg / 200:.0f}" in ("85", "90"):
                assert step.rest_s == state.rules["test.top_rest_s"]
        assert any(s.rest_s == state.rules["test.top_rest_s"] for s in steps)
        assert [s.rest_s for s in steps if s.load_kg < 0.84 * 200][1:] == [state.rules["test.warm_rest_s"]] * (
            len([s for s in steps if s.load_kg < 0.84 * 200]) - 1
        )

    def test_five_top_attempts_end_it_and_only_hard_singles_are_top_attempts(self) -> None:
        hard = [Attempt(150.0 + i, 1, 9) for i in range(5)]
        easy = [Attempt(150.0 + i, 1, 8.5) for i in range(5)]
        assert isinstance(next_step(TestKind.TRUE_MAX, hard, lift(150)), Result)
        assert isinstance(next_step(TestKind.TRUE_MAX, hard[:4], lift(150)), Step)
        assert isinstance(next_step(TestKind.TRUE_MAX, easy, lift(150)), Step)
        assert isinstance(next_step(TestKind.TRUE_MAX, hard, lift(None)), Step), "an unknown max is not found before a miss"
