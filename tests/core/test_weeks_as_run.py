"""Generated weeks against the rules by which each school runs them: counts, order, neighbours, what rises. Common practice."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

import pytest
from test_week_arrangements import PRACTICES, SEASON, facts

from jarvok.core.chooser.known import Known, LiftFault
from jarvok.core.chooser.wishes import wishes
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import FURNISHED
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import Target
from jarvok.core.season.planner import plan_year
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.week.building import RISE_PCT, Build, built, rising
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.hour import minutes_of, within
from jarvok.core.week.plan import Level, WeekFacts
from jarvok.core.week.spending import spend_week

FULL = next(w.index for w in SEASON.weeks if w.phase == "base" and not w.is_light and w.week_of_phase > 1)
LATE = next(w.index for w in SEASON.weeks if w.phase == "strength_speed" and not w.is_light)


def week(key: str, days: int, index: int = FULL, **more: object) -> tuple[PlannedSession, ...]:
    return arranged_week(key, facts(index, days, Level.ADVANCED, **more))


def has(session: PlannedSession, *roles: str) -> list[PlannedLine]:
    return [x for x in session.lines if set(roles) & {*exercise(x.exercise_id).roles, x.exercise_id}]


def lines_of(sessions: tuple[PlannedSession, ...], *roles: str) -> list[PlannedLine]:
    return [x for s in sessions for x in has(s, *roles)]


class TestWeightlifting:
    @pytest.mark.parametrize("days", [3, 4, 5])
    def test_counts(self, days: int) -> None:
        sessions = week("weightlifting", days)
        assert len(lines_of(sessions, "snatch", "snatch_variation")) >= 2
        assert len(lines_of(sessions, "clean_and_jerk")) >= 2
        assert {"back_squat", "front_squat"} <= {x.exercise_id for s in sessions for x in s.lines}
        assert lines_of(sessions, "classic_pull")
        assert lines_of(sessions, "push_press", "jerk_variation")
        assert lines_of(sessions, "romanian_deadlift")
        assert lines_of(sessions, "single_leg")
        assert lines_of(sessions, "row")
        assert lines_of(sessions, "press_second")

    @pytest.mark.parametrize("days", [3, 4, 5])
    def test_heavy_days_stand_first_and_last_and_the_squats_apart(self, days: int) -> None:
        sessions = week("weightlifting", days)
        assert sessions[0].load == sessions[-1].load == "high"
        assert "high" not in [s.load for s in sessions][1:-1]
        assert has(sessions[0], "back_squat")
        assert has(sessions[-1], "front_squat")
        assert not has(sessions[0], "front_squat")

    @pytest.mark.parametrize("days", [3, 4, 5])
    def test_the_other_school_squats_in_front_first(self, days: int) -> None:
        usual, sessions = week("weightlifting", days), week("weightlifting_front_first", days)
        assert has(sessions[0], "front_squat")
        assert has(sessions[-1], "back_squat")
        assert not has(sessions[0], "back_squat")

        def others(found: tuple[PlannedSession, ...]) -> list[list[str]]:
            return [[x.exercise_id for x in s.lines if "squat" not in x.exercise_id] for s in found]

        assert others(sessions) == others(usual), "nothing else differs"

    def test_clean_and_jerk_are_one_slot_unless_standing_up_is_the_fault(self) -> None:
        whole = week("weightlifting", 4)[1]
        assert [x.exercise_id for x in whole.lines if x.slot.startswith("A")] == ["clean_and_jerk"]
        split = week("weightlifting", 4, wishes=wishes(Known(faults=(LiftFault("clean", "chest_drops"),))))[1]
        roles = [set(exercise(x.exercise_id).roles) for x in split.lines if x.slot.startswith("A")]
        assert len(roles) == 2
        assert "clean_variation" in roles[0]
        assert "jerk_variation" in roles[1]
        other = week("weightlifting", 4, wishes=wishes(Known(faults=(LiftFault("clean", "arms_bend_early"),))))[1]
        assert len([x for x in other.lines if x.slot.startswith("A")]) == 1

    def test_the_weak_point_is_a_variation_of_the_lift_that_lags_with_its_figure(self) -> None:
        words = "snatch at 72 % of the clean and jerk"
        line = next(x for x in week("weightlifting", 4, weakest="snatch", weakest_words=words)[2].lines if x.slot == "A1")
        assert "snatch_variation" in exercise(line.exercise_id).roles
        assert words in line.reason
        jerk = next(x for x in week("weightlifting", 4, weakest="jerk_from_rack")[2].lines if x.slot == "A1")
        assert exercise(jerk.exercise_id).family in ("jerk", "clean_and_jerk") or "jerk" in jerk.exercise_id
        squat = next(x for x in week("weightlifting", 4, weakest="front_squat")[2].lines if x.slot == "A1")
        assert squat.exercise_id == "front_squat"

    def test_a_fault_of_the_jerk_counts_like_any_other(self) -> None:
        sessions = week("weightlifting", 4, wishes=wishes(Known(faults=(LiftFault("clean_and_jerk", "dips_forward"),))))
        met = [x for s in sessions for x in s.lines if "dips_forward" in exercise(x.exercise_id).faults]
        assert len(met) >= 2

    def test_squats_rise_inside_the_session(self) -> None:
        for line in lines_of(week("weightlifting", 4), "back_squat", "front_squat"):
            load = line.prescription.groups[0].load
            assert isinstance(load, Percent)
            assert list(load.percents) == sorted(set(load.percents))


class TestDailyLifts:
    def test_squat_days_are_no_neighbours_and_the_front_squat_has_no_clean_beside_it(self) -> None:
        sessions = week("daily_lifts", 5)
        squats = [i for i, s in enumerate(sessions) if has(s, "back_squat", "front_squat")]
        assert len(squats) == 2
        assert squats[1] - squats[0] > 1
        front = next(s for s in sessions if has(s, "front_squat"))
        assert not has(front, "clean_and_jerk", "clean_variation")

    def test_each_lift_has_its_own_rhythm(self) -> None:
        themes = " ".join(s.theme for s in week("daily_lifts", 5))
        assert all(w in themes for w in ("Snatch heavy", "Snatch technical", "Snatch self-regulated"))
        self_regulated = next(x for s in week("daily_lifts", 5) for x in s.lines if "up today if it moves well" in x.reason)
        assert self_regulated.exercise_id == "snatch"


class TestConcurrent:
    def test_max_effort_goes_up_to_a_top_set_with_its_way_up(self) -> None:
        for s in week("concurrent", 4):
            for line in [x for x in s.lines if "max effort" in x.block]:
                *way, top = line.prescription.groups
                assert top.sets == 1
                assert top.load is not None
                assert top.load.builds_to_limit
                assert 1 <= (top.reps or 0) <= 5
                shares = way[0].load
                assert isinstance(shares, Percent)
                assert list(shares.percents) == sorted(shares.percents)

    def test_every_day_starts_fast_and_the_kind_changes_weekly(self) -> None:
        now, then = week("concurrent", 4, FULL), week("concurrent", 4, FULL + 1)
        for s in now:
            assert exercise(s.lines[0].exercise_id).kind in ("jump", "throw") or "plyo" in s.lines[0].exercise_id
        lower = [s.lines[0].exercise_id for s in now if s.theme.startswith("Lower")]
        after = [s.lines[0].exercise_id for s in then if s.theme.startswith("Lower")]
        assert all(a != b for a, b in zip(lower, after, strict=True))

    def test_no_combination_comes_twice_in_a_year(self) -> None:
        start = date(2026, 10, 5)
        year = plan_year(SeasonFacts(start, (Target("Day", start + timedelta(weeks=50, days=5)),), arrangement("concurrent")))
        seen: dict[str, list[tuple[str, str]]] = {}
        for w in year.weeks:
            given = WeekFacts(year, w, PRACTICES, Limits(), 4, Level.ADVANCED)
            for s in arranged_week("concurrent", given):
                for x in s.lines:
                    if x.block == "A · max effort":
                        seen.setdefault(s.theme, []).append((x.exercise_id, x.note))
        for theme, rows in seen.items():
            assert len(rows) > 40
            assert len(set(rows)) == len(rows), f"{theme}: {len(rows) - len(set(rows))} come twice"

    def test_without_bands_and_chains_none_is_hung_on_the_bar(self) -> None:
        bare = replace(FURNISHED, gear=FURNISHED.gear - {"bands", "chains"})
        notes = [x.note for i in range(12) for s in week("concurrent", 4, i, kit=bare) for x in s.lines]
        assert not any("bands" in n or "chains" in n for n in notes)

    def test_dynamic_work_is_light_on_the_bar_and_many_short_sets(self) -> None:
        for s in week("concurrent", 4):
            for x in [x for x in s.lines if x.block == "A · speed"]:
                group = x.prescription.groups[0]
                bar = group.load.share_of_bar if group.load is not None else None
                assert bar is not None
                assert 0.30 <= bar <= 0.40
                assert 8 <= group.sets <= 10
                assert group.reps in (2, 3)

    def test_more_repetitions_where_less_was_strained(self) -> None:
        for s in week("concurrent", 4):
            small = [x.prescription.groups[0].reps for x in s.lines if x.block.startswith("C") and x.prescription.groups[0].reps]
            assert all(r <= 8 for r in small) if "max effort" in s.theme else all(r >= 10 for r in small)

    def test_the_heavy_press_is_horizontal(self) -> None:
        for i in range(len(SEASON.weeks)):
            for s in week("concurrent", 4, i):
                for x in [x for x in s.lines if x.block == "A · max effort" and exercise(x.exercise_id).pattern == "press"]:
                    assert "press_overhead" not in exercise(x.exercise_id).roles


FIVE, TOPS = facts(FULL, 4, Level.ADVANCED).week, [80.0, 83.5, 87.5, 90.0, 80.0]


class TestPercentLift:
    def test_each_main_lift_rises_to_the_top_set_of_the_week(self) -> None:
        given = facts(FULL, 5, Level.ADVANCED)
        for s in arranged_week("percent_lift", given):
            (main,) = [x for x in s.lines if x.is_main]
            load = main.prescription.groups[0].load
            assert isinstance(load, Percent)
            assert load.percents[-1] == given.week.intensity_pct
            assert [b - a for a, b in pairwise(load.percents)] == [RISE_PCT] * (len(load.percents) - 1)

    def test_upper_and_lower_in_turn_with_one_power_lift(self) -> None:
        mains = [next(x for x in s.lines if x.is_main) for s in week("percent_lift", 5)]
        upper = [exercise(x.exercise_id).region == "upper" for x in mains]
        assert upper == [False, True, False, True, False]
        power = [x for x in mains if exercise(x.exercise_id).kind == "classic"]
        assert len(power) == 1
        assert all((g.reps or 0) <= 3 for g in power[0].prescription.groups)

    def test_five_weeks_of_it(self) -> None:
        """Common practice: a clear set in the low eighties, up, a triple in the high eighties, one about 90, then half the sets.

        The season's own five weeks give the tops; an accessory grows by a repetition a week against last week's, then halves.
        """
        given = [
            replace(FIVE, week_of_phase=n, index=n - 1, intensity_pct=top, is_easy=n == 5, volume=0.5 if n == 5 else 1.0)
            for n, top in enumerate(TOPS, 1)
        ]
        weeks = [arranged_week("percent_lift", replace(facts(FULL, 4, Level.ADVANCED), week=w)) for w in given]
        squats = [next(x.prescription for x in w[0].lines if x.is_main) for w in weeks]
        assert [p.groups[0].load.percents[-1] for p in squats if isinstance(p.groups[0].load, Percent)] == TOPS
        assert [p.groups[-1].reps for p in squats[2:4]] == [3, 3]
        assert squats[4].total_sets <= -(-squats[3].total_sets // 2)
        pairs = [next(x for x in w[0].lines if x.slot == "B1") for w in weeks]
        assert len({x.exercise_id for x in pairs}) == 1
        assert [x.prescription.groups[0].reps for x in pairs] == [8, 9, 10, 11, 8]
        assert ["beat last week" in write(x.prescription) for x in pairs] == [False, True, True, True, False]

    @pytest.mark.parametrize(("top", "reps"), [(84.5, 3), (85.0, 3), (90.0, 3), (90.5, 2)])
    def test_a_triple_from_the_high_eighties_to_ninety(self, top: float, reps: int) -> None:
        given = replace(facts(FULL, 4, Level.ADVANCED), week=replace(FIVE, intensity_pct=top))
        squat = next(x.prescription for x in arranged_week("percent_lift", given)[0].lines if x.is_main)
        assert squat.groups[-1].reps == reps

    def test_an_accessory_stops_growing_after_three_weeks(self) -> None:
        given = replace(facts(FULL, 4, Level.ADVANCED), week=replace(FIVE, week_of_phase=8))
        pair = next(x for x in arranged_week("percent_lift", given)[0].lines if x.slot == "B1")
        assert pair.prescription.groups[0].reps == 11

    def test_the_finisher_keeps_its_result(self) -> None:
        finishers = [s.lines[-1].prescription.scored_by for s in week("percent_lift", 4)]
        assert finishers == ["rounds"] * 4


class TestHighAndLow:
    def test_three_high_days_have_a_theme_each_and_a_low_day_between(self) -> None:
        sessions = week("high_low_three", 5)
        assert [s.load for s in sessions] == ["high", "low", "high", "low", "high"]
        assert len({s.theme for s in sessions if s.load == "high"}) == 3
        assert [s.key for s in sessions if has(s, "max_velocity") and any(x.is_main for x in has(s, "max_velocity"))] == ["E"]

    @pytest.mark.parametrize(("key", "days"), [("high_low", 4), ("high_low", 5), ("high_low_three", 5)])
    def test_jumps_throws_and_classic_lifts_live_on_high_days(self, key: str, days: int) -> None:
        sessions = week(key, days)
        assert lines_of(sessions, "throw_whole")
        for s in sessions:
            explosive = [
                x
                for x in s.lines
                if exercise(x.exercise_id).kind in ("jump", "throw", "classic") and x.role is not BlockRole.PREPARE
            ]
            assert not explosive or s.load == "high"

    @pytest.mark.parametrize(("mass_kg", "drags"), [(102.0, True), (100.0, True), (99.5, False), (None, False)])
    def test_body_mass_decides_the_work_of_low_days(self, mass_kg: float | None, drags: bool) -> None:
        sessions = week("high_low", 5, body_mass_kg=mass_kg)
        low = [x for s in sessions if s.load == "low" for x in s.lines if x.block == "A · easy running or drags"]
        assert low
        assert all(("drag" in exercise(x.exercise_id).roles) is drags for x in low)


class TestCombat:
    def test_no_squat_stands_on_the_day_of_pull_and_single_leg(self) -> None:
        _, b = week("two_days", 2)
        assert not [x for x in b.lines if exercise(x.exercise_id).pattern == "squat"]

    def test_the_pull_goes_from_a_row_to_a_row_against_bands_to_a_fast_band_row(self) -> None:
        phases = ("base", "strength_speed", "speed_strength")
        rows = []
        for phase in phases:
            index = next(w.index for w in SEASON.weeks if w.phase == phase and not w.is_light)
            rows.append(next(x.exercise_id for x in week("two_days", 2, index)[1].lines if x.slot == "A1"))
        assert rows == ["prone_row", "banded_row", "band_row_fast"]

    def test_a_shoulder_that_asks_for_it_presses_at_an_angle_in_every_phase(self) -> None:
        known = wishes(Known(faults=(LiftFault("bench_press", "shoulder_range"),)))
        for index in (FULL, LATE):
            line = next(x for x in week("two_days", 2, index, wishes=known)[0].lines if x.slot == "A2")
            assert "landmine" in line.exercise_id
            assert "shoulder" in line.reason
        assert next(x for x in week("two_days", 2)[0].lines if x.slot == "A2").exercise_id == "bench_press"

    def test_where_no_bench_is_another_chain_is_pressed_and_said(self) -> None:
        kit = replace(FURNISHED, gear=FURNISHED.gear - {"bench"})
        line = next(x for x in week("two_days", 2, kit=kit)[0].lines if x.slot == "A2")
        assert line.exercise_id == "landmine_press"
        assert "with what is here" in line.reason

    @pytest.mark.parametrize(("sport", "text"), [("wrestling", "2 × 3 min, rest 0:30"), ("handball", "6 × 30 s, rest 0:30")])
    def test_left_over_time_goes_by_the_rounds_of_the_sport(self, sport: str, text: str) -> None:
        (line,) = [x for x in week("two_days", 2, sport=sport)[1].lines if x.block.startswith("D")]
        group = line.prescription.groups[0]
        wanted = parse(text).groups[0]
        assert (group.seconds, line.prescription.rest_s) == (wanted.seconds, parse(text).rest_s)
        assert ("bout" in line.reason) is (sport == "wrestling")

    def test_throws_and_landings_stand_in_the_warm_up_from_week_one(self) -> None:
        a, b = week("two_days", 2, 0)
        assert has(a, "landing")
        assert has(a, "throw_whole")
        assert has(b, "grip")


class TestTeamStrength:
    @pytest.mark.parametrize("days", [2, 3, 4])
    def test_pairs_are_lowered_slowly_and_every_day_holds_leg_press_pull_and_trunk(self, days: int) -> None:
        for s in week("team_strength", days):
            bilateral = next(x for x in s.lines if x.slot == "B1")
            assert bilateral.prescription.tempo == "3-0-X-0"
            assert not exercise(bilateral.exercise_id).per_side
            assert has(s, "single_leg")
            assert has(s, "adductor")
            assert has(s, "trunk_still")
            assert has(s, "row", "pull_vertical")

    def test_one_day_is_heavy_and_it_rises(self) -> None:
        sessions = week("team_strength", 3)
        heavy = [x for s in sessions for x in s.lines if x.slot == "B1" and x.exercise_id == "back_squat"]
        assert len(heavy) == 1
        load = heavy[0].prescription.groups[0].load
        assert isinstance(load, Percent)
        assert load.percents[0] < load.percents[-1]

    def test_a_percentage_only_where_the_max_is_known(self) -> None:
        for s in week("team_strength", 4):
            for x in s.lines:
                if any(isinstance(g.load, Percent) for g in x.prescription.groups):
                    assert x.exercise_id in ("bench_press", "back_squat", "trap_bar_deadlift", "front_squat", "box_squat")


class TestBuilding:
    def test_sets_rise_to_the_share_that_is_written(self) -> None:
        assert write(built(parse("4 × 3 @ 85 %"), Build.RISES)) == "4 × 3 @ 70/75/80/85 %"
        assert rising(85, 1) == (85,)
        assert rising(70, 5) == (55, 55, 60, 65, 70)  # what is lighter is warm-up
        assert rising(50, 3) == (50, 50, 50)

    @pytest.mark.parametrize(("text", "expected"), [
        ("4 × 1 @ top RPE 9", "3 × 1 @ 73.5/82.5/90 % then 1 × 1 @ top RPE 9"),
        ("2 × 5 @ top RPE 9", "1 × 5 @ 80 % then 1 × 5 @ top RPE 9"),
        ("1 × 3 @ top RPE 9", "1 × 3 @ top RPE 9"),
        ("6 × 3 @ top RPE 9", "3 × 3 @ 69/77.5/84.5 % then 3 × 3 @ top RPE 9"),
    ])  # fmt: skip
    def test_a_top_set_has_its_way_up(self, text: str, expected: str) -> None:
        assert write(built(parse(text), Build.TOP)) == expected

    @pytest.mark.parametrize("text", ["4 × 3 @ 70/75/80/85 %", "3 × 8, 2 in reserve", "2 × 3 @ 80 % then 1 × 1 @ 90 %"])
    def test_what_says_its_sets_itself_is_left_as_it_is(self, text: str) -> None:
        for build in Build:
            assert built(parse(text), build) == parse(text)


class TestTheHour:
    def session(self) -> PlannedSession:
        return week("concurrent", 4)[1]

    def test_what_does_not_fit_is_cut_from_the_bottom_and_named(self) -> None:
        whole = self.session()
        minutes = int(minutes_of(whole.lines)) - 3
        cut = within(whole, minutes)
        assert minutes_of(cut.lines) <= minutes
        assert cut.lines == whole.lines[: len(cut.lines)]
        gone = [exercise(x.exercise_id).name for x in whole.lines[len(cut.lines) :]]
        assert cut.left_out[-1] == f"{', '.join(gone)} (does not fit into {minutes} min)"

    def test_fast_and_main_work_stays_however_short_the_hour(self) -> None:
        whole = self.session()
        kept = within(whole, 5)
        assert [x.exercise_id for x in kept.lines] == [x.exercise_id for x in whole.lines if x.role is not BlockRole.SMALL]

    def test_what_is_there_for_the_athlete_goes_last(self) -> None:
        whole = self.session()
        small = [x for x in whole.lines if x.role is BlockRole.SMALL]
        marked = tuple(replace(x, wish="fault") if x is small[-1] else x for x in whole.lines)
        cut = within(replace(whole, lines=marked), int(minutes_of(whole.lines)) - 3)
        assert small[-1].exercise_id in {x.exercise_id for x in cut.lines}

    def test_enough_time_changes_nothing(self) -> None:
        whole = self.session()
        assert within(whole, None) is whole
        assert within(whole, 240) is whole


class TestFewerDaysThanSessions:
    """Days away join sessions where the model knows a smaller week; the last one is not simply lost."""

    def closed(self, *days_off: int) -> tuple[PlannedSession, ...]:
        given = facts(FULL, 4, Level.ADVANCED)
        off = tuple(given.week.start + timedelta(days=d) for d in days_off)
        return arranged_week("weightlifting", replace(given, week=replace(given.week, closed=off)))

    def test_three_days_hold_what_four_would(self) -> None:
        sessions = self.closed(0, 2, 4, 6)
        assert len(sessions) == 3
        assert "weak point" in sessions[1].theme, "days two and three are one"
        assert "4 sessions are joined into 3" in sessions[0].day_reason
        assert lines_of(sessions, "front_squat")
        assert lines_of(sessions, "classic_pull")

    def test_four_days_keep_four_sessions(self) -> None:
        sessions = self.closed(0, 2, 6)
        assert len(sessions) == 4
        assert not any("joined" in s.day_reason for s in sessions)

    def test_two_days_are_fewer_than_the_model_knows(self) -> None:
        sessions = self.closed(0, 2, 3, 4, 6)
        assert len(sessions) == 2
        assert not any("joined" in s.day_reason for s in sessions)

    def test_the_dose_stays_that_of_the_full_week(self) -> None:
        given = facts(FULL, 4, Level.ADVANCED)
        off = tuple(given.week.start + timedelta(days=d) for d in (0, 2, 4, 6))
        joined = spend_week("weightlifting", replace(given, week=replace(given.week, closed=off)))
        assert joined.full_sets == spend_week("weightlifting", given).full_sets
        assert joined.layout.full_days == 4
